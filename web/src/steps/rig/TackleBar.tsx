/** What is tied on: leader and flies, changed in place. */
import type { Schemas } from '../../api/client'
import { useFlies, useLeaders } from '../../queries/hooks'
import { format } from '../../format/units'
import { useOuting } from '../../state/outing'
import { useUnits } from '../../state/person'

export interface TeamFly {
  fly: Schemas['FlyOut']
  above_point_m: number
}

const SELECT =
  'h-9 min-w-0 w-full truncate border-b-2 border-ink bg-transparent pr-1 text-[0.9375rem] font-semibold'
const MOST_FLIES = 4
/** Six feet between flies is usual; less where the leader is short. */
const SPACING_M = 1.8

export function TackleBar({ leader, team }: { leader: Schemas['LeaderOut']; team: readonly TeamFly[] }) {
  const units = useUnits()
  const { outing, change } = useOuting()
  const leaders = useLeaders()
  const flies = useFlies()
  const [point, ...above] = team
  const droppers = outing?.droppers ?? []
  const top = above.at(-1)?.above_point_m ?? 0
  const next = Math.round(10 * Math.min(top + SPACING_M, top + (leader.length_m - top) / 2)) / 10
  const roomy = team.length < MOST_FLIES && next - top >= 0.4 && leader.length_m - next >= 0.3
  const options = (flies.data?.items ?? []).map((f) => (
    <option key={f.id} value={f.id}>
      {f.name}
    </option>
  ))
  return (
    <div className="mt-1 grid grid-cols-2 gap-x-4">
      <label className="min-w-0">
        <span className="sr-only">Leader</span>
        <select
          className={SELECT}
          value={leader.id}
          onChange={(event) => change({ leaderId: Number(event.target.value), droppers: [] })}
        >
          {leaders.data?.items.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
        <span className="block text-sm text-soft">leader {format('depth', leader.length_m, units)}</span>
      </label>
      {point && (
        <label className="min-w-0">
          <span className="sr-only">Point fly</span>
          <select
            className={SELECT}
            value={point.fly.id}
            onChange={(event) => change({ flyId: Number(event.target.value) })}
          >
            {options}
          </select>
          <span className="block text-sm text-soft">
            size {point.fly.hook_size},{' '}
            {point.fly.sink_rate_mps < 0
              ? 'floats'
              : `sinks ${format('lineSpeed', point.fly.sink_rate_mps, units)}`}
          </span>
        </label>
      )}
      {above.map((one, i) => (
        <div key={i} className="col-span-2 flex items-end gap-2">
          <span className="min-w-0 grow">
            <select
              aria-label={`Dropper ${i + 1}`}
              className={SELECT}
              value={one.fly.id}
              onChange={(event) =>
                change({
                  droppers: droppers.map((d, k) =>
                    k === i ? { ...d, flyId: Number(event.target.value) } : d,
                  ),
                })
              }
            >
              {options}
            </select>
          </span>
          <span className="shrink-0 pb-1.5 text-sm text-soft">
            {format('depth', one.above_point_m, units)} above the point
          </span>
          <button
            type="button"
            className="min-h-9 shrink-0 px-1 text-sm underline underline-offset-4"
            aria-label={`Take off dropper ${i + 1}`}
            onClick={() => change({ droppers: droppers.filter((_, k) => k !== i) })}
          >
            off
          </button>
        </div>
      ))}
      {roomy && point && (
        <button
          type="button"
          className="col-span-2 justify-self-start py-1 text-sm font-semibold underline underline-offset-4"
          onClick={() => change({ droppers: [...droppers, { flyId: point.fly.id, aboveM: next }] })}
        >
          Add a fly {format('depth', next - top, units)} above
        </button>
      )}
    </div>
  )
}
