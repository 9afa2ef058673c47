/** Which further trout swim in a water. */
import type { Schemas } from '../api/client'
import { useTrade } from '../queries/hooks'

interface StockedFieldsProps {
  draft: Pick<Schemas['WaterIn'], 'species' | 'stocked'>
  onChange(changes: Pick<Schemas['WaterIn'], 'stocked'>): void
}

export function StockedFields({ draft, onChange }: StockedFieldsProps) {
  const trade = useTrade()
  return (
    <fieldset>
      <legend className="eyebrow">Also there</legend>
      <div className="flex flex-wrap gap-x-4">
        {(trade.data?.species ?? [])
          .filter((s) => s.key !== draft.species)
          .map((s) => (
            <label key={s.key} className="flex min-h-9 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-(--ink)"
                checked={draft.stocked.includes(s.key)}
                onChange={(event) =>
                  onChange({
                    stocked: event.target.checked
                      ? [...draft.stocked, s.key]
                      : draft.stocked.filter((key) => key !== s.key),
                  })
                }
              />
              {s.name}
            </label>
          ))}
      </div>
    </fieldset>
  )
}
