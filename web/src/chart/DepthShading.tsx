/** Depth as shades of the water's own ink, with numbered contours: darker is deeper. */
import { contours } from 'd3-contour'
import { useMemo } from 'react'
import type { Chart } from '../api/client'
import { depthUnitM, type Units } from '../format/units'
import { useUnits } from '../state/person'
import type { View } from '../map/view'

type Grid = NonNullable<Chart['grid']>

const STEPS = [1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20, 25, 30, 40, 50, 75, 100]
const STEPS_FT = [3, 6, 10, 15, 20, 25, 30, 40, 50, 65, 80, 100, 130, 165, 250, 330]

/** Contour depths [m] in the person's unit, from the shore down. */
function levels(deepestM: number, units: Units): { m: number; text: string }[] {
  const feet = units.depth_unit === 'ft'
  return (feet ? STEPS_FT : STEPS)
    .map((n) => ({ m: n * depthUnitM(units), text: String(n) }))
    .filter((level) => level.m < deepestM)
}

export function DepthShading({ grid, view }: { grid: Grid; view: View }) {
  const units = useUnits()
  const shapes = useMemo(() => {
    const rows = Math.floor(grid.depth_dm.length / grid.columns)
    // A rim of land about the grid, so that every contour closes.
    const padded = new Array<number>((grid.columns + 2) * (rows + 2)).fill(-1)
    for (let i = 0; i < rows; i += 1)
      for (let j = 0; j < grid.columns; j += 1)
        padded[(i + 1) * (grid.columns + 2) + j + 1] = (grid.depth_dm[i * grid.columns + j] ?? -10) / 10
    return levels(grid.deepest_m, units).map((level) => ({
      ...level,
      shape: contours()
        .size([grid.columns + 2, rows + 2])
        .contour(padded, level.m),
    }))
  }, [grid, units])
  const x = (column: number) => view.left(grid.x_m + (column - 1.5) * grid.step_m)
  const y = (row: number) => view.top(grid.y_m + (row - 1.5) * grid.step_m)
  return (
    <g>
      {shapes.map(({ m, text, shape }, i) => {
        const rings = shape.coordinates.flat()
        const path = rings
          .map(
            (ring) => `M${ring.map(([c = 0, r = 0]) => `${x(c).toFixed(1)} ${y(r).toFixed(1)}`).join('L')}Z`,
          )
          .join('')
        const share = Math.round((100 * (i + 1)) / (shapes.length + 1))
        const long = rings.reduce<number[][]>((a, b) => (b.length > a.length ? b : a), [])
        const at = long[Math.floor(long.length * (0.12 + 0.23 * (i % 4)))]
        return (
          <g key={m}>
            <path
              d={path}
              fillRule="evenodd"
              fill={`color-mix(in oklab, var(--water-dark) ${share}%, var(--water-light))`}
              stroke="var(--ink)"
              strokeOpacity={0.35}
              strokeWidth={0.8}
            />
            {at && long.length > 30 && (
              <text
                x={x(at[0] ?? 0)}
                y={y(at[1] ?? 0) + 4}
                textAnchor="middle"
                className="plate"
                fontSize={11}
                fontWeight={600}
                fill="var(--ink)"
                stroke="var(--water-light)"
                strokeWidth={3}
                paintOrder="stroke"
              >
                {text}
              </text>
            )}
          </g>
        )
      })}
    </g>
  )
}
