/** Form fields: label above, unit inside, message below at the field at fault. */
import { useId, useState, type ReactNode } from 'react'
import { fromShown, number, scaleOf, toShown, type Quantity } from '../format/units'
import { useUnits } from '../state/person'

export interface FieldProps {
  label: string
  error?: string | undefined
  hint?: string
  children(ids: { id: string; describedBy: string | undefined; invalid: boolean }): ReactNode
  className?: string
}

export function Field({ label, error, hint, children, className = '' }: FieldProps) {
  const id = useId()
  const note = error ?? hint
  return (
    <div className={className}>
      <label htmlFor={id} className="eyebrow mb-0.5 block">
        {label}
      </label>
      {children({ id, describedBy: note ? `${id}-note` : undefined, invalid: error !== undefined })}
      {note && (
        <p
          id={`${id}-note`}
          role={error ? 'alert' : undefined}
          className={`mt-0.5 text-sm ${error ? 'font-semibold text-hot' : 'text-soft'}`}
        >
          {note}
        </p>
      )}
    </div>
  )
}

export const CONTROL =
  'h-11 w-full min-w-0 border-2 border-ink bg-sheet px-2.5 aria-invalid:border-hot aria-invalid:bg-care'

export interface QuantityFieldProps {
  label: string
  quantity: Quantity
  /** The value in SI, or null while there is none. */
  value: number | null
  /** What is taken meanwhile, shown faintly [SI]. */
  guess?: number
  /** Smallest and largest SI value taken; outside it the field says so and nothing changes. */
  least: number
  most: number
  error?: string | undefined
  hint?: string
  onValueChange(si: number): void
  /** The field was emptied; without it a number is needed. */
  onClear?(): void
  className?: string
}

/** A number in the person's own unit. Text that is no number, or out of range, is answered at once and kept for mending. */
export function QuantityField({
  label,
  quantity,
  value,
  guess,
  least,
  most,
  error,
  hint,
  onValueChange,
  onClear,
  className,
}: QuantityFieldProps) {
  const units = useUnits()
  const { label: unit, step } = scaleOf(quantity, units)
  const shown = (si: number) => String(Math.round(toShown(quantity, si, units) * 100) / 100)
  const [draft, setDraft] = useState<{ text: string; of: string } | null>(null)
  const key = `${value}|${unit}`
  const text = draft?.of === key ? draft.text : value === null ? '' : shown(value)
  const own = draft?.of === key ? problemWith(draft.text) : undefined

  function problemWith(typed: string): string | undefined {
    const said = Number(typed.trim().replace(',', '.'))
    if (typed.trim() === '' || Number.isNaN(said)) return 'Type a number.'
    const si = fromShown(quantity, said, units)
    if (si < least - 1e-9 || si > most + 1e-9) return `Between ${shown(least)} and ${shown(most)} ${unit}.`
    return undefined
  }
  function type(typed: string) {
    if (onClear && typed.trim() === '') {
      setDraft(null)
      if (value !== null) onClear()
      return
    }
    if (problemWith(typed)) {
      setDraft({ text: typed, of: key })
      return
    }
    const si = fromShown(quantity, Number(typed.trim().replace(',', '.')), units)
    setDraft({ text: typed, of: `${si}|${unit}` })
    onValueChange(si)
  }
  return (
    <Field label={label} error={own ?? error} className={className ?? ''} {...(hint && { hint })}>
      {({ id, describedBy, invalid }) => (
        <div className="relative">
          <input
            id={id}
            className={`${CONTROL} pr-11 font-semibold`}
            inputMode="decimal"
            autoComplete="off"
            value={text}
            placeholder={
              value === null && guess !== undefined ? `≈ ${number(quantity, guess, units)}` : undefined
            }
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            onChange={(event) => type(event.target.value)}
            onKeyDown={(event) => {
              const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
              if (!way || own) return
              event.preventDefault()
              const from = value ?? guess
              if (from === undefined) return
              type(String(Math.round((toShown(quantity, from, units) + way * step) * 100) / 100))
            }}
          />
          <span
            aria-hidden="true"
            className="pointer-events-none absolute inset-y-0 right-2.5 flex items-center text-sm text-soft"
          >
            {unit}
          </span>
        </div>
      )}
    </Field>
  )
}

export interface ChoiceFieldProps {
  label: string
  value: string
  options: readonly { value: string; text: string }[]
  error?: string | undefined
  onValueChange(value: string): void
  className?: string
}

export function ChoiceField({ label, value, options, error, onValueChange, className }: ChoiceFieldProps) {
  return (
    <Field label={label} error={error} className={className ?? ''}>
      {({ id, describedBy, invalid }) => (
        <select
          id={id}
          className={`${CONTROL} font-semibold`}
          value={value}
          aria-invalid={invalid || undefined}
          aria-describedby={describedBy}
          onChange={(event) => onValueChange(event.target.value)}
        >
          {options.map((option) => (
            <option key={option.value} value={option.value}>
              {option.text}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}
