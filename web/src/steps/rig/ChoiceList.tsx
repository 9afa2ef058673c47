/** The best of each line: a bar of water with the depths it works, and what it earns. */
import type { Choice, Plan } from '../../api/client'
import { range } from '../../format/units'
import type { Chosen } from '../../state/outing'
import { useUnits } from '../../state/person'

export interface ChoiceListProps {
  plan: Plan
  chosen: Chosen | null
  onChoose(choice: Choice): void
}

export function ChoiceList({ plan, chosen, onChoose }: ChoiceListProps) {
  const units = useUnits()
  const best = plan.choices[0]?.score ?? 1
  return (
    <section aria-labelledby="of-each-line" className="min-w-0">
      <h2 id="of-each-line" className="eyebrow flex justify-between border-b-2 border-ink pb-0.5">
        <span>The best of each line</span>
        <span>worth</span>
      </h2>
      <ul>
        {plan.choices.map((choice) => {
          const on = chosen?.line.name === choice.line.name
          return (
            <li key={choice.line.name} className="border-b border-rule">
              <button
                type="button"
                aria-pressed={on}
                onClick={() => onChoose(choice)}
                className="grid w-full grid-cols-[auto_1fr_auto] items-center gap-3 py-[2px] pr-1 text-left hover:bg-sheet aria-pressed:bg-sheet aria-pressed:shadow-[inset_4px_0_0_var(--hot)] aria-pressed:pl-2.5"
              >
                <WorksAt choice={choice} plan={plan} />
                <span className="min-w-0">
                  <span className="block truncate leading-tight font-semibold">
                    {choice.line.name}, count {choice.count_s}
                  </span>
                  <span className="block truncate text-sm leading-tight text-soft">
                    {choice.retrieve_name.toLowerCase()} · works{' '}
                    {range('depth', choice.low_m, choice.high_m, units)}
                  </span>
                </span>
                <span className="plate text-lg font-bold">{Math.round((100 * choice.score) / best)}</span>
              </button>
            </li>
          )
        })}
      </ul>
    </section>
  )
}

function WorksAt({ choice, plan }: { choice: Choice; plan: Plan }) {
  const bottom = plan.picture.deepest_m
  const y = (depthM: number) => 1 + (27 * Math.min(depthM, bottom)) / bottom
  return (
    <svg width="26" height="29" aria-hidden="true">
      <rect x="0.5" y="1" width="25" height="27" fill="var(--water-light)" stroke="var(--ink)" />
      {plan.picture.belief.bands.map((band) => (
        <rect
          key={band.top_m}
          x="15"
          y={y(band.top_m)}
          width="10"
          height={y(band.bottom_m) - y(band.top_m)}
          fill="var(--fish)"
        />
      ))}
      <rect
        x="2"
        y={y(choice.low_m)}
        width="12"
        height={Math.max(y(choice.high_m) - y(choice.low_m), 2)}
        fill="var(--hot)"
      />
    </svg>
  )
}
