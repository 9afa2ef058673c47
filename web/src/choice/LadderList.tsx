/** What to change when nothing comes, in order, with the minutes each is given. */
import type { Schemas } from '../api/client'
import { words } from '../format/units'
import { useUnits } from '../state/person'

export function LadderList({ rungs }: { rungs: readonly Schemas['RungOut'][] }) {
  const units = useUnits()
  return (
    <section aria-label="When nothing comes" className="mt-2">
      <h2 className="eyebrow border-b-2 border-ink">When nothing comes</h2>
      <ol>
        {rungs.map((rung, i) => (
          <li key={i} className="grid grid-cols-[3.4rem_1fr] gap-x-2 border-b border-rule py-0.5 text-sm">
            <span className="font-semibold">{Math.round(rung.minutes)} min</span>
            <span>{words(rung.words, units)}</span>
          </li>
        ))}
      </ol>
    </section>
  )
}
