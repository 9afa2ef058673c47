/** One day: its Column with every take, what was fished, and what happened. */
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { answer, client, everyPage, type Day, type Schemas } from '../../api/client'
import { api, thrown } from '../../queries/api'
import { usePicture, useWaters } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { dateWords, timeAt, timeOf } from '../../format/clock'
import { compass, format, range, sky, type Units } from '../../format/units'
import { useUnits } from '../../state/person'
import { Trouble, Waiting } from '../../ui/Notice'
import { headline } from '../../choice/sayings'
import { KIND_WORDS } from '../../format/kinds'
import { fishSaid } from './words'

/** What comes at no depth. */
const DEPTHLESS: readonly Schemas['EntryOut']['kind'][] = ['catching', 'place']

export function DayPage() {
  const { dayId = '' } = useParams()
  const path = { day_id: dayId }
  const day = thrown(api.useQuery('get', '/api/days/{day_id}', { params: { path } }, { retry: false }))
  const waters = useWaters()
  const fished = useQuery({
    queryKey: ['presentations', dayId],
    queryFn: () =>
      everyPage((query) =>
        answer(client.GET('/api/days/{day_id}/presentations', { params: { path, query } })),
      ),
    retry: false,
  })
  const entries = useQuery({
    queryKey: ['entries', dayId],
    queryFn: () =>
      everyPage((query) => answer(client.GET('/api/days/{day_id}/entries', { params: { path, query } }))),
    retry: false,
  })
  const error = day.error ?? fished.error ?? entries.error
  if (error) {
    return (
      <div className="p-6">
        <Trouble error={error}>
          <Link to="/log" className="underline">
            Back to the log
          </Link>
        </Trouble>
      </div>
    )
  }
  const water = waters.data?.items.find((one) => one.id === day.data?.water_id)
  if (!day.data || !fished.data || !entries.data || !water) return <Waiting what="Opening the day…" />
  return <OneDay day={day.data} fished={fished.data} entries={entries.data} timeZone={water.time_zone} />
}

interface OneDayProps {
  day: Day
  fished: readonly Schemas['LoggedPresentationOut'][]
  entries: readonly Schemas['EntryOut'][]
  timeZone: string
}

function OneDay({ day, fished, entries, timeZone }: OneDayProps) {
  const units = useUnits()
  const { conditions } = day
  const picture = usePicture(conditions)
  const clock = (at: string) => timeAt(timeZone, at)
  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_430px] lg:px-6">
      <div className="min-w-0">
        <p className="eyebrow">
          <Link to="/log" className="underline underline-offset-4">
            Log
          </Link>{' '}
          · {day.water_name}
        </p>
        <h1 className="plate text-3xl font-bold">{dateWords(conditions.at_local)}</h1>
        <p className="text-soft">
          {timeOf(conditions.at_local)} · wind {compass(conditions.wind_from_deg)}{' '}
          {format('wind', conditions.wind_speed_ms, units)} · {sky(conditions.cloud_fraction)} · seen down to{' '}
          {format('depth', conditions.secchi_m, units)}
        </p>
        {picture.data && (
          <Column picture={picture.data} heightPx={480} takes={day.take_depths} className="mt-2" />
        )}
        {picture.isError && <Trouble error={picture.error} />}
      </div>
      <div className="min-w-0">
        {fished.map((one) => {
          const own = entries.filter((e) => e.presentation_id === one.id)
          const worthNoting = own.filter((e) => e.kind !== 'cast' && e.kind !== 'nothing')
          return (
            <section key={one.id} className="border-t-2 border-ink py-2">
              <h2 className="plate text-xl leading-tight font-bold">
                {headline({ line: one.rig.line, action: one.action }, units)}
              </h2>
              <p className="text-sm text-soft">
                from {clock(one.started_at)} · {one.rig.flies[0]?.fly.name} · worked{' '}
                {range('depth', one.low_m, one.high_m, units)} · {own.filter((e) => e.kind === 'cast').length}{' '}
                casts
              </p>
              <p className="text-sm text-soft">{readThen(one.conditions, units)}</p>
              {worthNoting.length === 0 && <p className="mt-1">No response.</p>}
              <ol>
                {worthNoting.map((entry) => (
                  <li
                    key={entry.id}
                    className="grid grid-cols-[3.5rem_5rem_1fr_auto] gap-2 border-t border-rule py-1 first:border-t-0"
                  >
                    <span>{clock(entry.at)}</span>
                    <strong>{KIND_WORDS[entry.kind]}</strong>
                    <span className="text-soft">
                      {entry.odd_time && 'time in doubt, '}
                      {!DEPTHLESS.includes(entry.kind) &&
                        `at ${range('depth', entry.depth_low_m, entry.depth_high_m, units)}`}
                    </span>
                    <span className="text-right font-semibold">
                      {fishSaid(entry, units)}
                      {entry.has_photo && (
                        <a href={`/api/days/${day.id}/entries/${entry.id}/photo`}>
                          <img
                            src={`/api/days/${day.id}/entries/${entry.id}/photo`}
                            alt={`The fish landed at ${clock(entry.at)}`}
                            className="ml-auto mt-1 max-h-24"
                            loading="lazy"
                          />
                        </a>
                      )}
                    </span>
                  </li>
                ))}
              </ol>
            </section>
          )
        })}
        {fished.length === 0 && <p>The day was begun, and nothing was fished.</p>}
      </div>
    </div>
  )
}

/** The water as it was read when a presentation was begun. */
function readThen(read: Schemas['ConditionsIn'], units: Units): string {
  const surface = read.readings.find((reading) => reading.depth_m === 0)
  return [
    ...(surface ? [`${format('temperature', surface.water_c, units)} at the top`] : []),
    `wind ${compass(read.wind_from_deg)} ${format('wind', read.wind_speed_ms, units)}`,
    sky(read.cloud_fraction),
  ].join(' · ')
}
