/** Oxygen in the temperature lane: a second thread on its own scale, solid where it was measured. */
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import type { Picture } from '../api/client'
import type { Geometry } from './geometry'

const LIVABLE_MGL = 5

export function OxygenThread({ geometry, picture }: { geometry: Geometry; picture: Picture }) {
  const { y, temperature: lane } = geometry
  const { oxygen_mgl, measured_from_m, measured_to_m, readings } = picture.oxygen
  if (measured_to_m === null) return null
  const x = scaleLinear()
    .domain([0, 14])
    .range([lane.left + 8, lane.left + lane.width - 8])
  const { depth_m } = picture.profile
  const draw = line<number>()
    .x((i) => x(oxygen_mgl[i] ?? 0))
    .y((i) => y(depth_m[i] ?? 0))
  const at = depth_m.map((_, i) => i)
  const from = measured_from_m ?? 0
  const short = at.filter((i) => (oxygen_mgl[i] ?? 0) < LIVABLE_MGL)
  return (
    <g stroke="var(--calm)" fill="none">
      <line
        x1={x(LIVABLE_MGL)}
        x2={x(LIVABLE_MGL)}
        y1={geometry.top}
        y2={geometry.bottom}
        strokeDasharray="1 4"
      />
      <path
        d={
          draw(
            at.filter((i) => (depth_m[i] ?? 0) >= from - 0.06 && (depth_m[i] ?? 0) <= measured_to_m + 0.06),
          ) ?? ''
        }
        strokeWidth={2}
      />
      <path
        d={draw(at.filter((i) => (depth_m[i] ?? 0) >= measured_to_m - 0.06)) ?? ''}
        strokeWidth={1.5}
        strokeDasharray="3 4"
      />
      {readings
        .filter((r) => r.depth_m <= picture.deepest_m)
        .map((r) => (
          <path
            key={r.depth_m}
            d={`M${x(r.oxygen_mgl)} ${y(r.depth_m) - 5}l5 5l-5 5l-5 -5z`}
            fill="var(--sheet)"
            strokeWidth={2}
          />
        ))}
      <text
        x={x(oxygen_mgl[short[0] ?? 0] ?? 0) + 8}
        y={Math.min(y(short.length > 0 ? (depth_m[short[0] ?? 0] ?? 0) : 0) + 16, geometry.bottom - 6)}
        className="plate"
        fontSize={12}
        fontWeight={600}
        fill="var(--calm)"
        stroke="var(--paper)"
        strokeWidth={3}
        paintOrder="stroke"
      >
        {short.length > 0 ? 'oxygen short' : 'oxygen'}
      </text>
    </g>
  )
}
