/** One way to fish, said in full: what line, how deep, which flies where, why, and what it may bring. */
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { Ranked } from '../../api/client'
import { handling, headline, takes } from '../../choice/sayings'
import { range, words } from '../../format/units'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'

interface TheChoiceProps {
  one: Ranked
  /** How it stands among the others, such as "Best now". */
  standing: string
  /** It is still the last question's. */
  old: boolean
  settled: boolean
  onFish(): void
  /** By what the angler has the log multiply promised takes, if he does. */
  correction: number | null
  /** Back to what the plan said, where it was changed. */
  onBack: (() => void) | null
  children?: ReactNode
}

export function TheChoice({
  one,
  standing,
  old,
  settled,
  correction,
  onFish,
  onBack,
  children,
}: TheChoiceProps) {
  const units = useUnits()
  return (
    <section aria-label="The choice" aria-live="polite" aria-busy={old} className={old ? 'opacity-60' : ''}>
      <p className="eyebrow">
        {standing} · {one.method.name}
        {onBack && (
          <button type="button" className="ml-2 text-ink underline underline-offset-4" onClick={onBack}>
            Back to the plan’s
          </button>
        )}
      </p>
      <h1 className="plate text-[1.75rem] leading-[1.05] font-bold">{headline(one, units)}</h1>
      <p className="text-lg leading-snug font-semibold">{handling(one.action, units)}</p>
      <ul aria-label="Flies" className="mt-1">
        {one.seats.map((seat) => (
          <li
            key={seat.place}
            className="grid grid-cols-[3.6rem_minmax(0,1fr)_auto] items-baseline gap-x-2 border-t border-rule text-[0.9375rem]"
          >
            <span className="text-soft">{seat.place.replace(' dropper', '')}</span>
            <strong
              className={
                seat.place === 'point' ? 'text-lg leading-tight [overflow-wrap:anywhere]' : 'truncate'
              }
            >
              {seat.fly_name}
            </strong>
            <span>{range('depth', seat.low_m, seat.high_m, units)}</span>
          </li>
        ))}
      </ul>
      <div className="mt-1.5 flex items-center gap-4">
        <Button look="hot" size="large" className="whitespace-nowrap" disabled={!settled} onClick={onFish}>
          Fish this
        </Button>
        <p className="text-sm leading-tight text-soft">
          <strong className="text-base text-ink">{takes(one)} takes</strong> an hour, eight days in ten
          {correction !== null && `, times ${correction.toFixed(2)} by your log`}
          <br />
          {Math.round(one.minutes_in_band)} min of each hour in the band
          {' · '}
          <Link to={`/card/${one.method.key}`} className="text-ink underline underline-offset-4">
            day card
          </Link>
        </p>
      </div>
      <p className="mt-1 text-sm leading-tight">
        <strong>Weak point:</strong> {words(one.weak_point, units)}
      </p>
      <details className="text-sm leading-tight">
        <summary className="min-h-7 cursor-pointer font-semibold">Why this, and what else to know</summary>
        <ul className="mb-1 list-disc pl-5">
          {one.reasons.map((reason) => (
            <li key={reason.text}>{words(reason, units)}</li>
          ))}
        </ul>
      </details>
      {children}
    </section>
  )
}
