/** The day as a row of columns: how bright each hour is, and where they likely feed. */
import { scaleLinear } from 'd3-scale'
import { useMemo } from 'react'
import { useDayStrip, useForecast } from '../../queries/hooks'
import type { Conditions, Schemas } from '../../api/client'
import { useWidth } from '../../column/useWidth'
import { hourOf, instantOf } from '../../format/clock'
import { compass, format, number, range, toShown, words } from '../../format/units'
import { useUnits } from '../../state/person'
import { Trouble, Waiting } from '../../ui/Notice'

const HEIGHT = 250
const TOP = 34
const LEFT = 46
const BED = 12
/** Three lines under the water: the likeliest food, the top's temperature, and the wind. */
const ROWS = 74

interface DayStripProps {
  conditions: Conditions
  /** Of the water. */
  timeZone: string
  deepestM: number
}

export function DayStrip({ conditions, timeZone, deepestM }: DayStripProps) {
  const forecast = useForecast(conditions.water_id)
  const told = useMemo(
    () => hoursOf(forecast.data?.hours ?? [], instantOf(timeZone, conditions.at_local)),
    [forecast.data, timeZone, conditions.at_local],
  )
  const strip = useDayStrip(conditions, told)
  const units = useUnits()
  if (strip.isError) return <Trouble error={strip.error} />
  if (!strip.data) return <Waiting what="Reading the day hour by hour…" />
  const { low_light, sunrise, sunset, notes } = strip.data
  return (
    <div>
      <StripDrawing strip={strip.data} deepestM={deepestM} now={hourOf(conditions.at_local)} />
      <p className="text-[0.9375rem]">
        {sunrise && sunset && `Sun from ${sunrise} to ${sunset}. `}
        {low_light.length > 0 &&
          `Low light ${low_light.map((span) => `${span.begins} to ${span.ends}`).join(' and ')}. `}
        {notes.map((note) => words(note, units)).join(' ')}
      </p>
      <p className="text-sm text-soft">{wherefrom(forecast.data, told.length > 0)}</p>
    </div>
  )
}

const HALF_STRIP_MS = 24 * 3_600_000

/** The forecast hours within a day of the outing; none when the forecast does not reach it. */
function hoursOf(hours: readonly Schemas['ForecastHourOut'][], at: number): Schemas['ForecastHourIn'][] {
  return hours
    .filter((hour) => Math.abs(new Date(hour.at).getTime() - at) < HALF_STRIP_MS)
    .slice(0, 48)
    .map(({ at, wind_speed_mps, wind_from_deg, cloud_fraction, air_c }) => ({
      at,
      wind_speed_mps: Math.min(wind_speed_mps, 40),
      wind_from_deg: wind_from_deg % 360,
      cloud_fraction,
      air_c,
    }))
}

function wherefrom(forecast: Schemas['ForecastOut'] | undefined, reaches: boolean): string {
  const asGiven = 'Sky and wind as given for the whole day: a guess that a change of weather undoes.'
  if (!forecast || forecast.state === 'absent') return `${forecast?.why ?? ''} ${asGiven}`.trim()
  if (!reaches) return `The forecast does not reach this day. ${asGiven}`
  return forecast.state === 'late'
    ? forecast.why
    : 'Sky and wind from the forecast; the top’s temperature is a guess.'
}

interface StripDrawingProps {
  strip: Schemas['DayStripOut']
  deepestM: number
  /** The hour that the rest of the page is about, two digits. */
  now: string
}

function StripDrawing({ strip, deepestM, now }: StripDrawingProps) {
  const [ref, width] = useWidth()
  const units = useUnits()
  const y = scaleLinear()
    .domain([0, deepestM])
    .range([TOP, HEIGHT - BED])
  const hours = strip.hours
  const step = Math.max((width - LEFT) / Math.max(hours.length, 1), 1)
  const ticks = y.ticks(6)
  return (
    <div ref={ref} style={{ minHeight: HEIGHT + ROWS }}>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT + ROWS}
          className="block"
          role="img"
          aria-label={hours
            .map(
              (h) =>
                `${h.clock}: ${range('depth', h.top_m, h.bottom_m, units)}, ${h.food_name}, top ${format('temperature', h.surface_c, units)}, wind ${format('wind', h.wind_speed_mps, units)} from ${compass(h.wind_from_deg)}`,
            )
            .join('; ')}
        >
          {ticks.map((tick) => (
            <text
              key={tick}
              x={LEFT - 8}
              y={y(tick) + 5}
              textAnchor="end"
              className="plate"
              fontSize={14}
              fontWeight={600}
              fill="var(--ink)"
            >
              {format('depth', tick, units).split(' ')[0]}
            </text>
          ))}
          {hours.map((hour, i) => (
            <HourBar
              key={hour.at}
              hour={hour}
              x={LEFT + i * step}
              step={step}
              y={y}
              deepestM={deepestM}
              here={hour.clock.slice(0, 2) === now}
              named={i % (step < 30 ? 3 : 1) === 0}
            />
          ))}
          <line x1={LEFT} x2={width} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth={2} />
          <FoodSpans hours={hours} step={step} />
          <g className="plate" fontSize={12} fontWeight={600} fill="var(--soft)" textAnchor="end">
            <text x={LEFT - 6} y={HEIGHT + 22}>
              food
            </text>
            <text x={LEFT - 6} y={HEIGHT + 42}>
              top
            </text>
            <text x={LEFT - 6} y={HEIGHT + 65}>
              wind
            </text>
          </g>
        </svg>
      )}
    </div>
  )
}

interface HourBarProps {
  hour: Schemas['HourOut']
  x: number
  step: number
  y(depthM: number): number
  deepestM: number
  /** Whether it is the hour in hand, and whether there is room to name it. */
  here: boolean
  named: boolean
}

function HourBar({ hour, x, step, y, deepestM, here, named }: HourBarProps) {
  const units = useUnits()
  return (
    <g>
      <rect
        x={x}
        y={y(0)}
        width={step - 2}
        height={y(deepestM) - y(0)}
        fill={`color-mix(in oklab, var(--water-light) ${Math.round(100 * Math.min(hour.brightness * 1.3, 1))}%, var(--water-dark))`}
      />
      <rect x={x} y={y(deepestM)} width={step - 2} height={BED} fill="var(--bed)" />
      <rect
        x={x + 3}
        y={y(hour.top_m)}
        width={Math.max(step - 8, 2)}
        height={Math.max(y(hour.bottom_m) - y(hour.top_m), 3)}
        fill="var(--fish)"
        stroke="var(--fish-ink)"
        strokeWidth={here ? 2.5 : 1}
      />
      <line
        x1={x + 3}
        x2={x + step - 5}
        y1={y(hour.mean_m)}
        y2={y(hour.mean_m)}
        stroke="var(--fish-ink)"
        strokeWidth={2}
      />
      {(named || here) && (
        <text
          x={x + step / 2 - 1}
          y={24}
          textAnchor="middle"
          className="plate"
          fontSize={13}
          fontWeight={here ? 800 : 600}
          fill={here ? 'var(--hot)' : 'var(--soft)'}
        >
          {hour.clock.slice(0, 2)}
        </text>
      )}
      {(named || here) && (
        <g className="plate" fontSize={13} fontWeight={600} fill="var(--ink)">
          <text x={x + step / 2 - 1} y={HEIGHT + 42} textAnchor="middle">
            {Math.round(toShown('temperature', hour.surface_c, units))}°
          </text>
          <WindArrow x={x + step / 2 - 9} y={HEIGHT + 60} fromDeg={hour.wind_from_deg} />
          <text x={x + step / 2 + 1} y={HEIGHT + 65}>
            {number('wind', hour.wind_speed_mps, units).split('.')[0]}
          </text>
        </g>
      )}
      {here && <path d={`M${x + step / 2 - 7} ${TOP - 6}h12l-6 6Z`} fill="var(--hot)" aria-hidden="true" />}
    </g>
  )
}

function FoodSpans({ hours, step }: { hours: readonly Schemas['HourOut'][]; step: number }) {
  return (
    <>
      {foodSpans(hours).map((span) => (
        <g key={span.from}>
          <path
            d={`M${LEFT + span.from * step + 1} ${HEIGHT + 4}v5H${LEFT + span.to * step - 3}v-5`}
            fill="none"
            stroke="var(--fish-ink)"
            strokeWidth={1.4}
          />
          <text
            x={LEFT + ((span.from + span.to) / 2) * step}
            y={HEIGHT + 22}
            textAnchor="middle"
            className="plate"
            fontSize={12}
            fontWeight={700}
            fill="var(--fish-ink)"
          >
            {shortened(span.name, (span.to - span.from) * step)}
          </text>
        </g>
      ))}
    </>
  )
}

/** Runs of hours with the same likeliest food. */
function foodSpans(hours: readonly Schemas['HourOut'][]): { name: string; from: number; to: number }[] {
  const spans: { name: string; from: number; to: number }[] = []
  for (const [i, hour] of hours.entries()) {
    const last = spans.at(-1)
    if (last?.name === hour.food_name) last.to = i + 1
    else spans.push({ name: hour.food_name, from: i, to: i + 1 })
  }
  return spans
}

const LETTER_PX = 6.2

function shortened(name: string, roomPx: number): string {
  const letters = Math.floor(roomPx / LETTER_PX)
  if (name.length <= letters) return name
  return letters < 4 ? '' : `${name.slice(0, letters - 1)}…`
}

/** An arrow the way the wind blows. */
function WindArrow({ x, y, fromDeg }: { x: number; y: number; fromDeg: number }) {
  return (
    <path
      d="M0 7V-7M-4 -2L0 -7L4 -2"
      transform={`translate(${x} ${y}) rotate(${fromDeg + 180})`}
      fill="none"
      stroke="var(--ink)"
      strokeWidth={1.8}
    />
  )
}
