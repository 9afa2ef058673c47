/** What to change when nothing comes, in order, with the minutes each is given. */
import type { Schemas } from '../api/client'
import { words } from '../format/units'
import { useUnits } from '../state/person'

interface LadderListProps {
  rungs: readonly Schemas['RungOut'][]
  /** Said at once, where nothing better is at hand. */
  open?: boolean
}

export function LadderList({ rungs, open = false }: LadderListProps) {
  const units = useUnits()
  return (
    <section aria-label="When nothing comes" className="mt-2">
      <details open={open}>
        <summary className="flex min-h-11 cursor-pointer items-center font-semibold">
          When nothing comes: {rungs.length} steps
        </summary>
        <ol>
          {rungs.map((rung, i) => (
            <li key={i} className="grid grid-cols-[3.4rem_1fr] gap-x-2 border-b border-rule py-0.5 text-sm">
              <span className="font-semibold">{Math.round(rung.minutes)} min</span>
              <span>{words(rung.words, units)}</span>
            </li>
          ))}
        </ol>
      </details>
    </section>
  )
}
