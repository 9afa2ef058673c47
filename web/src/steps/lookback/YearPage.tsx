/** A water through the year: how warm, where the step lay, what food showed. */
import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../../api/client'
import { dateWords, shortDate } from '../../format/clock'
import { format, toShown, type Units } from '../../format/units'
import { useWaters } from '../../queries/hooks'
import { useYear } from '../../queries/lookback'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { saveCsv } from '../../ui/csv'
import { ChoiceField } from '../../ui/Field'
import { Trouble, Waiting } from '../../ui/Notice'
import { MONTH_NAMES, MONTHS } from './AskBar'
import { LogNav } from './LogNav'
import { useAsked } from './useAsked'

type Year = Schemas['YearOut']

export function YearPage() {
  const [asked, ask, params] = useAsked()
  const waters = useWaters()
  if (waters.isError) return <Trouble error={waters.error} />
  if (!waters.data) return <Waiting what="Opening the log…" />
  const water = waters.data.items.find((one) => one.id === asked.water_id) ?? waters.data.items[0]
  return (
    <div className="mx-auto max-w-[1200px] px-4 py-2 lg:px-6">
      <LogNav params={params} />
      {!water ? (
        <p>No water yet: set one up first.</p>
      ) : (
        <>
          <ChoiceField
            label="Water"
            value={String(water.id)}
            options={waters.data.items.map((one) => ({ value: String(one.id), text: one.name }))}
            onValueChange={(id) => ask({ water_id: Number(id) })}
            className="screen-only w-72"
          />
          <OneYear waterId={water.id} />
        </>
      )}
    </div>
  )
}

function OneYear({ waterId }: { waterId: number }) {
  const found = useYear(waterId)
  if (found.isError) return <Trouble error={found.error} />
  if (!found.data) return <Waiting what="Reading the year…" />
  const year = found.data
  if (year.points.length === 0) return <p className="mt-4">No day was fished here yet.</p>
  return (
    <div
      aria-busy={found.isPlaceholderData}
      className="mt-4 grid gap-8 lg:grid-cols-[minmax(0,1fr)_minmax(0,26rem)]"
    >
      <Seasons year={year} />
      <div>
        <Foods year={year} />
        <h2 className="plate mt-5 text-2xl font-bold">First and last</h2>
        <p>
          {year.first_on && `In the log from ${dateWords(year.first_on)}`}
          {year.last_on && ` to ${dateWords(year.last_on)}`}.
        </p>
        {year.first_takes_on.length > 0 && (
          <p className="text-soft">
            First take of each year: {year.first_takes_on.map(shortDate).join(', ')}. Last:{' '}
            {year.last_takes_on.map(shortDate).join(', ')}.
          </p>
        )}
      </div>
    </div>
  )
}

const WIDTH = 640
const HEIGHT = 200
const LEFT = 46
const dayOfYear = (on: string) => (Date.parse(on) - Date.parse(`${on.slice(0, 4)}-01-01`)) / 86_400_000

interface LaneProps {
  label: string
  points: readonly { on: string; value: number }[]
  domain: [number, number]
  shown(value: number): string
  hollow?: boolean
}

/** All years on one: a dot a day, January to December. */
function Lane({ label, points, domain, shown, hollow }: LaneProps) {
  const x = scaleLinear()
    .domain([0, 366])
    .range([LEFT, WIDTH - 6])
  const y = scaleLinear()
    .domain(domain)
    .range([HEIGHT - 20, 10])
  return (
    <figure className="mt-2">
      <figcaption className="eyebrow">{label}</figcaption>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="block w-full" aria-hidden="true">
        {y.ticks(4).map((tick) => (
          <g key={tick}>
            <line x1={LEFT} x2={WIDTH} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" />
            <text x={LEFT - 6} y={y(tick) + 4} textAnchor="end" fontSize="12" fill="var(--soft)">
              {shown(tick)}
            </text>
          </g>
        ))}
        {MONTHS.map((letter, i) => (
          <text
            key={MONTH_NAMES[i]}
            x={x(i * 30.5 + 15)}
            y={HEIGHT - 4}
            textAnchor="middle"
            fontSize="12"
            fill="var(--soft)"
          >
            {letter}
          </text>
        ))}
        {points.map(({ on, value }, i) => (
          <circle
            key={`${on} ${i}`}
            cx={x(dayOfYear(on))}
            cy={y(value)}
            r="4"
            fill={hollow ? 'var(--sheet)' : 'var(--fish)'}
            stroke="var(--fish-ink)"
          />
        ))}
      </svg>
    </figure>
  )
}

function Seasons({ year }: { year: Year }) {
  const units = useUnits()
  const warmest = Math.max(20, ...year.points.map((point) => point.surface_c))
  const steps = year.points.flatMap(({ on, thermocline_m: value }) => (value === null ? [] : [{ on, value }]))
  const deepest = Math.max(8, ...steps.map((point) => point.value))
  const said = [...year.points].sort((a, b) => b.surface_c - a.surface_c)[0]
  return (
    <section aria-label="Temperature through the year">
      <h1 className="plate text-3xl font-bold">
        {said && `Warmest ${format('temperature', said.surface_c, units)}, ${shortDate(said.on)}`}
      </h1>
      <Lane
        label="Top of the water"
        points={year.points.map(({ on, surface_c: value }) => ({ on, value }))}
        domain={[0, warmest]}
        shown={(value) => String(Math.round(toShown('temperature', value, units)))}
      />
      {steps.length > 0 ? (
        <Lane
          label="How deep the thermocline lay"
          points={steps}
          domain={[deepest, 0]}
          shown={(value) => String(Math.round(toShown('depth', value, units)))}
          hollow
        />
      ) : (
        <p className="mt-2 text-soft">No thermocline was read here: a lowering shows where it lies.</p>
      )}
      <Readings year={year} units={units} />
    </section>
  )
}

function Readings({ year, units }: { year: Year; units: Units }) {
  return (
    <details className="text-sm">
      <summary className="flex min-h-11 cursor-pointer items-center font-semibold">As a table</summary>
      <Button
        look="quiet"
        className="screen-only px-0"
        onClick={() =>
          saveCsv('water-through-the-year', [
            ['date', 'surface_c', 'thermocline_m', 'seen_down_to_m'],
            ...year.points.map((p) => [p.on, p.surface_c, p.thermocline_m, p.secchi_m]),
          ])
        }
      >
        Save as CSV
      </Button>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-b-2 border-ink text-left">
            <th scope="col">Date</th>
            <th scope="col">Top</th>
            <th scope="col">Thermocline</th>
            <th scope="col">Seen down to</th>
          </tr>
        </thead>
        <tbody>
          {[...year.points].reverse().map((point, i) => (
            <tr key={`${point.on} ${i}`} className="border-b border-rule">
              <td>{shortDate(point.on)}</td>
              <td>{format('temperature', point.surface_c, units)}</td>
              <td>{point.thermocline_m === null ? '–' : format('depth', point.thermocline_m, units)}</td>
              <td>{format('depth', point.secchi_m, units)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}

/** Which food showed in which month, by signs and samples, for each day fished. */
function Foods({ year }: { year: Year }) {
  if (year.foods.length === 0)
    return (
      <section aria-label="Food through the year">
        <h2 className="plate text-2xl font-bold">Food through the year</h2>
        <p className="text-soft">No sign and no sample was logged here yet. Both take a tap on Read.</p>
      </section>
    )
  const share = (food: Year['foods'][number], month: number) =>
    (food.months[month] ?? 0) / Math.max(1, year.days_in_month[month] ?? 0)
  const most = Math.max(...year.foods.flatMap((food) => food.months.map((_, month) => share(food, month))))
  return (
    <section aria-label="Food through the year">
      <h2 className="plate text-2xl font-bold">Food through the year</h2>
      <table className="mt-1 w-full border-collapse text-sm">
        <caption className="sr-only">
          How much of each food showed on a day of each month, of 100 at most
        </caption>
        <thead>
          <tr className="border-b-2 border-ink">
            <th scope="col" className="text-left">
              Food
            </th>
            {MONTHS.map((letter, i) => (
              <th key={MONTH_NAMES[i]} scope="col" aria-label={MONTH_NAMES[i]} className="w-6">
                {letter}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {year.foods.slice(0, 12).map((food) => (
            <tr key={food.key} className="border-b border-rule">
              <th scope="row" className="py-1 text-left font-semibold">
                {food.name}
              </th>
              {food.months.map((_, month) => (
                <td key={MONTH_NAMES[month]} className="p-0 text-center">
                  <svg viewBox="0 0 24 20" className="block w-full" aria-hidden="true">
                    <circle
                      cx="12"
                      cy="10"
                      r={9 * Math.sqrt(share(food, month) / most)}
                      fill="var(--fish-ink)"
                    />
                  </svg>
                  <span className="sr-only">{Math.round((100 * share(food, month)) / most)}</span>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
