/** What was put right of a day afterwards, with what stood there before. */
import type { Schemas } from '../../api/client'
import { timeAt, dateAt, shortDate } from '../../format/clock'
import { KIND_WORDS } from '../../format/kinds'
import { format, type Units } from '../../format/units'
import { api, thrown } from '../../queries/api'
import { useUnits } from '../../state/person'

const NAMES: Record<string, string> = {
  kind: 'what it was',
  at: 'time',
  species: 'kind of fish',
  length_m: 'length',
  weight_kg: 'weight',
  kept: 'kept',
  notes: 'notes',
  conditions: 'what was read',
  played_s: 'time played',
}

export function History({ dayId, timeZone }: { dayId: string; timeZone: string }) {
  const units = useUnits()
  const changes = thrown(
    api.useQuery(
      'get',
      '/api/days/{day_id}/changes',
      { params: { path: { day_id: dayId } } },
      { retry: false },
    ),
  )
  const items = changes.data?.items ?? []
  if (items.length === 0) return null
  return (
    <details className="mt-3 text-sm">
      <summary className="flex min-h-11 cursor-pointer items-center font-semibold">
        Put right since, {changes.data?.count} {changes.data?.count === 1 ? 'time' : 'times'}
      </summary>
      <ul>
        {items.map((one) => (
          <li key={one.id} className="border-t border-rule py-1">
            <span className="text-soft">
              {shortDate(dateAt(timeZone, new Date(one.at)))}, {timeAt(timeZone, one.at)}:
            </span>{' '}
            {Object.keys(one.after).map((name) => (
              <span key={name} className="block">
                {NAMES[name] ?? name}: <s>{said(name, one.before[name], units)}</s>{' '}
                {said(name, one.after[name], units)}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </details>
  )
}

function said(name: string, value: unknown, units: Units): string {
  if (value === null || value === undefined || value === '') return 'nothing'
  if (name === 'kind') return KIND_WORDS[value as Schemas['EntryOut']['kind']]
  if (name === 'length_m') return format('fishLength', Number(value), units)
  if (name === 'weight_kg') return format('mass', Number(value), units)
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  return typeof value === 'string' || typeof value === 'number' ? String(value) : 'as it was read'
}
