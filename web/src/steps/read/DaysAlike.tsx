/** Days like this one: what they brought, and how far they count. */
import { Link } from 'react-router'
import type { Conditions } from '../../api/client'
import { shortDate } from '../../format/clock'
import { format } from '../../format/units'
import { useAlike } from '../../queries/lookback'
import { useUnits } from '../../state/person'

export function DaysAlike({ conditions, ask }: { conditions: Conditions; ask: boolean }) {
  const units = useUnits()
  const found = useAlike(conditions, ask)
  if (!found.data || found.data.days.length === 0) return null
  const { days, lean, counted } = found.data
  return (
    <section aria-label="Days like this one" className="mt-3 text-[0.9375rem]">
      <h2 className="eyebrow border-b border-ink pb-0.5">Days like this one</h2>
      {(!counted || !lean) && (
        <p className="py-0.5 leading-tight">
          {counted
            ? 'Too little came on them to move the advice.'
            : 'Your log is left out of the advice, as you chose.'}
        </p>
      )}
      <ul>
        {days.slice(0, 4).map((day) => (
          <li key={day.id} className="border-t border-rule">
            <Link
              to={`/log/day/${day.id}`}
              className="grid min-h-11 grid-cols-[5.2rem_1fr_auto] items-center gap-x-3 py-1 leading-tight hover:bg-sheet"
            >
              <strong>{shortDate(day.on)}</strong>
              <span className="min-w-0 text-sm">
                {day.worked
                  ? `${day.worked.takes} ${day.worked.takes === 1 ? 'take' : 'takes'} on ${day.worked.fly}, ${day.worked.line}`
                  : 'Nothing took'}
                <span className="block truncate text-soft">
                  {day.water_name}, {format('temperature', day.surface_c, units)},{' '}
                  {format('wind', day.wind_mps, units)} wind
                </span>
              </span>
              <span className="text-sm text-soft">{Math.round(100 * day.alike)} % alike</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  )
}
