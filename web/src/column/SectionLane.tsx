/** The section of water in front of the angler: light, bottom, and the line, leader and fly in it. */
import { scaleLinear } from 'd3-scale'
import { area, curveMonotoneX, line } from 'd3-shape'
import { useId } from 'react'
import type { Picture, Simulation } from '../api/client'
import { format, range } from '../format/units'
import { useUnits } from '../state/person'
import { interpolate, type Geometry } from './geometry'

interface SectionLaneProps {
  geometry: Geometry
  picture: Picture
  simulation: Simulation | undefined
  timeS: number
  takes: readonly { low_m: number; high_m: number }[]
}

export function SectionLane({ geometry, picture, simulation, timeS, takes }: SectionLaneProps) {
  const id = useId()
  const { y, section: lane, bottom, height } = geometry
  const { depth_m } = picture.profile
  const deepest = picture.bottom_depth_m
  return (
    <g>
      <defs>
        <linearGradient id={`${id}-light`} x1="0" x2="0" y1="0" y2="1">
          {[0, 0.08, 0.16, 0.28, 0.42, 0.6, 0.8, 1].map((share) => {
            const left =
              picture.brightness > 0
                ? interpolate(depth_m, picture.light, share * deepest) / picture.brightness
                : 0
            return (
              <stop
                key={share}
                offset={share}
                stopColor={`color-mix(in oklab, var(--water-light) ${Math.round(100 * left)}%, var(--water-dark))`}
              />
            )
          })}
        </linearGradient>
        <pattern id={`${id}-bed`} width={9} height={9} patternUnits="userSpaceOnUse">
          <path d="M0 9L9 0" stroke="var(--bed-line)" strokeWidth={1} />
        </pattern>
        <clipPath id={`${id}-clip`}>
          <rect x={lane.left} y={geometry.top - 30} width={lane.width} height={bottom - geometry.top + 32} />
        </clipPath>
      </defs>
      <rect x={lane.left} y={y(0)} width={lane.width} height={bottom - y(0)} fill={`url(#${id}-light)`} />
      <rect x={lane.left} y={bottom} width={lane.width} height={height - bottom} fill="var(--bed)" />
      <rect x={lane.left} y={bottom} width={lane.width} height={height - bottom} fill={`url(#${id}-bed)`} />
      <line
        x1={lane.left}
        x2={lane.left + lane.width}
        y1={bottom}
        y2={bottom}
        stroke="var(--bed-line)"
        strokeWidth={2.5}
      />
      {picture.belief.bands.map((band) => (
        <g
          key={band.top_m}
          stroke="var(--ink)"
          strokeOpacity={0.5}
          strokeDasharray="1 4"
          strokeLinecap="round"
          strokeWidth={1.5}
        >
          <line x1={lane.left} x2={geometry.width} y1={y(band.top_m)} y2={y(band.top_m)} />
          <line x1={lane.left} x2={geometry.width} y1={y(band.bottom_m)} y2={y(band.bottom_m)} />
        </g>
      ))}
      {takes.map((take, i) => (
        <TakeMark
          key={i}
          x={lane.left + lane.width * (0.1 + (0.8 * (i + 0.5)) / takes.length)}
          y1={y(take.low_m)}
          y2={y(take.high_m)}
        />
      ))}
      <g clipPath={`url(#${id}-clip)`}>
        {simulation && <Rig geometry={geometry} simulation={simulation} timeS={timeS} bottomM={deepest} />}
      </g>
    </g>
  )
}

/** A take: an open ring with a bar as long as its depth is unsure. */
function TakeMark({ x, y1, y2 }: { x: number; y1: number; y2: number }) {
  return (
    <g stroke="var(--fish-ink)" strokeWidth={2}>
      <line x1={x} x2={x} y1={y1} y2={y2} />
      <circle cx={x} cy={(y1 + y2) / 2} r={4.5} fill="var(--fish)" />
    </g>
  )
}

function Rig({
  geometry,
  simulation,
  timeS,
  bottomM,
}: {
  geometry: Geometry
  simulation: Simulation
  timeS: number
  bottomM: number
}) {
  const units = useUnits()
  const { y, section: lane } = geometry
  const farthest = Math.max(...(simulation.thread_distance_m[0] ?? []), 5)
  const x = scaleLinear()
    .domain([-0.4, farthest * 1.04])
    .range([lane.left + 14, lane.left + lane.width - 14])
  const fly = simulation.flies[0]
  const frame = frameAt(simulation, timeS)
  if (!fly) return null
  const points = fly.depth_m.map((depth, i) => ({
    x: x(fly.distance_m[i] ?? 0),
    depth,
    slow: simulation.slow_depth_m[i] ?? depth,
    fast: simulation.fast_depth_m[i] ?? depth,
    phase: simulation.phase[i] ?? 'count',
  }))
  const water = points.filter((p) => p.phase !== 'hang')
  const soft = area<(typeof points)[number]>()
    .x((p) => p.x)
    .y0((p) => y(Math.min(p.slow, p.fast, p.depth)))
    .y1((p) => y(Math.max(p.slow, p.fast, p.depth)))
  const path = line<(typeof points)[number]>()
    .x((p) => p.x)
    .y((p) => y(p.depth))
  const thread = line<[number, number]>()
    .x(([distance]) => x(distance))
    .y(([, depth]) => y(depth))
    .curve(curveMonotoneX)
  const nowDepth = interpolate(simulation.time_s, fly.depth_m, timeS)
  const nowX = x(interpolate(simulation.time_s, fly.distance_m, timeS))
  const tipX = x(0)
  const spread = Math.abs(
    interpolate(simulation.time_s, simulation.fast_depth_m, timeS) -
      interpolate(simulation.time_s, simulation.slow_depth_m, timeS),
  )
  const label = `${format('depth', nowDepth, units)}${spread > 0.1 ? ` ± ${format('depth', spread / 2, units)}` : ''}`
  const labelLeft = nowX > lane.left + lane.width * 0.62
  return (
    <g>
      <path d={soft(water) ?? ''} fill="var(--line-in-water)" fillOpacity={0.16} />
      <path
        d={path(water) ?? ''}
        fill="none"
        stroke="var(--line-in-water)"
        strokeWidth={1.6}
        strokeDasharray="1.5 4.5"
        strokeLinecap="round"
      />
      <path
        d={`M${tipX - 46} ${y(0) - 26}L${tipX} ${y(0) - 2}`}
        stroke="var(--ink)"
        strokeWidth={3}
        strokeLinecap="round"
      />
      <path
        d={thread(frame) ?? ''}
        fill="none"
        stroke="var(--hot)"
        strokeWidth={2.6}
        strokeLinejoin="round"
      />
      <circle cx={nowX} cy={y(nowDepth)} r={6.5} fill="var(--hot)" stroke="var(--sheet)" strokeWidth={2} />
      <text
        x={nowX + (labelLeft ? -14 : 14)}
        y={Math.min(Math.max(y(nowDepth) + 5, geometry.top + 18), y(bottomM) - 6)}
        textAnchor={labelLeft ? 'end' : 'start'}
        fontSize={17}
        fontWeight={700}
        fill="var(--ink)"
        stroke="var(--water-light)"
        strokeWidth={5}
        paintOrder="stroke"
        strokeLinejoin="round"
      >
        fly {label}
      </text>
      <text
        x={lane.left + lane.width - 8}
        y={geometry.height - 10}
        textAnchor="end"
        className="plate"
        fontSize={12}
        fontWeight={600}
        fill="#f6f1e8"
      >
        {range('depth', 0, farthest, units)} from the rod
      </text>
    </g>
  )
}

/** The thread at a time, as [distance, depth] points: the two nearest frames, blended. */
function frameAt(simulation: Simulation, timeS: number): [number, number][] {
  const times = simulation.time_s
  let later = times.findIndex((t) => t >= timeS)
  if (later < 0) later = times.length - 1
  const earlier = Math.max(later - 1, 0)
  const [t0, t1] = [times[earlier] ?? 0, times[later] ?? 1]
  const share = t1 > t0 ? Math.min(Math.max((timeS - t0) / (t1 - t0), 0), 1) : 1
  const blend = (frames: number[][]) =>
    (frames[later] ?? []).map((value, k) => {
      const before = frames[earlier]?.[k] ?? value
      return before + (value - before) * share
    })
  const depths = blend(simulation.thread_depth_m)
  return blend(simulation.thread_distance_m).map((distance, k) => [distance, depths[k] ?? 0])
}
