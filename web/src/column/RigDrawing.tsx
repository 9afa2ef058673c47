/** A presentation in the water: line, leader, every fly with its path, how unsure it is, and the float if there is one. */
import { type ScaleLinear } from 'd3-scale'
import { area, curveMonotoneX, line } from 'd3-shape'
import type { Run } from '../api/client'
import { format, range } from '../format/units'
import { useUnits } from '../state/person'
import { interpolate } from './geometry'
import { placeNames, widthOf } from './names'

/** A band narrower than this is as good as a point [m]. */
export const UNSURE_M = 0.1

const INKS = {
  hot: { line: 'var(--hot)', dash: undefined },
  calm: { line: 'var(--calm)', dash: '9 4' },
} as const

export interface RigDrawingProps {
  run: Run
  timeS: number
  x: ScaleLinear<number, number>
  y: ScaleLinear<number, number>
  /** The drawing's left and right edge [px], to keep labels inside. */
  edges: readonly [number, number]
  ink?: keyof typeof INKS
  /** Said before the depth of the point fly. */
  label?: string
}

interface PathPoint {
  x: number
  depth: number
  shallow: number
  deep: number
}

export function RigDrawing({ run, timeS, x, y, edges, ink = 'hot', label = 'fly' }: RigDrawingProps) {
  const units = useUnits()
  const { line: colour, dash } = INKS[ink]
  const frame = frameAt(run, timeS, run.thread_depth_m)
  const thread = line()
    .x(([distance]) => x(distance))
    .y(([, depth]) => y(depth))
    .curve(curveMonotoneX)
  const straight = line()
    .x(([distance]) => x(distance))
    .y(([, depth]) => y(depth))
  const [tipDistance = 0] = frame[0] ?? []
  const hung = run.indicator !== null
  const onLine = run.float_node > 0
  const [floatDistance = 0, floatDepth = 0] = frame[run.float_node] ?? []
  const flies = run.flies.map((fly, k) => {
    const depth = interpolate(run.time_s, fly.depth_m, timeS)
    const [shallow, deep] = bandAt(run, k, timeS)
    const unsure =
      k === 0 && deep - shallow > UNSURE_M ? ` (8 in 10: ${range('depth', shallow, deep, units)})` : ''
    const said = (k === 0 ? `${label} ` : '') + format('depth', depth, units) + unsure
    const fontPx = k === 0 ? 17 : 13
    return {
      said,
      at: x(interpolate(run.time_s, fly.distance_m, timeS)),
      depthPx: y(depth),
      // A narrow drawing has smaller names rather than cut ones.
      fontPx: fontPx * Math.min((edges[1] - edges[0] - 8) / widthOf({ said, fontPx }), 1),
    }
  })
  const named = placeNames(flies, edges, [y(0), y.range()[1] ?? y(0)])
  return (
    <g>
      {run.flies.map((fly, k) => (
        <FlyPath key={k} fly={fly} x={x} y={y} phases={run.phase} main={k === 0} />
      ))}
      {hung && (
        <FloatMark
          x={x(floatDistance)}
          y={y(floatDepth)}
          ink={colour}
          carried={run.indicator?.carried ?? true}
        />
      )}
      {(!hung || onLine) && (
        <path
          d={`M${x(tipDistance) - 46} ${y(0) - 26}L${x(tipDistance)} ${y(0) - 2}`}
          stroke="var(--ink)"
          strokeWidth={3}
          strokeLinecap="round"
        />
      )}
      <path
        d={(hung ? straight : thread)(frame) ?? ''}
        fill="none"
        stroke={colour}
        strokeWidth={2.6}
        strokeDasharray={dash}
        strokeLinejoin="round"
      />
      {named.map(({ said, at, depthPx, fontPx, place }, k) => (
        <g key={k}>
          <circle
            cx={at}
            cy={depthPx}
            r={k === 0 ? 6.5 : 4.5}
            fill={k === 0 ? colour : 'var(--sheet)'}
            stroke={k === 0 ? 'var(--sheet)' : colour}
            strokeWidth={2.2}
          />
          <text
            x={place.left}
            y={place.baseline}
            fontSize={fontPx}
            fontWeight={700}
            fill="var(--ink)"
            stroke="var(--water-light)"
            strokeWidth={5}
            paintOrder="stroke"
            strokeLinejoin="round"
          >
            {said}
          </text>
        </g>
      ))}
    </g>
  )
}

function FlyPath({
  fly,
  x,
  y,
  phases,
  main,
}: {
  fly: Run['flies'][number]
  x: ScaleLinear<number, number>
  y: ScaleLinear<number, number>
  phases: Run['phase']
  main: boolean
}) {
  const points: PathPoint[] = fly.depth_m
    .map((depth, i) => ({
      x: x(fly.distance_m[i] ?? 0),
      depth,
      shallow: fly.shallow_m[i] ?? depth,
      deep: fly.deep_m[i] ?? depth,
    }))
    .filter((_, i) => phases[i] !== 'hang')
  const path = line<PathPoint>()
    .x((p) => p.x)
    .y((p) => y(p.depth))
  const soft = area<PathPoint>()
    .x((p) => p.x)
    .y0((p) => y(p.shallow))
    .y1((p) => y(p.deep))
  return (
    <g>
      {main && <path d={soft(points) ?? ''} fill="var(--line-in-water)" fillOpacity={0.16} />}
      <path
        d={path(points) ?? ''}
        fill="none"
        stroke="var(--line-in-water)"
        strokeWidth={main ? 1.6 : 1}
        strokeOpacity={main ? 1 : 0.7}
        strokeDasharray="1.5 4.5"
        strokeLinecap="round"
      />
    </g>
  )
}

/** A tapered float: upright while it carries what hangs, lying and crossed out when it does not. */
function FloatMark({ x, y, ink, carried }: { x: number; y: number; ink: string; carried: boolean }) {
  return (
    <g transform={`translate(${x} ${y})${carried ? '' : ' rotate(80)'}`}>
      <path d="M0 9C-5 3 -6 -4 -3 -11L3 -11C6 -4 5 3 0 9Z" fill={ink} stroke="var(--ink)" strokeWidth={1.5} />
      {!carried && <path d="M-8 -14L8 10M8 -14L-8 10" stroke="var(--ink)" strokeWidth={2} />}
    </g>
  )
}

/** Where a fly is eight times in ten at a stage of the cast: from how shallow to how deep [m]. */
export function bandAt(run: Run, fly: number, timeS: number): [number, number] {
  const { shallow_m: shallow = [], deep_m: deep = [] } = run.flies[fly] ?? {}
  return [interpolate(run.time_s, shallow, timeS), interpolate(run.time_s, deep, timeS)]
}

/** The thread at a time, as [distance, depth] or [distance, across] points: the two nearest moments, blended. */
export function frameAt(run: Run, timeS: number, of: number[][]): [number, number][] {
  const times = run.time_s
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
  const depths = blend(of)
  return blend(run.thread_distance_m).map((distance, k) => [distance, depths[k] ?? 0])
}

/** The distances [m] a run needs, from behind the rod or float to the farthest point of line. */
export function reachOf(runs: readonly Run[]): [number, number] {
  const all = runs.flatMap((run) =>
    run.thread_distance_m.flatMap((row) => [Math.min(...row), Math.max(...row)]),
  )
  return [Math.min(0, ...all) - 0.4, Math.max(5, ...all) * 1.04]
}
