/** Temperature against depth: what was read as dots, what is guessed as a widening ribbon. */
import { extent } from 'd3-array'
import { scaleLinear } from 'd3-scale'
import { area, curveLinear, line } from 'd3-shape'
import { useId } from 'react'
import type { Picture } from '../api/client'
import { number, toShown } from '../format/units'
import { useUnits } from '../state/person'
import type { Geometry } from './geometry'
import { OxygenThread } from './OxygenThread'

export function TemperatureLane({ geometry, picture }: { geometry: Geometry; picture: Picture }) {
  const units = useUnits()
  const { y, temperature: lane } = geometry
  const { depth_m, water_c, spread_c } = picture.profile
  const at = depth_m.map((_, i) => i)
  const low = (i: number) => (water_c[i] ?? 0) - (spread_c[i] ?? 0)
  const high = (i: number) => (water_c[i] ?? 0) + (spread_c[i] ?? 0)
  const others = [...picture.earlier.flatMap((e) => e.readings), ...picture.readings].map((r) => r.water_c)
  const [coldest = 0, warmest = 20] = extent([...at.map(low), ...at.map(high), ...others])
  const x = scaleLinear()
    .domain([coldest - 1, warmest + 1])
    .range([lane.left + 8, lane.left + lane.width - 8])
  const depth = (i: number) => y(depth_m[i] ?? 0)
  const ribbon = area<number>()
    .x0((i) => x(low(i)))
    .x1((i) => x(high(i)))
    .y(depth)
    .curve(curveLinear)
  const thread = line<number>()
    .x((i) => x(water_c[i] ?? 0))
    .y(depth)
  const measured = picture.profile.measured_to_m
  const deepReading = picture.readings.at(-1)
  const thermocline = picture.layers.thermocline_m
  const wide = lane.width > 100
  const unread = picture.unread.some((each) => each.name === 'surface_c')
  return (
    <g>
      <text x={lane.left + 8} y={16} className="plate" fontSize={13} fontWeight={600} fill="var(--soft)">
        {wide ? 'Temperature' : 'Temp.'}
      </text>
      <text
        x={lane.left + lane.width - 8}
        y={16}
        textAnchor="end"
        className="plate"
        fontSize={12}
        fill="var(--soft)"
      >
        °{units.temperature_unit}
      </text>
      <ComfortBands geometry={geometry} picture={picture} />
      <path d={ribbon(at) ?? ''} fill="var(--ink)" fillOpacity={0.16} />
      {picture.earlier.map((earlier) => (
        <Earlier
          key={earlier.clock}
          earlier={earlier}
          geometry={geometry}
          x={x}
          deepestM={picture.deepest_m}
        />
      ))}
      <path
        d={thread(at.filter((i) => (depth_m[i] ?? 0) <= measured + 0.06)) ?? ''}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2.25}
      />
      <path
        d={thread(at.filter((i) => (depth_m[i] ?? 0) >= measured - 0.06)) ?? ''}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2}
        strokeDasharray="3 4"
      />
      <Readings geometry={geometry} picture={picture} x={x} />
      <OxygenThread geometry={geometry} picture={picture} />
      <Value
        x={x(water_c[0] ?? 0)}
        y={y(0) - 8}
        text={`${unread ? '≈' : ''}${number('temperature', water_c[0] ?? 0, units)}`}
      />
      {deepReading && (
        <Value
          x={Math.min(x(water_c.at(-1) ?? 0), lane.left + lane.width - 26)}
          y={y(picture.deepest_m) + 18}
          text={`${measured < picture.deepest_m - 0.5 ? '≈' : ''}${toShown('temperature', water_c.at(-1) ?? 0, units).toFixed(0)}`}
        />
      )}
      {wide && picture.comfort_bands[0] && (
        <Haloed
          x={lane.left + 10}
          y={comfortableAt(geometry, picture.comfort_bands[0].top_m, thermocline)}
          text="comfortable"
          fill="var(--calm)"
        />
      )}
      {thermocline !== null && <Thermocline geometry={geometry} depthM={thermocline} named={wide} />}
    </g>
  )
}

const WORD_PX = 16

/** Where “comfortable” stands: at the band's top, clear of the word at the thermocline. */
function comfortableAt({ y, bottom, top }: Geometry, topM: number, thermoclineM: number | null): number {
  const wanted = Math.min(y(topM) + 20, bottom - 8)
  const other = thermoclineM === null ? -Infinity : y(thermoclineM) - 6
  if (Math.abs(wanted - other) >= WORD_PX) return wanted
  const below = other + 6 + WORD_PX
  return below < bottom - 4 ? below : Math.max(other - WORD_PX, top + 12)
}

interface LaneProps {
  geometry: Geometry
  picture: Picture
}

function ComfortBands({ geometry: { y, temperature: lane }, picture }: LaneProps) {
  const hatch = useId()
  return (
    <g>
      <defs>
        <pattern id={hatch} width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1={0} x2={0} y1={0} y2={7} stroke="var(--calm)" strokeWidth={1.4} strokeOpacity={0.55} />
        </pattern>
      </defs>
      {picture.comfort_bands.map((band) => (
        <g key={band.top_m}>
          <rect
            x={lane.left}
            width={lane.width}
            y={y(band.top_m)}
            height={Math.max(y(band.bottom_m) - y(band.top_m), 2)}
            fill={`url(#${hatch})`}
          />
          <rect
            x={lane.left}
            width={4}
            y={y(band.top_m)}
            height={Math.max(y(band.bottom_m) - y(band.top_m), 2)}
            fill="var(--calm)"
          />
        </g>
      ))}
    </g>
  )
}

function Readings({
  geometry: { y, temperature: lane },
  picture,
  x,
}: LaneProps & { x(waterC: number): number }) {
  const flagged = new Set(picture.flags.filter((f) => !f.followed).map((f) => f.depth_m))
  // What is assumed at the top was not read: it has no dot.
  const assumed = picture.unread.some((each) => each.name === 'surface_c')
  return (
    <>
      {picture.readings
        .filter((r) => r.depth_m <= picture.deepest_m && !(assumed && r.depth_m === 0))
        .map((r) =>
          flagged.has(r.depth_m) ? (
            <Odd key={r.depth_m} x={x(r.water_c)} y={y(r.depth_m)} right={lane.left + lane.width} />
          ) : (
            <circle
              key={r.depth_m}
              cx={x(r.water_c)}
              cy={y(r.depth_m)}
              r={3.6}
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth={2}
            />
          ),
        )}
    </>
  )
}

interface ThermoclineProps {
  geometry: Geometry
  depthM: number
  named: boolean
}

function Thermocline({ geometry, depthM, named }: ThermoclineProps) {
  const { y, temperature: lane } = geometry
  return (
    <g>
      <line
        x1={lane.left}
        x2={geometry.section.left + geometry.section.width}
        y1={y(depthM)}
        y2={y(depthM)}
        stroke="var(--ink)"
        strokeWidth={1.25}
        strokeDasharray="7 4"
      />
      {named && <Haloed x={lane.left + 10} y={y(depthM) - 6} text="thermocline" fill="var(--ink)" />}
    </g>
  )
}

/** A reading that is shown and not followed. */
function Odd({ x, y, right }: { x: number; y: number; right: number }) {
  const fits = x + 34 < right
  return (
    <g stroke="var(--hot)" strokeWidth={2.4}>
      <path d={`M${x - 5} ${y - 5}l10 10M${x - 5} ${y + 5}l10 -10`} />
      <text
        x={fits ? x + 9 : x - 9}
        y={y + 4}
        textAnchor={fits ? 'start' : 'end'}
        className="plate"
        fontSize={12}
        fontWeight={700}
        fill="var(--hot)"
        stroke="none"
      >
        odd
      </text>
    </g>
  )
}

interface EarlierProps {
  earlier: Picture['earlier'][number]
  geometry: Geometry
  x(waterC: number): number
  deepestM: number
}

/** Temperatures read earlier in the day, thin and named by their hour. */
function Earlier({ earlier, geometry, x, deepestM }: EarlierProps) {
  const inside = earlier.readings.filter((r) => r.depth_m <= deepestM)
  const last = inside.at(-1)
  if (!last) return null
  return (
    <g>
      <path
        d={`M${inside.map((r) => `${x(r.water_c)} ${geometry.y(r.depth_m)}`).join('L')}`}
        fill="none"
        stroke="var(--soft)"
        strokeWidth={1.2}
      />
      {inside.map((r) => (
        <circle key={r.depth_m} cx={x(r.water_c)} cy={geometry.y(r.depth_m)} r={2} fill="var(--soft)" />
      ))}
      <Haloed
        x={x(last.water_c) + 5}
        y={geometry.y(last.depth_m) - 4}
        text={earlier.clock}
        fill="var(--soft)"
      />
    </g>
  )
}

function Value({ x, y, text }: { x: number; y: number; text: string }) {
  return (
    <text x={x} y={y} textAnchor="middle" className="plate" fontSize={14} fontWeight={700} fill="var(--ink)">
      {text}
    </text>
  )
}

/** Small print that stays readable over hatching. */
function Haloed({ x, y, text, fill }: { x: number; y: number; text: string; fill: string }) {
  return (
    <text
      x={x}
      y={y}
      className="plate"
      fontSize={13}
      fontWeight={600}
      fill={fill}
      stroke="var(--paper)"
      strokeWidth={4}
      paintOrder="stroke"
    >
      {text}
    </text>
  )
}
