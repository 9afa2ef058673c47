/** Everything one has, out and back in; and the logs of others. */
import { ArchiveIn } from './ArchiveIn'
import { OtherLog } from './OtherLog'
import { YouNav } from './YouPage'

const TABLES = [
  { href: '/api/days.csv', text: 'Days', kind: 'CSV' },
  { href: '/api/casts.csv', text: 'Casts', kind: 'CSV' },
  { href: '/api/catches.csv', text: 'Fish', kind: 'CSV' },
  { href: '/api/readings.csv', text: 'Readings', kind: 'CSV' },
  { href: '/api/places.gpx', text: 'Places', kind: 'GPX' },
  { href: '/api/days.ics', text: 'Calendar', kind: 'iCal' },
] as const

export function YourLogPage() {
  return (
    <div className="mx-auto max-w-[1100px] px-4 py-4 lg:px-6">
      <YouNav />
      <div className="mt-2 grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-8 lg:grid-cols-2">
        <div className="space-y-8">
          <Out />
          <ArchiveIn />
        </div>
        <OtherLog />
      </div>
    </div>
  )
}

function Out() {
  return (
    <section aria-label="Out" className="space-y-3">
      <h1 className="plate text-3xl font-bold">Take it with you</h1>
      <p>
        Everything you have in one file: waters, charts, box, every cast, every picture. It comes back as it
        was, here or on another server.
      </p>
      <a
        href="/api/archive.zip"
        download
        className="inline-flex min-h-14 items-center border-2 border-hot bg-hot px-6 text-lg font-semibold text-on-hot"
      >
        Save everything
      </a>
      <div>
        <p className="eyebrow">For a spreadsheet, a map, a calendar</p>
        <ul className="mt-1 flex flex-wrap gap-2">
          {TABLES.map((table) => (
            <li key={table.href}>
              <a
                href={table.href}
                download
                className="inline-flex min-h-11 items-center gap-2 border-2 border-ink bg-sheet px-3 font-semibold"
              >
                {table.text} <span className="text-sm text-soft">{table.kind}</span>
              </a>
            </li>
          ))}
        </ul>
      </div>
    </section>
  )
}
