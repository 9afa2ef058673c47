/** One day: its Column with every take, what was fished, and what happened. */
import { useMutation, useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from 'react-router'
import { answer, client, everyPage, type Day, type Schemas, type Water } from '../../api/client'
import { api, thrown, useAskAgain } from '../../queries/api'
import { usePicture, useWaters } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { dateWords, timeAt, timeOf } from '../../format/clock'
import { compass, format, range, sky, words, type Units } from '../../format/units'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Trouble, Waiting } from '../../ui/Notice'
import { headline } from '../../choice/sayings'
import { DayNotes } from './DayNotes'
import { DayRead } from './DayRead'
import { EntryLine } from './EntryLine'
import { History } from './History'
import { OtherCatches } from './OtherCatches'
import { TieAgain } from './TieAgain'

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
  return <OneDay day={day.data} fished={fished.data} entries={entries.data} water={water} />
}

interface OneDayProps {
  day: Day
  fished: readonly Schemas['LoggedPresentationOut'][]
  entries: readonly Schemas['EntryOut'][]
  water: Water
}

function OneDay({ day, fished, entries, water }: OneDayProps) {
  const units = useUnits()
  const { conditions } = day
  const picture = usePicture(conditions)
  const clock = (at: string) => timeAt(water.time_zone, at)
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
          {timeOf(conditions.at_local)} · {readOf(conditions, units)}
        </p>
        {picture.data && (
          <Column picture={picture.data} heightPx={480} takes={day.take_depths} className="mt-2" />
        )}
        {picture.isError && <Trouble error={picture.error} />}
        <DayNotes key={day.id} day={day} />
        <DayRead day={day} />
        <History dayId={day.id} timeZone={water.time_zone} />
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
              {one.changed && <p className="text-sm">{words(one.changed, units)}</p>}
              {one.advice?.low_ph != null && one.advice.high_ph != null && (
                <p className="text-sm">
                  {range1(one.advice.low_ph, one.advice.high_ph)} takes an hour were promised.
                </p>
              )}
              <TieAgain day={day} fished={one} water={water} />
              {worthNoting.length === 0 && <p className="mt-1">No response.</p>}
              <ol>
                {worthNoting.map((entry) => (
                  <EntryLine key={entry.id} dayId={day.id} entry={entry} timeZone={water.time_zone} />
                ))}
              </ol>
            </section>
          )
        })}
        <OtherCatches dayId={day.id} timeZone={water.time_zone} />
        {fished.length === 0 && (day.counts.brought ?? 0) === 0 && <NothingFished dayId={day.id} />}
      </div>
    </div>
  )
}

/** A day that was begun by mistake can go; one on which something happened stays. */
function NothingFished({ dayId }: { dayId: string }) {
  const navigate = useNavigate()
  const again = useAskAgain()
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE('/api/days/{day_id}', { params: { path: { day_id: dayId } } })),
    onSuccess: async () => {
      await again('/api/days', '/api/in-short')
      await navigate('/log/days')
    },
  })
  return (
    <div className="space-y-2">
      <p>The day was begun, and nothing was fished.</p>
      <Button onClick={() => remove.mutate()}>Take it out of the log</Button>
      {remove.error && <Trouble error={remove.error} />}
    </div>
  )
}

/** Wind, sky and clarity as they were read; what nobody read is not told as if somebody had. */
function readOf(conditions: Day['conditions'], units: Units): string {
  const unread = new Set<string>(conditions.assumed)
  const wind = `${unread.has('wind_from_deg') ? '' : `${compass(conditions.wind_from_deg)} `}${format('wind', conditions.wind_speed_mps, units)}`
  const parts = [
    unread.has('wind_speed_mps') ? '' : `wind ${wind}`,
    unread.has('cloud_fraction') ? '' : sky(conditions.cloud_fraction),
    unread.has('secchi_m') ? '' : `seen down to ${format('depth', conditions.secchi_m, units)}`,
  ]
  return parts.filter(Boolean).join(' · ') || 'nothing of the wind, the sky or the water was read'
}

const range1 = (low: number, high: number) => `${low.toFixed(1)} to ${high.toFixed(1)}`

/** The water as it was read when a presentation was begun. */
function readThen(read: Schemas['ConditionsIn'], units: Units): string {
  const surface = read.readings.find((reading) => reading.depth_m === 0)
  return [
    ...(surface ? [`${format('temperature', surface.water_c, units)} at the top`] : []),
    `wind ${compass(read.wind_from_deg)} ${format('wind', read.wind_speed_mps, units)}`,
    sky(read.cloud_fraction),
  ].join(' · ')
}
