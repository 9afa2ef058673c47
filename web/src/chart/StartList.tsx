/** Where to start: the marks in order, each with why. */
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { format, words } from '../format/units'
import { useUnits } from '../state/person'

interface StartListProps {
  starts: readonly Schemas['StartOut'][]
  chosenId: number | null
  onChoose(markId: number): void
}

const SHORT = 4

export function StartList({ starts, chosenId, onChoose }: StartListProps) {
  const units = useUnits()
  const [all, setAll] = useState(false)
  if (starts.length === 0)
    return <p className="text-soft">No marks yet. Choose a place on the map and keep it as a mark.</p>
  return (
    <>
      <ol>
        {(all ? starts : starts.slice(0, SHORT)).map((start, i) => (
          <li key={start.mark_id} className="border-b border-rule">
            <button
              type="button"
              aria-pressed={start.mark_id === chosenId}
              className={`grid min-h-11 w-full grid-cols-[1.6rem_1fr_auto] items-baseline gap-x-1 py-1 text-left ${start.mark_id === chosenId ? 'bg-care' : ''}`}
              onClick={() => onChoose(start.mark_id)}
            >
              <span className="plate text-lg font-bold">{i + 1}</span>
              <span className="font-semibold">{start.name}</span>
              <span className="text-sm text-soft">
                {[start.depth_m === null ? null : format('depth', start.depth_m, units), start.lies]
                  .filter(Boolean)
                  .join(', ')}
              </span>
              <span className="col-span-2 col-start-2 h-1.5 self-center bg-rule" aria-hidden="true">
                <span
                  className="block h-full bg-ink"
                  style={{ width: `${Math.round(100 * start.score)}%` }}
                />
              </span>
              {(i === 0 || start.mark_id === chosenId) && (
                <span className="col-span-2 col-start-2 text-sm leading-tight text-soft">
                  {start.reasons.map((why) => words(why, units)).join(' ')}
                </span>
              )}
            </button>
          </li>
        ))}
      </ol>
      {starts.length > SHORT && (
        <button
          type="button"
          aria-expanded={all}
          className="mt-1 min-h-8 text-sm underline underline-offset-4"
          onClick={() => setAll(!all)}
        >
          {all ? 'Only the best' : `All ${starts.length}`}
        </button>
      )}
    </>
  )
}
