/** Rig: the plan by method, or a line of the box with the dials and the angler's own leader and flies. */
import { useOuting } from '../../state/outing'
import { NoOuting } from '../NoOuting'
import { LineRig } from './LineRig'
import { MethodRig } from './MethodRig'
import type { RigView } from './RigViews'

export function RigPage() {
  const { outing, change } = useOuting()
  if (!outing) return <NoOuting />
  const turn = (rigView: RigView) => change({ rigView })
  return outing.rigView === 'method' ? (
    <MethodRig outing={outing} onViewChange={turn} />
  ) : (
    <LineRig outing={outing} onViewChange={turn} />
  )
}
