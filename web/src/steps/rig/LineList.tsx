/** What each line of the box would give at its best, by the plan's own measure, with the method that suits it. */
import type { Schemas } from '../../api/client'

export interface LineListProps {
  lines: readonly Schemas['OfLineOut'][]
  chosenName: string | null
  onChoose(name: string): void
}

export function LineList({ lines, chosenName, onChoose }: LineListProps) {
  const best = lines[0]?.takes_ph ?? 1
  return (
    <section aria-labelledby="of-each-line" className="min-w-0">
      <h2 id="of-each-line" className="eyebrow flex justify-between border-b-2 border-ink pb-0.5">
        <span>The best of each line</span>
        <span>takes an hour, about</span>
      </h2>
      <ul>
        {lines.map((one) => (
          <li key={one.name} className="border-b border-rule">
            <button
              type="button"
              aria-pressed={one.name === chosenName}
              onClick={() => onChoose(one.name)}
              className="grid min-h-9 w-full grid-cols-[1fr_auto] items-center gap-3 py-[2px] pr-1 text-left hover:bg-sheet aria-pressed:bg-sheet aria-pressed:pl-2.5 aria-pressed:shadow-[inset_4px_0_0_var(--hot)]"
            >
              <span className="min-w-0">
                <span className="block truncate leading-tight font-semibold">{one.name}</span>
                <span className="block truncate text-sm leading-tight text-soft">{one.method_name}</span>
              </span>
              <span className="text-right">
                <span className="plate block text-base leading-tight font-bold">
                  {one.takes_ph.toFixed(1)}
                </span>
                <span className="ml-auto block h-1.5 w-16 bg-rule" aria-hidden="true">
                  <span
                    className="block h-full bg-ink"
                    style={{ width: `${Math.round((100 * one.takes_ph) / best)}%` }}
                  />
                </span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
