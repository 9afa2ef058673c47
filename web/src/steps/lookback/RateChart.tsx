/** Takes an hour, way by way: a table whose middle is the chart. A dot is the mean, its line the nine-in-ten interval. */
import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../../api/client'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { saveCsv } from '../../ui/csv'
import { nameOf } from './names'

export type Chart = Schemas['RatesOut']
type Way = Schemas['RateOut']

const WIDTH = 190
const ROW = 26

interface RateChartProps {
  chart: Chart
  title: string
  /** Only the best few, in their order. */
  most?: number
  file?: string
}

export function RateChart({ chart, title, most, file }: RateChartProps) {
  const ways = most === undefined ? chart.ways : shortened(chart, most)
  const x = scaleOf(ways)
  if (chart.ways.length === 0) return <p className="text-soft">Nothing was fished here yet.</p>
  return (
    <div className="min-w-0">
      <Table chart={chart} ways={ways} x={x} title={title} />
      <p className="mt-1 flex flex-wrap items-center justify-between gap-x-4 text-sm text-soft">
        <span>
          {chart.of === 'takes' ? 'Takes' : 'Fish landed'} an hour of the fly there, with where it lies nine
          times in ten. Hollow: under two hours.
          {chart.left_out > 0 && ` ${chart.left_out} fished less are left out.`}
        </span>
        {file && (
          <Button look="quiet" className="screen-only px-0 text-sm" onClick={() => save(file, chart)}>
            Save as CSV
          </Button>
        )}
      </p>
    </div>
  )
}

/** The ways with most hours, in the order of the chart. */
function shortened(chart: Chart, most: number): Way[] {
  const kept = new Set(
    [...chart.ways]
      .sort((a, b) => b.hours - a.hours)
      .slice(0, most)
      .map((way) => way.key),
  )
  if (chart.best_key) kept.add(chart.best_key)
  return chart.ways.filter((way) => kept.has(way.key))
}

/** Up to where the well-known ways reach: one that was hardly fished does not squeeze the others. */
function scaleOf(ways: readonly Way[]) {
  const known = ways.filter((way) => !way.thin)
  const reach = Math.max(0.2, ...(known.length > 0 ? known : ways).map((way) => way.high_ph))
  return scaleLinear()
    .domain([0, 1.15 * reach])
    .range([0, WIDTH])
    .nice(4)
}

interface TableProps {
  chart: Chart
  ways: readonly Way[]
  x: ReturnType<typeof scaleOf>
  title: string
}

function Table({ chart, ways, x, title }: TableProps) {
  const units = useUnits()
  const ticks = x.ticks(4)
  const level = chart.by === 'depth' || chart.by === 'above_bottom'
  return (
    <table className="w-full border-collapse text-[0.9375rem] leading-tight">
      <caption className="sr-only">{title}</caption>
      <thead>
        <tr className="border-b-2 border-ink align-bottom text-left">
          <th scope="col" className="eyebrow pr-2 font-normal">
            {HEADS[chart.by]}
          </th>
          <th scope="col" className="w-[45%] font-normal" aria-label="Drawn">
            <svg viewBox={`0 0 ${WIDTH} 14`} className="block w-full" aria-hidden="true">
              {ticks.map((tick) => (
                <text
                  key={tick}
                  x={x(tick)}
                  y="11"
                  fontSize="13"
                  textAnchor={tick === 0 ? 'start' : x(tick) > WIDTH - 12 ? 'end' : 'middle'}
                  fill="var(--soft)"
                >
                  {tick}
                </text>
              ))}
            </svg>
          </th>
          <th scope="col" className="eyebrow pl-2 text-right font-normal">
            an hour
          </th>
          <th scope="col" className="eyebrow pl-2 text-right font-normal">
            of
          </th>
        </tr>
      </thead>
      <tbody>
        {ways.map((way) => (
          <tr
            key={way.key}
            className={`border-b border-rule ${way.key === chart.best_key ? 'font-bold' : ''} ${level ? 'bg-[var(--water-light)]' : ''}`}
          >
            <th scope="row" className="py-0.5 pr-2 pl-1 text-left font-[inherit] [overflow-wrap:anywhere]">
              {nameOf(chart.by, way, units)}
            </th>
            <td>
              <Strip way={way} x={x} ticks={ticks} best={chart.sure && way.key === chart.best_key} />
            </td>
            <td className="pl-2 text-right whitespace-nowrap">
              {rate(way.mean_ph)}
              <span className="block text-[0.8125rem] font-normal text-soft">
                {rate(way.low_ph)}–{rate(way.high_ph)}
              </span>
            </td>
            <td className="pr-1 pl-2 text-right text-[0.8125rem] font-normal whitespace-nowrap text-soft">
              {way.takes} in
              <br />
              {hoursOf(way.hours)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const HEADS: Record<Chart['by'], string> = {
  depth: 'Below the surface',
  above_bottom: 'Above the bottom',
  temperature: 'Top of the water',
  light: 'Light',
  wind: 'Wind',
  method: 'Method',
  fly: 'Point fly',
  line: 'Line',
  retrieve: 'Retrieve',
  spot: 'Spot',
  hour: 'Hour',
  month: 'Month',
}

interface StripProps {
  way: Way
  x: ReturnType<typeof scaleOf>
  ticks: readonly number[]
  best: boolean
}

function Strip({ way, x, ticks, best }: StripProps) {
  const high = Math.min(x(way.high_ph), WIDTH)
  const ink = best ? 'var(--fish-ink)' : 'var(--ink)'
  return (
    <svg viewBox={`0 0 ${WIDTH} ${ROW}`} className="block w-full" aria-hidden="true">
      {ticks.map((tick) => (
        <line key={tick} x1={x(tick)} x2={x(tick)} y1="0" y2={ROW} stroke="var(--rule)" />
      ))}
      <line
        x1={x(way.low_ph)}
        x2={high}
        y1={ROW / 2}
        y2={ROW / 2}
        stroke={ink}
        strokeWidth={way.thin ? 1.5 : 4}
        strokeDasharray={way.thin ? '3 3' : undefined}
      />
      {x(way.high_ph) > WIDTH && (
        <path
          d={`M${WIDTH - 7} ${ROW / 2 - 5}L${WIDTH - 1} ${ROW / 2}L${WIDTH - 7} ${ROW / 2 + 5}`}
          fill="none"
          stroke={ink}
        />
      )}
      <circle
        cx={Math.min(x(way.mean_ph), WIDTH - 6)}
        cy={ROW / 2}
        r={best ? 7 : 5.5}
        fill={way.thin ? 'var(--sheet)' : best ? 'var(--fish)' : 'var(--ink)'}
        stroke={ink}
        strokeWidth="1.5"
      />
    </svg>
  )
}

/** As many digits as it is known to. */
export const rate = (perHour: number): string => (perHour < 0.095 ? perHour.toFixed(2) : perHour.toFixed(1))

export function hoursOf(hours: number): string {
  if (hours < 0.95) return `${Math.round(60 * hours)} min`
  return `${hours < 9.95 ? hours.toFixed(1) : Math.round(hours)} h`
}

function save(file: string, chart: Chart) {
  const head = [
    HEADS[chart.by],
    'low',
    'high',
    'hours',
    chart.of,
    'days',
    'mean_per_hour',
    'low_per_hour',
    'high_per_hour',
  ]
  const rows = chart.ways.map((way) => [
    way.name.text.replace(/\{(\w+)\}/g, (_, name: string) => String(way.name.values[name] ?? '')),
    way.low,
    way.high,
    way.hours,
    way.takes,
    way.days,
    way.mean_ph,
    way.low_ph,
    way.high_ph,
  ])
  saveCsv(file, [head, ...rows])
}
