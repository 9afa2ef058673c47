/** A place on the map: the open water about it, the two casts across the wind, and where a boat drifts. */
import type { Schemas } from '../api/client'
import { format } from '../format/units'
import { useUnits } from '../state/person'
import { along, pathOf, type View } from '../map/view'

interface StandingProps {
  standing: Schemas['StandingOut']
  castM: number
  view: View
}

const LEAST_CAST_PX = 34

export function Standing({ standing, castM, view }: StandingProps) {
  const units = useUnits()
  const here = { x: standing.x_m, y: standing.y_m }
  const [cx, cy] = [view.left(here.x), view.top(here.y)]
  const rose = standing.rose_deg.map((deg, i) => {
    const end = along(here, deg, standing.rose_m[i] ?? 0)
    return [end.x, end.y] as const
  })
  const drift = along(here, standing.now.from_deg + 180, standing.drift_m)
  const reach = Math.max(castM, LEAST_CAST_PX / view.pxPerM)
  return (
    <g>
      <path
        d={pathOf(rose, view, true)}
        fill="var(--fish)"
        fillOpacity={0.1}
        stroke="var(--fish-ink)"
        strokeOpacity={0.5}
      />
      {standing.drift_s !== null && (
        <path
          d={`M${cx} ${cy}L${view.left(drift.x)} ${view.top(drift.y)}`}
          stroke="var(--ink)"
          strokeWidth={1.6}
          strokeDasharray="2 5"
        />
      )}
      {standing.casts.map((cast) => {
        const end = along(here, cast.bearing_deg, reach)
        const [x, y] = [view.left(end.x), view.top(end.y)]
        return (
          <g key={cast.bearing_deg}>
            <path d={`M${cx} ${cy}L${x} ${y}`} stroke="var(--hot)" strokeWidth={2.6} />
            {cast.far_depth_m !== null && (
              <text
                x={x + (x > cx ? 5 : -5)}
                y={y + 4}
                textAnchor={x > cx ? 'start' : 'end'}
                className="plate"
                fontSize={13}
                fontWeight={700}
                fill="var(--hot)"
                stroke="var(--sheet)"
                strokeWidth={4}
                paintOrder="stroke"
              >
                {format('depth', cast.far_depth_m, units)}
              </text>
            )}
          </g>
        )
      })}
      <circle cx={cx} cy={cy} r={6} fill="var(--sheet)" stroke="var(--hot)" strokeWidth={3} />
    </g>
  )
}
