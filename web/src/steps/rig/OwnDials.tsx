/** What can be turned on a choice of the plan: count and pace of a cast, depth of a float, speed of a boat. */
import type { Ranked } from '../../api/client'
import { cutLength, format } from '../../format/units'
import type { OwnChange } from '../../state/outing'
import { useUnits } from '../../state/person'
import { Dial } from '../../ui/Dial'
import { USUAL } from '../../api/trade'

const DEEPEST_FLOAT_M = 10

interface OwnDialsProps {
  planned: Ranked
  own: OwnChange | null
  bottomM: number
  onOwnChange(own: OwnChange): void
}

export function OwnDials({ planned, own, bottomM, onOwnChange }: OwnDialsProps) {
  const units = useUnits()
  const turn = (change: Partial<OwnChange>) =>
    onOwnChange({ ...own, methodKey: planned.method.key, ...change })
  const { action } = planned
  return (
    <div
      role="group"
      aria-label="Turn it yourself"
      className="grid grid-cols-2 gap-x-6 [&>:only-child]:col-span-2"
    >
      {action.kind === 'cast' && (
        <Dial
          label="Count"
          value={own?.countS ?? action.count_s}
          least={0}
          most={USUAL.dialCountS}
          step={1}
          said={`${Math.round(own?.countS ?? action.count_s)} s`}
          onValueChange={(next) => turn({ countS: next })}
        />
      )}
      {action.kind === 'cast' && action.retrieve_key !== 'static' && (
        <Dial
          label="Retrieve speed"
          value={own?.retrieveMps ?? action.retrieve_mps}
          least={0.02}
          most={0.8}
          step={0.01}
          said={format('lineSpeed', own?.retrieveMps ?? action.retrieve_mps, units)}
          onValueChange={(next) => turn({ retrieveMps: next })}
        />
      )}
      {action.kind === 'hang' && (
        <Dial
          label="Float above the point"
          value={own?.setDepthM ?? action.set_depth_m}
          least={0.4}
          most={Math.min(DEEPEST_FLOAT_M, Math.max(Math.floor(20 * bottomM - 2) / 20, 0.5))}
          step={0.05}
          said={cutLength(own?.setDepthM ?? action.set_depth_m, units)}
          onValueChange={(next) => turn({ setDepthM: next })}
        />
      )}
      {action.kind === 'tow' && (
        <Dial
          label="Boat speed"
          value={own?.towMps ?? action.tow_mps}
          least={0.05}
          most={1.2}
          step={0.05}
          said={format('lineSpeed', own?.towMps ?? action.tow_mps, units)}
          onValueChange={(next) => turn({ towMps: next })}
        />
      )}
    </div>
  )
}
