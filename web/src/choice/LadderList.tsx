/** What to change when nothing comes, in order, with the minutes each is given. */
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { words } from '../format/units'
import { useThinking } from '../python/client'
import { stepsOf, useWhenNothing, type Ahead } from '../search/useWhenNothing'
import { useUnits } from '../state/person'

interface LadderListProps {
  /** As the plan has it: what stands where the device can't think. */
  rungs: readonly Schemas['RungOut'][]
  /** What the search would propose is asked of this. */
  ahead: Ahead | null
  /** What is tied on has been fished: it is not what the plan begins with. */
  fishing?: boolean
}

const AS_TIED = { text: 'As tied on now.', values: {} }

export function LadderList({ rungs, ahead, fishing = false }: LadderListProps) {
  const units = useUnits()
  const [open, setOpen] = useState(false)
  const found = useWhenNothing(ahead, open)
  const first = fishing ? AS_TIED : (rungs[0]?.words ?? AS_TIED)
  const thinks = useThinking() !== 'cannot' && ahead !== null
  const steps = thinks ? stepsOf(first, found?.rungs ?? []) : rungs
  const working = open && thinks && !found?.done
  return (
    <section aria-label="When nothing comes" aria-busy={working} className="mt-2">
      <details onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className="flex min-h-11 cursor-pointer items-center font-semibold">
          When nothing comes
        </summary>
        <ol>
          {steps.map(({ minutes, words: said }, i) => (
            <li key={i} className="grid grid-cols-[3.4rem_1fr] gap-x-2 border-b border-rule py-0.5 text-sm">
              <span className="font-semibold">{minutes === null ? '' : `${Math.round(minutes)} min`}</span>
              <span>{words(said, units)}</span>
            </li>
          ))}
        </ol>
        {working && <p className="text-sm text-soft">Working it out…</p>}
        {found?.done && (
          <p className="text-sm text-soft">Then as long as it is worth it. What comes changes it.</p>
        )}
      </details>
    </section>
  )
}
