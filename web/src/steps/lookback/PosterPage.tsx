/** The season as a poster: one page to print, or one picture to send. */
import { useRef, type Ref } from 'react'
import { Link } from 'react-router'
import type { Day } from '../../api/client'
import { shortDate } from '../../format/clock'
import { format } from '../../format/units'
import { useDays } from '../../queries/hooks'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Trouble, Waiting } from '../../ui/Notice'
import { PictureButton } from '../../ui/PictureButton'
import { SmallColumn, takes } from './SmallColumn'

/** What one sheet holds. */
const MOST = 48

export function PosterPage() {
  const days = useDays()
  const sheet = useRef<HTMLElement>(null)
  if (days.isError) return <Trouble error={days.error} />
  if (!days.data) return <Waiting what="Unrolling the poster…" />
  const items = days.data.items.slice(0, MOST).reverse()
  return (
    <div className="mx-auto max-w-[860px] px-4 py-4">
      <div className="screen-only mb-3 flex flex-wrap items-center gap-3">
        <Button look="hot" onClick={() => window.print()}>
          Print, or save as PDF
        </Button>
        {items.length > 0 && <PictureButton of={sheet} name="season" />}
        <Link to="/log" className="underline underline-offset-4">
          Back to the log
        </Link>
      </div>
      {items.length === 0 ? (
        <p>No days yet: a poster needs at least one.</p>
      ) : (
        <Poster ref={sheet} days={items} />
      )}
    </div>
  )
}

function Poster({ ref, days }: { ref: Ref<HTMLElement>; days: readonly Day[] }) {
  const units = useUnits()
  const deepest = Math.max(...days.map((day) => day.conditions.bottom_depth_m))
  const sum = (of: (day: Day) => number) => days.reduce((total, day) => total + of(day), 0)
  const depths = days.flatMap((day) => day.take_depths.map((take) => (take.low_m + take.high_m) / 2))
  const middle = [...depths].sort((a, b) => a - b)[Math.floor(depths.length / 2)]
  const waters = [...new Set(days.map((day) => day.water_name))]
  return (
    <article
      ref={ref}
      aria-label="Poster of the season"
      className="day-card border-2 border-ink bg-sheet p-6"
    >
      <h1 className="plate text-5xl leading-none font-extrabold">
        {days.length} {days.length === 1 ? 'day' : 'days'}, {sum((day) => day.counts.landed ?? 0)} trout
      </h1>
      <p className="mt-2 text-lg">{waters.join(' · ')}</p>
      <p className="text-soft">
        {shortDate(days[0]?.conditions.at_local ?? '')} to {shortDate(days.at(-1)?.conditions.at_local ?? '')}{' '}
        · {sum((day) => day.counts.cast ?? 0)} casts · {sum(takes)} takes
        {middle !== undefined && `, half of them above ${format('depth', middle, units)}`}
      </p>
      <ol className="mt-5 flex flex-wrap gap-x-2.5 gap-y-4">
        {days.map((day) => (
          <li key={day.id} className="w-[76px] text-[0.8125rem] leading-tight">
            <SmallColumn day={day} deepest={deepest} />
            <span className="block font-semibold">{shortDate(day.conditions.at_local)}</span>
            <span className="block text-soft">
              {day.counts.landed ?? 0} of {takes(day)}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-4 text-sm text-soft">
        Each column a day: its depth, the temperature read, a ring for every take; below it landed of taken.
      </p>
    </article>
  )
}
