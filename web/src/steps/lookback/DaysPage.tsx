/** Every day, as a row of small Columns or by the calendar. */
import { useState } from 'react'
import { Link } from 'react-router'
import type { Day } from '../../api/client'
import { dateOf } from '../../format/clock'
import { useDaysFound } from '../../queries/lookback'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Trouble, Waiting } from '../../ui/Notice'
import { Segments } from '../../ui/Segments'
import { AskBar, MONTH_NAMES } from './AskBar'
import { DayRow } from './DayRow'
import { LogNav } from './LogNav'
import { takes } from './SmallColumn'
import { useAsked } from './useAsked'
import { dayWords } from './words'

export function DaysPage() {
  const [asked, ask, params] = useAsked()
  const [view, setView] = useState('columns')
  const found = useDaysFound(asked)
  if (found.isError) return <Trouble error={found.error} />
  const days = found.data?.pages.flatMap((page) => page.items)
  const count = found.data?.pages[0]?.count ?? 0
  return (
    <div className="mx-auto max-w-[1400px] px-4 py-2 lg:px-6">
      <LogNav params={params} />
      <AskBar asked={asked} onAsk={ask} />
      {!days ? (
        <Waiting what="Looking for them…" />
      ) : (
        <div aria-busy={found.isPlaceholderData}>
          <div className="mt-3 flex flex-wrap items-end justify-between gap-4">
            <h1 className="plate text-3xl font-bold" aria-live="polite">
              {count} {count === 1 ? 'day' : 'days'}
            </h1>
            <Segments
              label="Show as"
              value={view}
              options={[
                { value: 'columns', text: 'Columns' },
                { value: 'calendar', text: 'Calendar' },
              ]}
              onValueChange={setView}
              className="w-56"
            />
          </div>
          {days.length === 0 && <p className="mt-2">No day is like that. Take something away above.</p>}
          {view === 'columns' ? <DayRow days={days} /> : <Calendar days={days} />}
          {found.hasNextPage && (
            <Button
              className="mt-4"
              disabled={found.isFetchingNextPage}
              onClick={() => void found.fetchNextPage()}
            >
              Earlier days, {count - days.length} more
            </Button>
          )}
        </div>
      )}
    </div>
  )
}

/** Months with days in them, the newest first, as on a wall. */
function Calendar({ days }: { days: readonly Day[] }) {
  const months = new Map<string, Day[]>()
  for (const day of days) {
    const month = dateOf(day.conditions.at_local).slice(0, 7)
    months.set(month, [...(months.get(month) ?? []), day])
  }
  return (
    <div className="mt-3 grid gap-6 sm:grid-cols-2 lg:grid-cols-3 xl:grid-cols-4">
      {[...months].map(([month, own]) => (
        <Month key={month} month={month} days={own} />
      ))}
    </div>
  )
}

function Month({ month, days }: { month: string; days: readonly Day[] }) {
  const units = useUnits()
  const [year = 0, number = 1] = month.split('-').map(Number)
  const length = new Date(Date.UTC(year, number, 0)).getUTCDate()
  const lead = (new Date(Date.UTC(year, number - 1, 1)).getUTCDay() + 6) % 7
  const trail = (7 - ((lead + length) % 7)) % 7
  const on = (date: number) => days.filter((day) => Number(dateOf(day.conditions.at_local).slice(8)) === date)
  return (
    <section aria-label={`${MONTH_NAMES[number - 1]} ${year}`}>
      <h2 className="font-bold">
        {MONTH_NAMES[number - 1]} {year}
      </h2>
      <div className="mt-1 grid grid-cols-7 gap-px border-2 border-ink bg-rule text-center text-sm">
        {Array.from({ length: lead }, (_, i) => (
          <span key={`lead ${i}`} className="bg-paper" />
        ))}
        {Array.from({ length }, (_, i) => i + 1).map((date) => {
          const [first, ...others] = on(date)
          if (!first)
            return (
              <span key={date} className="min-h-11 bg-paper pt-1 text-soft">
                {date}
              </span>
            )
          return (
            <Link
              key={date}
              to={`/log/day/${first.id}`}
              aria-label={dayWords(first, units)}
              className="min-h-11 bg-[var(--water-light)] pt-1 font-bold hover:outline-2 hover:outline-ink"
            >
              {date}
              <span className="block text-xs leading-tight font-normal">
                {first.counts.landed ?? 0}/{takes(first)}
                {others.length > 0 && ` +${others.length}`}
              </span>
            </Link>
          )
        })}
        {Array.from({ length: trail }, (_, i) => (
          <span key={`trail ${i}`} className="bg-paper" />
        ))}
      </div>
    </section>
  )
}
