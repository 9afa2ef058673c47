/** Look back: a season as a row of small Columns. */
import { Link } from 'react-router'
import type { Day } from '../../api/client'
import { useDays } from '../../queries/hooks'
import { shortDate } from '../../format/clock'
import { format, type Units } from '../../format/units'
import { useUnits } from '../../state/person'
import { Trouble, Waiting } from '../../ui/Notice'
import { dayWords } from './words'

const HEIGHT = 190
const WIDTH = 74

export function LookBackPage() {
  const days = useDays()
  const units = useUnits()
  if (days.isError) return <Trouble error={days.error} />
  if (!days.data) return <Waiting what="Opening the log…" />
  if (days.data.items.length === 0) {
    return (
      <section className="mx-auto max-w-xl space-y-3 p-6">
        <h1 className="plate text-3xl font-bold">No days yet</h1>
        <p>A day begins when you choose a rig and press “Fish this”.</p>
      </section>
    )
  }
  const items = days.data.items
  const deepest = Math.max(...items.map((day) => day.conditions.bottom_depth_m))
  const landed = items.reduce((sum, day) => sum + (day.counts.landed ?? 0), 0)
  const casts = items.reduce((sum, day) => sum + (day.counts.cast ?? 0), 0)
  return (
    <div className="mx-auto max-w-[1400px] px-4 py-4 lg:px-6">
      <h1 className="plate text-3xl font-bold">
        {items.length} {items.length === 1 ? 'day' : 'days'}, {landed} trout
      </h1>
      <p className="text-soft">
        {casts} casts logged. Each column is a day, newest first: its depth, the temperature read, and a ring
        for every take.
      </p>
      <ol className="mt-4 flex flex-wrap gap-x-3 gap-y-6">
        {items.map((day) => (
          <li key={day.id}>
            <Link
              to={`/log/${day.id}`}
              className="block w-[92px] hover:bg-sheet"
              aria-label={dayWords(day, units)}
            >
              <SmallColumn day={day} deepest={deepest} units={units} />
              <span className="block leading-tight font-semibold">{shortDate(day.conditions.at_local)}</span>
              <span className="block truncate text-sm leading-tight text-soft">{day.water_name}</span>
              <span className="block text-sm leading-tight">
                {day.counts.landed ?? 0} of {takes(day)} takes
              </span>
            </Link>
          </li>
        ))}
      </ol>
    </div>
  )
}

function takes(day: Day): number {
  return (day.counts.take ?? 0) + (day.counts.lost ?? 0) + (day.counts.landed ?? 0)
}

function SmallColumn({ day, deepest, units }: { day: Day; deepest: number; units: Units }) {
  const y = (depthM: number) => 16 + ((HEIGHT - 22) * depthM) / deepest
  const warm = (waterC: number) => 8 + (WIDTH - 16) * Math.min(Math.max(waterC / 24, 0), 1)
  const thread = day.conditions.readings
    .filter((r) => r.depth_m <= day.conditions.bottom_depth_m)
    .map((r) => `${warm(r.water_c)},${y(r.depth_m)}`)
  return (
    <svg width={WIDTH} height={HEIGHT} aria-hidden="true" className="block">
      <rect
        x="0"
        y={y(0)}
        width={WIDTH}
        height={y(day.conditions.bottom_depth_m) - y(0)}
        fill="var(--water-light)"
      />
      <rect x="0" y={y(day.conditions.bottom_depth_m)} width={WIDTH} height="5" fill="var(--bed)" />
      <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth="2" />
      {thread.length > 1 ? (
        <polyline points={thread.join(' ')} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      ) : (
        <line
          x1={warm(day.conditions.readings[0]?.water_c ?? 0)}
          x2={warm(day.conditions.readings[0]?.water_c ?? 0)}
          y1={y(0)}
          y2={y(0.6)}
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      )}
      <text
        x={WIDTH - 2}
        y="11"
        textAnchor="end"
        className="plate"
        fontSize="12"
        fontWeight="600"
        fill="var(--ink)"
      >
        {format('temperature', day.conditions.readings[0]?.water_c ?? 0, units)}
      </text>
      {day.take_depths.map((take, i) => (
        <g key={i} stroke="var(--fish-ink)" strokeWidth="1.5">
          <line
            x1={8 + ((i * 9) % (WIDTH - 16))}
            x2={8 + ((i * 9) % (WIDTH - 16))}
            y1={y(take.low_m)}
            y2={y(take.high_m)}
          />
          <circle
            cx={8 + ((i * 9) % (WIDTH - 16))}
            cy={y((take.low_m + take.high_m) / 2)}
            r="3.4"
            fill="var(--fish)"
          />
        </g>
      ))}
    </svg>
  )
}
