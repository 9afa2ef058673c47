/** Where they feed, as a ridge from the right; where the fly spends its time, as bars from the left. They should meet. */
import { area, curveMonotoneY } from 'd3-shape'
import type { Drawn, Picture } from '../api/client'
import { chances, range } from '../format/units'
import { useUnits } from '../state/person'
import type { Geometry } from './geometry'

export function FeedingLane({
  geometry,
  picture,
  simulation,
  spent,
}: {
  geometry: Geometry
  picture: Picture
  simulation?: Drawn | undefined
  spent?: readonly { depth_m: number; minutes: number }[] | undefined
}) {
  const units = useUnits()
  const { y, feeding: lane } = geometry
  const { depth_m } = picture.profile
  const density = picture.belief.density_pm
  const densest = Math.max(...density, 1e-6)
  const right = lane.left + lane.width
  const reach = lane.width * (simulation ? 0.62 : 0.8)
  const ridge = area<number>()
    .y((i) => y(depth_m[i] ?? 0))
    .x0(right)
    .x1((i) => right - (reach * (density[i] ?? 0)) / densest)
    .curve(curveMonotoneY)
  const bars = spent
    ? spentBars(spent, picture.deepest_m)
    : simulation
      ? layerBars(simulation, picture.deepest_m)
      : []
  const longest = Math.max(...bars.map((bar) => bar.seconds), 1)
  const narrow = lane.width < 100
  const band = picture.belief.main_band
  return (
    <g>
      <text
        x={right}
        y={16}
        textAnchor="end"
        className="plate"
        fontSize={13}
        fontWeight={600}
        fill="var(--soft)"
      >
        {narrow ? 'Feeding' : 'Where they feed'}
      </text>
      {simulation && !narrow && (
        <text x={lane.left} y={34} className="plate" fontSize={12} fontWeight={600} fill="var(--hot)">
          {spent ? 'fished today' : 'fly’s time'}
        </text>
      )}
      <path
        d={ridge(depth_m.map((_, i) => i)) ?? ''}
        fill="var(--fish)"
        stroke="var(--fish-ink)"
        strokeWidth={1.5}
      />
      {bars.map((bar) => (
        <rect
          key={bar.top}
          x={lane.left}
          y={y(bar.top) + 0.5}
          width={(lane.width * 0.5 * bar.seconds) / longest}
          height={Math.max(y(bar.bottom) - y(bar.top) - 1, 1)}
          fill="var(--hot)"
          fillOpacity={0.85}
        />
      ))}
      {picture.belief.bands.map((run) => (
        <path
          key={run.top_m}
          d={`M${right - 7} ${y(run.top_m)}H${right - 1}V${y(run.bottom_m)}H${right - 7}`}
          fill="none"
          stroke="var(--fish-ink)"
          strokeWidth={2.5}
        />
      ))}
      <BandPlate
        right={right}
        middle={(y(band.top_m) + y(band.bottom_m)) / 2}
        narrow={narrow}
        text={range('depth', band.top_m, band.bottom_m, units)}
        chance={chances(band.chance)}
      />
    </g>
  )
}

/** The likeliest band's depths on a plate of their own: readable over ridge and bars alike. */
function BandPlate({
  right,
  middle,
  narrow,
  text,
  chance,
}: {
  right: number
  middle: number
  narrow: boolean
  text: string
  chance: string
}) {
  const [letterPx, height] = narrow ? [6.8, 20] : [8.4, 36]
  const width = Math.max(text.length * letterPx + 8, narrow ? 0 : 104)
  return (
    <g fill="var(--fish-ink)">
      <rect
        x={right - 6 - width}
        y={middle - height / 2}
        width={width}
        height={height}
        fill="var(--sheet)"
        stroke="var(--fish-ink)"
      />
      <g textAnchor="middle">
        <text
          x={right - 6 - width / 2}
          y={middle + (narrow ? 5 : -2)}
          fontSize={narrow ? 12 : 15}
          fontWeight={700}
        >
          {text}
        </text>
        {!narrow && (
          <text x={right - 6 - width / 2} y={middle + 13} fontSize={12} className="plate" fontWeight={600}>
            {chance}
          </text>
        )}
      </g>
    </g>
  )
}

/** Seconds of a cast in layers of a quarter metre. */
function layerBars(simulation: Drawn, bottomM: number): { top: number; bottom: number; seconds: number }[] {
  const size = bottomM > 12 ? 0.5 : 0.25
  const layers = simulation.flies[0]?.layer_s ?? []
  const per = Math.round(size / simulation.layer_m)
  const bars = []
  for (let i = 0; i < layers.length; i += per) {
    const top = i * simulation.layer_m
    const seconds = layers.slice(i, i + per).reduce((sum, s) => sum + s, 0)
    if (top < bottomM) bars.push({ top, bottom: Math.min(top + size, bottomM), seconds })
  }
  return bars
}

/** Where flies have been all day, in the same layers. */
function spentBars(spent: readonly { depth_m: number; minutes: number }[], bottomM: number) {
  const size = bottomM > 12 ? 0.5 : 0.25
  const seconds = new Map<number, number>()
  for (const { depth_m, minutes } of spent) {
    const layer = Math.floor(depth_m / size)
    seconds.set(layer, (seconds.get(layer) ?? 0) + 60 * minutes)
  }
  return [...seconds]
    .filter(([layer]) => layer * size < bottomM)
    .map(([layer, s]) => ({ top: layer * size, bottom: Math.min((layer + 1) * size, bottomM), seconds: s }))
}
