/** The readings of one day, one line a lowering: the newest counts, the older ones stay in sight. */
import { timeOf } from '../../format/clock'
import { format } from '../../format/units'
import type { Conditions } from '../../api/client'
import { deeperOf, surfaceOf } from '../../state/readings'
import { useUnits } from '../../state/person'

interface EarlierReadingsProps {
  conditions: Conditions
  onObserved(changes: Partial<Conditions>): void
}

export function EarlierReadings({ conditions, onObserved }: EarlierReadingsProps) {
  const units = useUnits()
  const readAt = conditions.read_at_local ?? conditions.at_local
  // What was not read then is no reading of that hour.
  const readings = conditions.assumed.includes('surface_c') ? deeperOf(conditions) : conditions.readings
  function readAgain() {
    if (readings.length === 0) return
    onObserved({
      earlier: [...conditions.earlier, { at_local: readAt, readings }].slice(-12),
      read_at_local: conditions.at_local,
      readings: [{ ...surfaceOf(conditions), trusted: false }],
      oxygen: [],
    })
  }
  return (
    <div className="text-sm">
      <p className="flex items-baseline justify-between gap-2">
        <span>
          Read at <strong>{timeOf(readAt)}</strong>
          {conditions.earlier.length > 0 && ', which counts'}
        </span>
        <button type="button" className="min-h-8 border-b-2 border-ink font-semibold" onClick={readAgain}>
          Read again at {timeOf(conditions.at_local)}
        </button>
      </p>
      <ul aria-label="Earlier readings">
        {conditions.earlier.map((lowering, i) => (
          <li key={i} className="flex items-baseline justify-between gap-2 text-soft">
            <span>
              {timeOf(lowering.at_local)} · {format('temperature', lowering.readings[0]?.water_c ?? 0, units)}{' '}
              at the top, {lowering.readings.length} in all
            </span>
            <button
              type="button"
              aria-label={`Remove the reading of ${timeOf(lowering.at_local)}`}
              className="min-h-8 underline underline-offset-4"
              onClick={() => onObserved({ earlier: conditions.earlier.filter((_, k) => k !== i) })}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
