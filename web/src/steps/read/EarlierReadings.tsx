/** The readings of one day, one line a lowering: the newest counts, the older ones stay in sight. */
import { timeOf } from '../../format/clock'
import { format } from '../../format/units'
import type { Outing } from '../../state/outing'
import { useUnits } from '../../state/person'

interface EarlierReadingsProps {
  outing: Outing
  onOutingChange(changes: Partial<Outing>): void
}

export function EarlierReadings({ outing, onOutingChange }: EarlierReadingsProps) {
  const units = useUnits()
  const readAt = outing.readAtLocal ?? outing.atLocal
  function readAgain() {
    onOutingChange({
      earlier: [
        ...outing.earlier,
        {
          at_local: readAt,
          readings: [{ depth_m: 0, water_c: outing.surfaceC, trusted: false }, ...outing.deeper],
        },
      ].slice(-12),
      readAtLocal: outing.atLocal,
      deeper: [],
      oxygen: [],
    })
  }
  return (
    <div className="text-sm">
      <p className="flex items-baseline justify-between gap-2">
        <span>
          Read at <strong>{timeOf(readAt)}</strong>
          {outing.earlier.length > 0 && ', which counts'}
        </span>
        <button type="button" className="min-h-8 border-b-2 border-ink font-semibold" onClick={readAgain}>
          Read again at {timeOf(outing.atLocal)}
        </button>
      </p>
      <ul aria-label="Earlier readings">
        {outing.earlier.map((lowering, i) => (
          <li key={i} className="flex items-baseline justify-between gap-2 text-soft">
            <span>
              {timeOf(lowering.at_local)} · {format('temperature', lowering.readings[0]?.water_c ?? 0, units)}{' '}
              at the top, {lowering.readings.length} in all
            </span>
            <button
              type="button"
              aria-label={`Remove the reading of ${timeOf(lowering.at_local)}`}
              className="min-h-8 underline underline-offset-4"
              onClick={() => onOutingChange({ earlier: outing.earlier.filter((_, k) => k !== i) })}
            >
              Remove
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}
