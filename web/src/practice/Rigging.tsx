/** The ways to fish, and the dial that turns one to another count or another depth. */
import type { Action, Ranked, Schemas } from '../api/client'
import { headline } from '../choice/sayings'
import { cutLength } from '../format/units'
import { useUnits } from '../state/person'
import { Dial } from '../ui/Dial'
import { useOnline } from '../ui/useOnline'
import { USUAL } from '../api/trade'
import { wayOf } from '../choice/ways'

export interface PracticeRig {
  rig: Schemas['RigIn']
  action: Action
}

/** A way to fish of the plan, turned by the angler. */
export interface Turned {
  key: string
  by: number
}

export function rigOf({ line, leader, flies }: Ranked): Schemas['RigIn'] {
  return { line, leader, flies }
}

/** Another count, or another depth of the float. */
export const turnedBy = (action: PracticeRig['action'], by: number): PracticeRig['action'] =>
  wayOf(action).turned(action, by)

/** In what steps a day that was taken along can be turned. */
const EVEN_S = 5
const EVEN_M = 0.25

export function Turner({
  one,
  turned,
  bottomM,
  taken,
  onTurn,
}: {
  one: Ranked
  turned: Turned | null
  bottomM: number
  /** Of a day that was taken along, steps are those that went with it while there is no connection. */
  taken: boolean
  onTurn(next: Turned): void
}) {
  const units = useUnits()
  const by = turned?.key === one.method.key ? turned.by : 0
  const even = !useOnline() && taken
  const { action } = one
  if (action.kind === 'cast') {
    const step = even ? EVEN_S : 1
    return (
      <Dial
        label="Count"
        value={action.count_s + by}
        least={action.count_s % step}
        most={even ? action.count_s + 6 * EVEN_S : USUAL.dialCountS}
        step={step}
        said={`${Math.round(action.count_s + by)} s`}
        onValueChange={(value) => onTurn({ key: one.method.key, by: value - action.count_s })}
      />
    )
  }
  if (action.kind === 'hang') {
    const most = Math.min(
      bottomM - 0.1,
      one.leader.sections.reduce((sum, s) => sum + s.length_m, 0),
    )
    const least = Math.min((one.flies.at(-1)?.above_point_m ?? 0) + 0.4, most)
    const downTo = even
      ? action.set_depth_m - EVEN_M * Math.floor((action.set_depth_m - least) / EVEN_M)
      : least
    return (
      <Dial
        label="Set depth"
        value={Math.min(action.set_depth_m + by / 10, most)}
        least={downTo}
        most={most}
        step={even ? EVEN_M : 0.05}
        said={cutLength(Math.min(action.set_depth_m + by / 10, most), units)}
        onValueChange={(value) => onTurn({ key: one.method.key, by: 10 * (value - action.set_depth_m) })}
      />
    )
  }
  return null
}

export function Ways({
  ranked,
  waiting,
  chosen,
  onChoose,
}: {
  ranked: readonly Ranked[]
  waiting: boolean
  chosen: string | null
  onChoose(key: string): void
}) {
  const units = useUnits()
  return (
    <section aria-label="Ways to fish">
      <h2 className="eyebrow border-b-2 border-ink">
        Ways to fish, from the starter box{waiting ? ' · working it out…' : ''}
      </h2>
      <ul>
        {ranked.map((one) => (
          <li key={one.method.key} className="border-b border-rule">
            <button
              type="button"
              aria-pressed={one.method.key === chosen}
              className="min-h-11 w-full text-left hover:bg-sheet aria-pressed:bg-sheet aria-pressed:pl-2.5 aria-pressed:shadow-[inset_4px_0_0_var(--hot)]"
              onClick={() => onChoose(one.method.key)}
            >
              <span className="block leading-tight font-semibold">{one.method.name}</span>
              <span className="block truncate text-sm leading-tight text-soft">{headline(one, units)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
