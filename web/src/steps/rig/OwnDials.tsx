/** What can be turned on a choice of the plan: count and pace of a cast, depth of a float, speed of a boat. */
import type { Ranked } from '../../api/client'
import { cutLength, format } from '../../format/units'
import type { OwnChange } from '../../state/outing'
import { useUnits } from '../../state/person'
import { Dial } from '../../ui/Dial'

const LONGEST_COUNT_S = 120
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
  const countS = own?.countS ?? planned.count_s
  const retrieveMps = own?.retrieveMps ?? planned.retrieve_mps
  const setDepthM = own?.setDepthM ?? planned.set_depth_m
  const towMs = own?.towMs ?? planned.tow_ms
  return (
    <div
      role="group"
      aria-label="Turn it yourself"
      className="grid grid-cols-2 gap-x-6 [&>:only-child]:col-span-2"
    >
      {planned.retrieve_key !== null && (
        <Dial
          label="Count"
          value={countS}
          least={0}
          most={LONGEST_COUNT_S}
          step={1}
          said={`${Math.round(countS)} s`}
          onValueChange={(next) => turn({ countS: next })}
        />
      )}
      {planned.retrieve_key !== null && planned.retrieve_key !== 'static' && retrieveMps !== null && (
        <Dial
          label="Retrieve speed"
          value={retrieveMps}
          least={0.02}
          most={0.8}
          step={0.01}
          said={format('lineSpeed', retrieveMps, units)}
          onValueChange={(next) => turn({ retrieveMps: next })}
        />
      )}
      {setDepthM !== null && (
        <Dial
          label="Float above the point"
          value={setDepthM}
          least={0.4}
          most={Math.min(DEEPEST_FLOAT_M, Math.max(Math.floor(20 * bottomM - 2) / 20, 0.5))}
          step={0.05}
          said={cutLength(setDepthM, units)}
          onValueChange={(next) => turn({ setDepthM: next })}
        />
      )}
      {towMs !== null && (
        <Dial
          label="Boat speed"
          value={towMs}
          least={0.05}
          most={1.2}
          step={0.05}
          said={format('lineSpeed', towMs, units)}
          onValueChange={(next) => turn({ towMs: next })}
        />
      )}
    </div>
  )
}
