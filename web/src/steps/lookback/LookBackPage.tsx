/** Look back: a season as a row of small Columns. */
import { Link } from 'react-router'
import { useDays } from '../../queries/hooks'
import { shortDate } from '../../format/clock'
import { useUnits } from '../../state/person'
import { Trouble, Waiting } from '../../ui/Notice'
import { SmallColumn, takes } from './SmallColumn'
import { dayWords } from './words'

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
        for every take.{' '}
        <Link to="/poster" className="font-semibold text-ink underline underline-offset-4">
          The season as a poster
        </Link>
      </p>
      <ol className="mt-4 flex flex-wrap gap-x-3 gap-y-6">
        {items.map((day) => (
          <li key={day.id}>
            <Link
              to={`/log/${day.id}`}
              className="block w-[92px] hover:bg-sheet"
              aria-label={dayWords(day, units)}
            >
              <SmallColumn day={day} deepest={deepest} />
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
