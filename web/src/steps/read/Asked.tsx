/** Inputs that may be left empty: each then says what is assumed in its place, and what reading it would be worth. */
import type { ReactNode } from 'react'
import type { Conditions, Picture } from '../../api/client'
import { format, range, type Quantity, type Units } from '../../format/units'
import { useOuting } from '../../state/outing'
import { useUnits } from '../../state/person'
import type { Assumed } from '../../state/readings'
import { QuantityField } from '../../ui/Field'

/** What is not worth saying: a hand's breadth of water. */
const LEAST_M = 0.05

interface AskedProps {
  name: Assumed
  read: Conditions
  picture: Picture | undefined
}

type Unread = Picture['unread'][number]

function unreadOf({ name, read, picture }: AskedProps): Unread | 'asked' | null {
  if (!read.assumed.includes(name)) return null
  return picture?.unread.find((each) => each.name === name) ?? 'asked'
}

function worth({ narrows_m }: Unread, units: Units): string {
  return narrows_m < LEAST_M ? '' : ` Reading it narrows the search by ${format('depth', narrows_m, units)}.`
}

interface AskedQuantityProps extends AskedProps {
  label: string
  quantity: Quantity
  value: number
  least: number
  most: number
  error?: string | undefined
  onValueChange(si: number): void
  className?: string
}

export function AskedQuantity({ name, read, picture, value, ...rest }: AskedQuantityProps) {
  const units = useUnits()
  const { observe } = useOuting()
  const unread = unreadOf({ name, read, picture })
  const hint =
    unread === null || unread === 'asked'
      ? ''
      : `Not read: ${range(rest.quantity, unread.low, unread.high, units)} likely.${worth(unread, units)}`
  return (
    <QuantityField
      {...rest}
      value={unread === null ? value : null}
      {...(unread && unread !== 'asked' && { guess: unread.value })}
      {...(hint && { hint })}
      onClear={() => observe({ assumed: [...read.assumed, name] })}
    />
  )
}

interface AskedChoiceProps extends AskedProps {
  /** What is assumed, in a word. */
  said(value: number): string
  /** The choice itself, knowing whether it was made. */
  children(made: boolean): ReactNode
  className?: string
}

export function AskedChoice({ name, read, picture, said, children, className = '' }: AskedChoiceProps) {
  const units = useUnits()
  const unread = unreadOf({ name, read, picture })
  return (
    <div className={className}>
      {children(unread === null)}
      {unread && unread !== 'asked' && (
        <p className="mt-0.5 text-sm text-soft">
          Not read: {said(unread.value)} assumed.{worth(unread, units)}
        </p>
      )}
    </div>
  )
}
