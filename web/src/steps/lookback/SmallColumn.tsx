/** A day as a small Column: its depth, the temperature read, and a ring for every take. */
import type { Day } from '../../api/client'
import { format } from '../../format/units'
import { useUnits } from '../../state/person'

const HEIGHT = 190
const WIDTH = 74

export function takes(day: Day): number {
  return (day.counts.take ?? 0) + (day.counts.lost ?? 0) + (day.counts.landed ?? 0)
}

export function SmallColumn({ day, deepest }: { day: Day; deepest: number }) {
  const units = useUnits()
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
