/** The Column: one drawing of the water, depth downward, that serves every step. */
import { useId, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Drawn, Picture } from '../api/client'
import { format, depthUnitM } from '../format/units'
import { useUnits } from '../state/person'
import { FeedingLane } from './FeedingLane'
import { FromAbove } from './FromAbove'
import { layOut, type Geometry } from './geometry'
import { readoutAt, Readout } from './Readout'
import { distanceScale, SectionLane } from './SectionLane'
import { TemperatureLane } from './TemperatureLane'
import { useWidth } from './useWidth'

/** The view from above takes so much of the drawing's height at most [px]. */
const STRIP_PX = 84

export interface ColumnProps {
  picture: Picture
  simulation?: Drawn | undefined
  /** Seconds since the fly landed, for the moment drawn. */
  timeS?: number
  /** Height of the drawing [px]. */
  heightPx: number
  /** Depths [m] at which fish took, drawn as marks. */
  takes?: readonly { low_m: number; high_m: number }[]
  /** Minutes that flies have been at depths so far, in the place of one cast's. */
  spent?: readonly { depth_m: number; minutes: number }[]
  className?: string
}

export function Column({
  picture,
  simulation,
  timeS = 0,
  heightPx,
  takes = [],
  spent,
  className = '',
}: ColumnProps) {
  const [ref, width] = useWidth()
  const [cursorM, setCursorM] = useState<number | null>(null)
  const units = useUnits()
  const id = useId()
  const bottomM = picture.deepest_m
  const abovePx = simulation?.side ? Math.min(Math.round(0.17 * heightPx), STRIP_PX) : 0
  const depthPx = heightPx - abovePx
  const geometry = width > 0 ? layOut(width, depthPx, bottomM, simulation !== undefined) : null

  const clamp = (depthM: number) => Math.min(Math.max(depthM, 0), bottomM)
  const point = (event: PointerEvent<SVGSVGElement>) => {
    if (!geometry) return
    const box = event.currentTarget.getBoundingClientRect()
    setCursorM(clamp(geometry.y.invert(event.clientY - box.top)))
  }
  const press = (event: KeyboardEvent) => {
    const step = { ArrowDown: 0.1, ArrowUp: -0.1, PageDown: 1, PageUp: -1 }[event.key]
    if (step !== undefined) {
      event.preventDefault()
      setCursorM((before) => clamp(Math.round(((before ?? 0) + step) * 10) / 10))
    } else if (event.key === 'Escape') setCursorM(null)
  }

  const said = readoutAt(picture, simulation, cursorM ?? picture.belief.mean_m, units)
  return (
    <div ref={ref} className={`relative ${className}`}>
      <div
        role="slider"
        tabIndex={0}
        aria-label="Depth in the Column"
        aria-orientation="vertical"
        aria-valuemin={0}
        aria-valuemax={bottomM}
        aria-valuenow={Math.round((cursorM ?? picture.belief.mean_m) * 10) / 10}
        aria-valuetext={said.text}
        aria-describedby={`${id}-table`}
        onKeyDown={press}
        onBlur={() => setCursorM(null)}
        style={{ height: depthPx }}
      >
        {geometry && (
          <svg
            width={geometry.width}
            height={geometry.height}
            aria-hidden="true"
            className="block touch-pan-y select-none"
            onPointerMove={point}
            onPointerDown={point}
            onPointerLeave={() => setCursorM(null)}
          >
            <Ruler geometry={geometry} />
            <TemperatureLane geometry={geometry} picture={picture} />
            <SectionLane
              geometry={geometry}
              picture={picture}
              simulation={simulation}
              timeS={timeS}
              takes={takes}
            />
            <FeedingLane geometry={geometry} picture={picture} simulation={simulation} spent={spent} />
            {cursorM !== null && <Cursor geometry={geometry} depthM={cursorM} />}
          </svg>
        )}
      </div>
      {geometry && simulation?.side && (
        <FromAbove
          run={simulation}
          timeS={timeS}
          lane={geometry.section}
          x={distanceScale(geometry, simulation)}
          width={geometry.width}
          heightPx={abovePx}
        />
      )}
      {cursorM !== null && geometry && <Readout geometry={geometry} depthM={cursorM} said={said} />}
      <ColumnTable id={`${id}-table`} picture={picture} simulation={simulation} />
    </div>
  )
}

function Ruler({ geometry }: { geometry: Geometry }) {
  const units = useUnits()
  const { y, ruler, width, deepestM } = geometry
  const perUnit = depthUnitM(units)
  const shown = deepestM / perUnit
  const room = (geometry.bottom - geometry.top) / 26
  const step = [0.5, 1, 2, 5, 10, 20, 50].find((s) => shown / s <= room) ?? 100
  const ticks = Array.from({ length: Math.floor(shown / step + 1e-6) + 1 }, (_, i) => i * step)
  return (
    <g className="plate" fill="var(--ink)" fontSize={14} fontWeight={600}>
      <text x={ruler.width - 10} y={geometry.top - 26} textAnchor="end" fontSize={12} fill="var(--soft)">
        {units.depth_unit}
      </text>
      {ticks.map((tick) => (
        <g key={tick}>
          <text x={ruler.width - 10} y={y(tick * perUnit) + 5} textAnchor="end">
            {tick}
          </text>
          <line
            x1={ruler.width - 6}
            x2={tick === 0 ? width : ruler.width}
            y1={y(tick * perUnit)}
            y2={y(tick * perUnit)}
            stroke="var(--ink)"
            strokeWidth={tick === 0 ? 2 : 1.25}
          />
        </g>
      ))}
    </g>
  )
}

function Cursor({ geometry, depthM }: { geometry: Geometry; depthM: number }) {
  const y = geometry.y(depthM)
  return (
    <line
      x1={geometry.ruler.width}
      x2={geometry.width}
      y1={y}
      y2={y}
      stroke="var(--ink)"
      strokeDasharray="2 3"
    />
  )
}

/** The same facts as a table, for those who read it with their ears. */
function ColumnTable({
  id,
  picture,
  simulation,
}: {
  id: string
  picture: Picture
  simulation?: Drawn | undefined
}) {
  const units = useUnits()
  const step = picture.deepest_m > 6 ? 1 : 0.5
  const depths = Array.from({ length: Math.floor(picture.deepest_m / step) + 1 }, (_, i) => i * step)
  return (
    <div className="sr-only">
      <table id={id}>
        <caption>The water by depth</caption>
        <thead>
          <tr>
            <th>Depth</th>
            <th>What is there</th>
          </tr>
        </thead>
        <tbody>
          {depths.map((depthM) => (
            <tr key={depthM}>
              <th scope="row">{format('depth', depthM, units)}</th>
              <td>{readoutAt(picture, simulation, depthM, units).text}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
