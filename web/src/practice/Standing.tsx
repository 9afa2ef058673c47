/** How a practice day stands: its clock, what can be read of the water, and what the last cast brought. */
import { counted, format, sky } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import type { PracticeDay } from './hooks'

const READINGS = [
  { reading: 'lowering', text: 'Lower a thermometer' },
  { reading: 'look', text: 'Look about for signs' },
  { reading: 'sounding', text: 'Sound the bottom' },
  { reading: 'clarity', text: 'How far one sees' },
] as const

export function Readings({
  day,
  disabled,
  onRead,
}: {
  day: PracticeDay
  disabled: boolean
  onRead(reading: (typeof READINGS)[number]['reading']): void
}) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4">
      {READINGS.map(({ reading, text }) => (
        <Button
          key={reading}
          disabled={disabled || day.made.includes(reading)}
          onClick={() => onRead(reading)}
        >
          {text}
          <span className="block text-sm font-normal">
            {day.made.includes(reading) ? 'done' : `${day.costs_min[reading] ?? 0} min`}
          </span>
        </Button>
      ))}
    </div>
  )
}

export function Clock({ day }: { day: PracticeDay }) {
  const units = useUnits()
  const left = Math.max(day.day_min - day.at_min, 0)
  const read = day.picture
  return (
    <p className="flex flex-wrap items-baseline justify-between gap-x-4">
      <span className="plate text-3xl font-extrabold">{day.clock}</span>
      <span>
        {Math.round(left)} min left · {counted(day.casts.length, 'cast', 'casts')} ·{' '}
        <strong>{counted(day.takes, 'take', 'takes')}</strong>
      </span>
      <span className="text-sm text-soft">
        wind {format('wind', day.wind_speed_mps, units)}, {sky(day.cloud_fraction)}, top{' '}
        {format('temperature', read.profile.water_c[0] ?? 0, units)}, bottom{' '}
        {day.made.includes('sounding') ? '' : 'perhaps '}
        {format('depth', day.bottom_m, units)}
      </span>
    </p>
  )
}

const CAME = {
  take: 'A take, and it is in the net',
  lost: 'A take: it came off',
  knock: 'A knock',
  follow: 'A follow',
} as const

export function LastCast({
  day,
  last,
}: {
  day: PracticeDay
  last: PracticeDay['casts'][number] | undefined
}) {
  const units = useUnits()
  if (!last) return <p>Nothing was cast yet. Read what is worth its minutes, choose a way, and cast.</p>
  return (
    <div role="status" className="border-l-[6px] border-ink pl-3">
      <p className="text-lg font-semibold">
        {last.came.length === 0
          ? 'Nothing.'
          : last.came
              .map((one) => `${CAME[one.kind]} at ${format('depth', one.depth_m, units)}`)
              .join(', then ')}
      </p>
      <p className="text-sm text-soft">
        Cast {day.casts.length}: {last.words}, worked {format('depth', last.low_m, units)} to{' '}
        {format('depth', last.high_m, units)}
        {last.touched && ', and touched the bottom'}
      </p>
    </div>
  )
}
