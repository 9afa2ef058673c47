/** The water's year: how warm at each depth on each day, worked out from the weather and pulled by what was read. */
import { scaleLinear } from 'd3-scale'
import { useState } from 'react'
import type { Water } from '../api/client'
import { dateWords, monthShort } from '../format/clock'
import { depthUnitM, format, number, scaleOf, words, type Units } from '../format/units'
import { useWidth } from '../column/useWidth'
import { useUnits } from '../state/person'
import { at, brokenPath, runsOf, SHADES_C, type LakeDay, type LakeYear as Year } from './lakeYear'

const HEIGHT = 300
const LEFT = 38
const TOP = 22
const BOTTOM = 26
const ICE_PX = 8
const MONTH_PX = 24

export function LakeYear({ year, water }: { year: Year; water: Water }) {
  const units = useUnits()
  const [box, width] = useWidth()
  const last = year.days.length - 1
  const today = year.days.findLastIndex((day) => !day.ahead)
  const [chosen, setChosen] = useState<number | null>(null)
  const picked = Math.min(chosen ?? Math.max(today, 0), last)
  const day = year.days[picked]
  if (!day) return null
  return (
    <section aria-label={`The year of ${water.name}`}>
      {year.changed && (
        <p className="border-l-[6px] border-fish-ink bg-care px-3 py-1.5 font-semibold">
          {words(year.changed, units)}
        </p>
      )}
      <DayWords day={day} year={year} units={units} />
      <div ref={box} className="mt-2">
        {width > 0 && (
          <HeatMap year={year} width={width} picked={picked} today={today} onPick={setChosen} units={units} />
        )}
      </div>
      <label className="mt-1 block">
        <span className="sr-only">Day</span>
        <input
          type="range"
          min={0}
          max={last}
          value={picked}
          aria-valuetext={dateWords(day.on)}
          onChange={(event) => setChosen(Number(event.target.value))}
          className="h-11 accent-(--ink)"
          style={{ marginLeft: LEFT - 8, width: `calc(100% - ${LEFT - 8}px)` }}
        />
      </label>
      <Legend units={units} />
      <Table year={year} units={units} />
    </section>
  )
}

function DayWords({ day, year, units }: { day: LakeDay; year: Year; units: Units }) {
  const bottom = 2 * (year.depth_m.at(-1) ?? 0) - (year.depth_m.at(-2) ?? 0)
  const ice = day.ice_m >= 0.01
  return (
    <p className="mt-2 min-h-16" aria-live="polite">
      <span className="eyebrow block">
        {dateWords(day.on)}
        {day.ahead && ', forecast'}
      </span>
      <span className="plate text-2xl font-bold">
        {ice ? 'under ice' : `${format('temperature', at(day, year.depth_m, 0.5), units)} at the top`}
      </span>{' '}
      {day.thermocline_m !== null && <>thermocline at {format('depth', day.thermocline_m, units)}, </>}
      {format('temperature', day.water_c.at(-1) ?? 0, units)} at {format('depth', bottom, units)}
      {day.thermocline_m === null && !ice && ': no layer'}
      {day.oxygen_limit_m !== null && <>; little oxygen below {format('depth', day.oxygen_limit_m, units)}</>}
      {ice && (
        <strong className="block text-hot">
          Ice by our reckoning is no ice to walk on: ask those on the spot, and measure it.
        </strong>
      )}
    </p>
  )
}

interface MapProps {
  year: Year
  width: number
  picked: number
  today: number
  onPick(day: number): void
  units: Units
}

const fillOf = (shade: number) => `var(--warmth-${shade})`

function HeatMap({ year, width, picked, today, onPick, units }: MapProps) {
  const deepest = 2 * (year.depth_m.at(-1) ?? 1) - (year.depth_m.at(-2) ?? 0)
  const step = (width - LEFT) / year.days.length
  const x = (i: number) => LEFT + step * i
  const middle = (i: number) => x(i) + step / 2
  const y = scaleLinear()
    .domain([0, deepest])
    .range([TOP, HEIGHT - BOTTOM])
  const pick = (clientX: number, element: SVGSVGElement) => {
    const i = Math.floor((clientX - element.getBoundingClientRect().left - LEFT) / step)
    if (i >= 0 && i < year.days.length) onPick(i)
  }
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label="Temperature by depth and date; the table below has the same"
      className="block touch-pan-y select-none"
      onPointerMove={(event) =>
        (event.buttons > 0 || event.pointerType === 'mouse') && pick(event.clientX, event.currentTarget)
      }
      onPointerDown={(event) => pick(event.clientX, event.currentTarget)}
    >
      {year.days.map((day, i) =>
        runsOf(day, year.depth_m).map((run) => (
          <rect
            key={`${day.on}-${run.top_m}`}
            x={x(i)}
            y={y(run.top_m)}
            width={step + 0.4}
            height={y(run.bottom_m) - y(run.top_m) + 0.4}
            fill={fillOf(run.shade)}
          />
        )),
      )}
      {year.days.map(
        (day, i) =>
          day.ice_m >= 0.01 && (
            <rect
              key={day.on}
              x={x(i)}
              y={TOP - ICE_PX}
              width={step + 0.4}
              height={ICE_PX}
              fill="var(--soft)"
            />
          ),
      )}
      {today >= 0 && today < year.days.length - 1 && (
        <g>
          <rect
            x={x(today + 1)}
            y={TOP}
            width={width - x(today + 1)}
            height={HEIGHT - BOTTOM - TOP}
            fill="var(--sheet)"
            fillOpacity={0.28}
          />
          <line x1={x(today + 1)} x2={x(today + 1)} y1={TOP - 6} y2={HEIGHT - BOTTOM} stroke="var(--ink)" />
          <text
            x={x(today + 1) - 4}
            y={14}
            textAnchor="end"
            className="plate"
            fontSize={12}
            fontWeight={600}
            fill="var(--ink)"
          >
            today
          </text>
        </g>
      )}
      <path
        d={brokenPath(
          year.days.map((day) => day.thermocline_m),
          middle,
          y,
        )}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={2}
        strokeDasharray="7 4"
      />
      <path
        d={brokenPath(
          year.days.map((day) => day.oxygen_limit_m),
          middle,
          y,
        )}
        fill="none"
        stroke="var(--hot)"
        strokeWidth={2.5}
        strokeDasharray="1.5 4"
        strokeLinecap="round"
      />
      <Dots year={year} x={middle} y={y} deepest={deepest} />
      <line
        x1={middle(picked)}
        x2={middle(picked)}
        y1={TOP}
        y2={HEIGHT - BOTTOM}
        stroke="var(--ink)"
        strokeWidth={1.5}
      />
      <Axes year={year} x={x} y={y} deepest={deepest} units={units} />
    </svg>
  )
}

interface AxesProps {
  year: Year
  x(day: number): number
  y(m: number): number
  deepest: number
  units: Units
}

function Dots({ year, x, y, deepest }: Omit<AxesProps, 'units'>) {
  const index = new Map(year.days.map((day, i) => [day.on, i]))
  return (
    <g>
      {year.readings.map((reading) => {
        const i = index.get(reading.at.slice(0, 10))
        return (
          i !== undefined &&
          reading.depth_m <= deepest && (
            <circle
              key={`${reading.at}-${reading.depth_m}`}
              cx={x(i)}
              cy={y(reading.depth_m)}
              r={3}
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth={1.5}
            />
          )
        )
      })}
    </g>
  )
}

function Axes({ year, x, y, deepest, units }: AxesProps) {
  const ticks = scaleLinear()
    .domain([0, deepest / depthUnitM(units)])
    .ticks(5)
  return (
    <g className="plate" fontSize={12} fontWeight={600} fill="var(--ink)">
      {ticks.map((depth) => (
        <text key={depth} x={LEFT - 6} y={y(depth * depthUnitM(units)) + 4} textAnchor="end">
          {depth}
        </text>
      ))}
      <text x={0} y={14}>
        {scaleOf('depth', units).label}
      </text>
      {year.days.map(
        (day, i) =>
          day.on.endsWith('-01') &&
          x(i) + MONTH_PX < x(year.days.length) && (
            <g key={day.on}>
              <line x1={x(i)} x2={x(i)} y1={HEIGHT - BOTTOM} y2={HEIGHT - BOTTOM + 5} stroke="var(--ink)" />
              <text x={x(i) + 3} y={HEIGHT - 8}>
                {monthShort(day.on)}
              </text>
            </g>
          ),
      )}
    </g>
  )
}

function Legend({ units }: { units: Units }) {
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-5 gap-y-1 text-sm">
      <span className="flex items-center" aria-hidden="true">
        {SHADES_C.map((edge, shade) => (
          <span key={edge} className="w-6 text-xs font-semibold sm:w-8">
            <span className="block h-4" style={{ background: fillOf(shade) }} />
            {number('temperature', edge, units).replace('.0', '')}
          </span>
        ))}
        <span className="ml-1 whitespace-nowrap">{scaleOf('temperature', units).label} and up</span>
      </span>
      <span>
        <svg width={28} height={8} aria-hidden="true" className="mr-1 inline">
          <line x1={0} x2={28} y1={4} y2={4} stroke="var(--ink)" strokeWidth={2} strokeDasharray="7 4" />
        </svg>
        thermocline
      </span>
      <span>
        <svg width={28} height={8} aria-hidden="true" className="mr-1 inline">
          <line
            x1={1}
            x2={28}
            y1={4}
            y2={4}
            stroke="var(--hot)"
            strokeWidth={2.5}
            strokeDasharray="1.5 4"
            strokeLinecap="round"
          />
        </svg>
        too little oxygen below
      </span>
      <span>
        <svg width={10} height={10} aria-hidden="true" className="mr-1 inline">
          <circle cx={5} cy={5} r={3} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.5} />
        </svg>
        read
      </span>
    </div>
  )
}

function Table({ year, units }: { year: Year; units: Units }) {
  const weekly = year.days.filter((_, i) => (year.days.length - 1 - i) % 7 === 0)
  const depth = (m: number | null) => (m === null ? 'none' : format('depth', m, units))
  return (
    <details className="mt-2">
      <summary className="flex min-h-11 cursor-pointer items-center font-semibold">
        As a table, week by week
      </summary>
      <div className="overflow-x-auto">
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="border-b-2 border-ink">
              <th scope="col">Day</th>
              <th scope="col">Top</th>
              <th scope="col">Thermocline</th>
              <th scope="col">Bottom</th>
              <th scope="col">Little oxygen below</th>
              <th scope="col">Ice</th>
            </tr>
          </thead>
          <tbody>
            {weekly.map((day) => (
              <tr key={day.on} className="border-b border-rule">
                <th scope="row" className="py-1 font-semibold whitespace-nowrap">
                  {dateWords(day.on)}
                  {day.ahead && ' (forecast)'}
                </th>
                <td>{format('temperature', at(day, year.depth_m, 0.5), units)}</td>
                <td>{depth(day.thermocline_m)}</td>
                <td>{format('temperature', day.water_c.at(-1) ?? 0, units)}</td>
                <td>{depth(day.oxygen_limit_m)}</td>
                <td>{day.ice_m >= 0.01 ? format('depth', day.ice_m, units) : 'none'}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  )
}
