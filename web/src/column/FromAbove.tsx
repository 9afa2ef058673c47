/** The presentation from above: how far the wind bows the line, where float and flies are, where to mend. */
import { scaleLinear, type ScaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import type { Run } from '../api/client'
import { format, words, type Units } from '../format/units'
import { useUnits } from '../state/person'
import { interpolate } from './geometry'
import { frameAt } from './RigDrawing'

/** A bow smaller than this is not worth a mend [m]. */
const SMALL_M = 0.5

export interface FromAboveProps {
  run: Run
  timeS: number
  /** Where the section of water is drawn above it [px], and its scale of distance, so that a fly stands under itself. */
  lane: { left: number; width: number }
  x: ScaleLinear<number, number>
  width: number
  heightPx: number
  /** Where two stand below each other: which it is, said within the water for want of room beside it. */
  name?: string
}

export function FromAbove({ run, timeS, lane, x, width, heightPx, name }: FromAboveProps) {
  const units = useUnits()
  const { side } = run
  if (!side) return null
  const narrow = width < 560
  const inside = name !== undefined
  const ink = name === 'B' ? 'var(--calm)' : 'var(--hot)'
  const across = run.thread_across_m.flatMap((row) => [Math.min(...row), Math.max(...row)])
  const y = scaleLinear()
    .domain([Math.min(-0.6, ...across), Math.max(1.5, ...across)])
    .range([8, heightPx - 8])
  const frame = frameAt(run, timeS, run.thread_across_m)
  const thread = line()
    .x(([distance]) => x(distance))
    .y(([, aside]) => y(aside))
  const [rod = [0, 0], far = [0, 0]] = [frame[0], frame[run.float_node || frame.length - 1]]
  const bowM = interpolate(run.time_s, side.bow_m, timeS)
  const mend = side.mend_at_s !== null && timeS >= side.mend_at_s ? widest(frame, rod, far) : null
  return (
    <svg
      width={width}
      height={heightPx}
      role="img"
      aria-label={saidFromAbove(run, timeS, units)}
      className="block"
    >
      <rect x={lane.left} width={lane.width} height={heightPx} fill="var(--water-light)" />
      <line
        x1={x(rod[0])}
        y1={y(rod[1])}
        x2={x(far[0])}
        y2={y(far[1])}
        stroke="var(--ink)"
        strokeOpacity={0.45}
        strokeDasharray="3 4"
      />
      <WindArrow x={inside ? lane.left + 14 : lane.left - (narrow ? 12 : 22)} heightPx={heightPx} />
      <text
        x={inside ? lane.left + 28 : lane.left - (narrow ? 22 : 40)}
        y={inside ? heightPx - 10 : heightPx / 2 + 4}
        textAnchor={inside ? 'start' : 'end'}
        fontSize={narrow ? 11 : 12}
        fontWeight={600}
        fill="var(--ink)"
        className="plate"
      >
        {inside ? `${name} from above` : 'from above'}
      </text>
      {mend && <MendMark at={[x(mend[0]), y(mend[1])]} to={y(mirrored(mend, rod, far)[1])} />}
      <path
        d={thread(frame) ?? ''}
        fill="none"
        stroke={ink}
        strokeDasharray={name === 'B' ? '9 4' : undefined}
        strokeWidth={2.4}
        strokeLinejoin="round"
      />
      <circle cx={x(rod[0])} cy={y(rod[1])} r={4} fill="var(--ink)" />
      {run.float_node > 0 && (
        <circle
          cx={x(far[0])}
          cy={y(far[1])}
          r={5.5}
          fill="var(--fish)"
          stroke="var(--ink)"
          strokeWidth={1.5}
        />
      )}
      {run.flies.map((fly, k) => (
        <circle
          key={k}
          cx={x(interpolate(run.time_s, fly.distance_m, timeS))}
          cy={y(interpolate(run.time_s, fly.across_m, timeS))}
          r={k === 0 ? 5 : 3.5}
          fill={k === 0 ? ink : 'var(--sheet)'}
          stroke={k === 0 ? 'var(--sheet)' : ink}
          strokeWidth={1.8}
        />
      ))}
      <Beside
        run={run}
        timeS={timeS}
        bowM={bowM}
        at={inside ? lane.left + lane.width - 8 : lane.left + lane.width + 8}
        anchor={inside ? 'end' : 'start'}
        narrow={narrow}
        heightPx={heightPx}
      />
    </svg>
  )
}

/** What to do, at the right: the bow, the mend and the recast. */
function Beside({
  run,
  timeS,
  bowM,
  at,
  anchor,
  narrow,
  heightPx,
}: {
  run: Run
  timeS: number
  bowM: number
  at: number
  anchor: 'start' | 'end'
  narrow: boolean
  heightPx: number
}) {
  const units = useUnits()
  const side = run.side
  if (!side) return null
  const { mend_at_s: mend, recast_at_s: recast } = side
  const rows = [
    `bow ${format('depth', bowM, units)}`,
    ...(recast !== null && timeS >= recast
      ? ['recast now']
      : recast !== null
        ? [`recast ${Math.round(recast)} s`]
        : []),
    ...(mend !== null && !(recast !== null && timeS >= recast)
      ? timeS < mend
        ? [`mend ${Math.round(mend)} s`]
        : bowM > SMALL_M
          ? ['mend']
          : []
      : []),
  ].slice(0, heightPx < 60 ? 2 : 3)
  const step = narrow ? 15 : 18
  return (
    <g className="plate" fontSize={narrow ? 12 : 14} fontWeight={700} fill="var(--ink)">
      {rows.map((said, i) => (
        <text key={i} x={at} textAnchor={anchor} y={heightPx / 2 + 5 + (i - (rows.length - 1) / 2) * step}>
          {said}
        </text>
      ))}
    </g>
  )
}

function WindArrow({ x, heightPx }: { x: number; heightPx: number }) {
  return (
    <g stroke="var(--ink)" strokeWidth={2} fill="none" strokeLinecap="round">
      <path
        d={`M${x} 6V${heightPx - 7}M${x - 5} ${heightPx - 13}L${x} ${heightPx - 6}L${x + 5} ${heightPx - 13}`}
      />
    </g>
  )
}

/** From where the line bows most, over to the other side of the straight line. */
function MendMark({ at: [x, y], to }: { at: [number, number]; to: number }) {
  return (
    <path
      d={`M${x} ${y}Q${x + 16} ${(y + to) / 2} ${x} ${to}M${x + 7} ${to + 5}L${x} ${to}L${x + 8} ${to - 2}`}
      fill="none"
      stroke="var(--fish-ink)"
      strokeWidth={2}
      strokeLinecap="round"
    />
  )
}

type Point = readonly [number, number]

/** The point of the thread between rod and float or fly that lies farthest off the straight line. */
function widest(frame: readonly Point[], rod: Point, far: Point): Point | null {
  let best: Point | null = null
  let most = SMALL_M
  for (const point of frame) {
    if (point === far) break
    const off = Math.abs(offChord(point, rod, far))
    if (off > most) [best, most] = [point, off]
  }
  return best
}

function offChord(point: Point, rod: Point, far: Point): number {
  const [cx, cy] = [far[0] - rod[0], far[1] - rod[1]]
  return (cx * (point[1] - rod[1]) - cy * (point[0] - rod[0])) / Math.max(Math.hypot(cx, cy), 0.01)
}

function mirrored(point: Point, rod: Point, far: Point): Point {
  const [cx, cy] = [far[0] - rod[0], far[1] - rod[1]]
  const size = Math.max(Math.hypot(cx, cy), 0.01)
  const off = offChord(point, rod, far)
  return [point[0] + (2 * off * cy) / size, point[1] - (2 * off * cx) / size]
}

/** The same in words. */
function saidFromAbove(run: Run, timeS: number, units: Units): string {
  const side = run.side
  if (!side) return 'Nothing moves across the cast.'
  const depth = (metres: number) => format('depth', Math.abs(metres), units)
  const bowM = interpolate(run.time_s, side.bow_m, timeS)
  const [point] = run.flies
  const asideM = point ? interpolate(run.time_s, point.across_m, timeS) : 0
  return [
    `From above, ${Math.round(timeS)} seconds after landing: the line bows ${depth(bowM)}`,
    `the fly lies ${depth(asideM)} ${asideM < 0 ? 'upwind' : 'downwind'} of where it landed`,
    ...side.words.map((phrase) => words(phrase, units)),
  ].join('. ')
}
