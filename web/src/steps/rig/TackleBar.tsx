/** What is tied on: leader and fly, changed in place. */
import type { Schemas } from '../../api/client'
import { useFlies, useLeaders } from '../../api/hooks'
import { format } from '../../format/units'
import { useOuting } from '../../state/outing'
import { useUnits } from '../../state/person'

const SELECT =
  'h-9 min-w-0 w-full truncate border-b-2 border-ink bg-transparent pr-1 text-[0.9375rem] font-semibold'

export function TackleBar({ leader, fly }: { leader: Schemas['LeaderOut']; fly: Schemas['FlyOut'] }) {
  const units = useUnits()
  const { change } = useOuting()
  const leaders = useLeaders()
  const flies = useFlies()
  return (
    <div className="mt-1 grid grid-cols-2 gap-x-4">
      <label className="min-w-0">
        <span className="sr-only">Leader</span>
        <select
          className={SELECT}
          value={leader.id}
          onChange={(event) => change({ leaderId: Number(event.target.value) })}
        >
          {leaders.data?.items.map((l) => (
            <option key={l.id} value={l.id}>
              {l.name}
            </option>
          ))}
        </select>
        <span className="block text-sm text-soft">leader {format('depth', leader.length_m, units)}</span>
      </label>
      <label className="min-w-0">
        <span className="sr-only">Fly</span>
        <select
          className={SELECT}
          value={fly.id}
          onChange={(event) => change({ flyId: Number(event.target.value) })}
        >
          {flies.data?.items.map((f) => (
            <option key={f.id} value={f.id}>
              {f.name}
            </option>
          ))}
        </select>
        <span className="block text-sm text-soft">
          size {fly.hook_size},{' '}
          {fly.sink_rate_mps < 0 ? 'floats' : `sinks ${format('lineSpeed', fly.sink_rate_mps, units)}`}
        </span>
      </label>
    </div>
  )
}
