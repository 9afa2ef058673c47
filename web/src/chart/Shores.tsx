/** How the wind meets the shore: a comb of strokes where it blows onto it, dots along it, nothing where it is sheltered. */
import type { Schemas } from '../api/client'
import type { View } from '../map/view'

interface ShoresProps {
  shores: readonly Schemas['ShoreOut'][]
  windFromDeg: number
  view: View
}

export function Shores({ shores, windFromDeg, view }: ShoresProps) {
  const down = ((windFromDeg + 180) * Math.PI) / 180
  const [dx, dy] = [Math.sin(down), -Math.cos(down)]
  const most = Math.max(...shores.map((s) => s.fetch_m), 1)
  return (
    <g stroke="var(--ink)" strokeLinecap="round">
      {shores.map((shore, i) => {
        const [x, y] = [view.left(shore.x_m), view.top(shore.y_m)]
        if (shore.kind === 'off') return null
        if (shore.kind === 'along')
          return <circle key={i} cx={x} cy={y} r={1.6} fill="var(--ink)" stroke="none" />
        const length = 5 + 9 * (shore.fetch_m / most)
        return <path key={i} d={`M${x - dx * length} ${y - dy * length}L${x} ${y}`} strokeWidth={2.6} />
      })}
    </g>
  )
}
