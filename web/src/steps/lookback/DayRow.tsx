/** Days side by side, each a small Column. */
import { Link } from 'react-router'
import type { Day } from '../../api/client'
import { shortDate } from '../../format/clock'
import { useUnits } from '../../state/person'
import { SmallColumn, takes } from './SmallColumn'
import { dayWords } from './words'

export function DayRow({ days }: { days: readonly Day[] }) {
  const units = useUnits()
  const deepest = Math.max(1, ...days.map((day) => day.conditions.bottom_depth_m))
  return (
    <ol className="mt-2 flex flex-wrap gap-x-3 gap-y-6">
      {days.map((day) => (
        <li key={day.id}>
          <Link
            to={`/log/day/${day.id}`}
            className="block w-[92px] hover:bg-sheet"
            aria-label={dayWords(day, units)}
          >
            <SmallColumn day={day} deepest={deepest} />
            <span className="block leading-tight font-semibold">{shortDate(day.conditions.at_local)}</span>
            <span className="block truncate text-sm leading-tight text-soft">{day.water_name}</span>
            <span className="block text-sm leading-tight">
              {(day.counts.cast ?? 0) === 0 && day.counts.brought
                ? `${day.counts.brought} fish, another log`
                : `${day.counts.landed ?? 0} of ${takes(day)} takes`}
              {day.notes !== '' && <span className="text-soft"> · note</span>}
            </span>
          </Link>
        </li>
      ))}
    </ol>
  )
}
