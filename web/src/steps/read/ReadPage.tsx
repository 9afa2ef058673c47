/** Read: what the angler sees and measures becomes a picture of the water. */
import { useEffect, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { Refusal } from '../../api/client'
import { clockAt, dayAndTime, instantOf, nextDaylight } from '../../format/clock'
import { useDays, usePicture, useWaters, useWorths } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { freshOuting, outingLikeDay, useOuting, type Outing } from '../../state/outing'
import { usePerson } from '../../state/person'
import { anew, withBreathTrusted, withTrust } from '../../state/readings'
import { Button } from '../../ui/Button'
import { Cautions, Trouble, Waiting } from '../../ui/Notice'
import { sameContent, useSettled } from '../../ui/useSettled'
import { useChoicesAhead } from '../rig/asked'
import { DaysAlike } from './DaysAlike'
import { DayStrip } from './DayStrip'
import { useLakeBehind } from '../../lake/useLake'
import { WaterForm } from '../../lake/WaterForm'
import { Gist } from './Gist'
import { OddReadings } from './OddReadings'
import { Answer, Why, type View } from './ReadAnswer'
import { ReadForm } from './ReadForm'
import { WorkedOut } from './WorkedOut'

/** Begin at the water last fished; the demo angler at the one that is open, with yesterday's water and the clock of now. */
function useFirstOuting() {
  const { outing, replace } = useOuting()
  const { is_demo } = usePerson()
  const waters = useWaters()
  const days = useDays()
  const aged = is_demo && outing !== null && hoursSince(outing) > DEMO_AGES_H
  useEffect(() => {
    if ((outing && !aged) || !waters.data || days.isPending) return
    const logged = days.data?.items ?? []
    const open = is_demo ? waters.data.items.find((w) => w.open_today) : undefined
    const water = open ?? waters.data.items.find((w) => w.id === logged[0]?.water_id) ?? waters.data.items[0]
    if (!water) return
    // Another season's water is no start for today.
    const day = is_demo
      ? logged.find(
          (d) => d.water_id === water.id && hoursAt(water.time_zone, d.conditions.at_local) < DAY_AGES_H,
        )
      : undefined
    replace(day ? outingLikeDay(water, day, nextDaylight(water.time_zone)) : freshOuting(water))
  }, [outing, aged, waters.data, days.isPending, days.data, is_demo, replace])
  return { outing: aged ? null : outing, waters }
}

const HOUR_MS = 3_600_000
const DEMO_AGES_H = 18
const DAY_AGES_H = 15 * 24
const AGES_H = 12

function hoursSince({ timeZone, conditions }: Outing): number {
  return hoursAt(timeZone, conditions.at_local)
}

function hoursAt(timeZone: string, atLocal: string): number {
  return (Date.now() - instantOf(timeZone, atLocal)) / HOUR_MS
}

export function ReadPage() {
  const { outing, waters } = useFirstOuting()
  if (waters.isError) return <Trouble error={waters.error} />
  if (waters.data?.items.length === 0) return <NoWaters />
  if (!outing || !waters.data) return <Waiting what="Fetching your waters…" />
  return <Reading outing={outing} />
}

function NoWaters() {
  return (
    <section className="mx-auto max-w-xl space-y-4 px-4 py-4">
      <h1 className="plate text-3xl font-bold">Which water?</h1>
      <p>Name a lake or reservoir and say where it lies. Everything else starts from there.</p>
      <p>
        Nothing to read yet?{' '}
        <Link to="/practice" className="font-semibold underline">
          Fish a practice day first
        </Link>
        : a hidden lake, a full box, ten minutes.
      </p>
      <WaterForm water={null} />
    </section>
  )
}

/** What was read for another day says so, and can be begun anew. */
function Aged({ outing }: { outing: Outing }) {
  const { observe } = useOuting()
  const { conditions, timeZone } = outing
  return (
    <p className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-l-[6px] border-fish-ink bg-care px-3 py-1.5 text-sm lg:order-first lg:col-span-2">
      <span>This is the water of {dayAndTime(conditions.at_local)}.</span>
      <Button onClick={() => observe(anew(conditions, clockAt(timeZone)))}>Read it as it is now</Button>
    </p>
  )
}

function Reading({ outing }: { outing: Outing }) {
  const { observe } = useOuting()
  const navigate = useNavigate()
  const read = outing.conditions
  const conditions = useSettled(read, 180)
  const { data: picture, error, isFetching } = usePicture(conditions)
  const refusal = error instanceof Refusal ? error : null
  useChoicesAhead(outing, Boolean(picture && !isFetching && !error && !picture.iced))
  useLakeBehind(read.water_id)
  const worths = useWorths(conditions, Boolean(picture && !isFetching && !error))
  const [view, setView] = useState<View>('now')

  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_400px] lg:px-6">
      <h1 className="sr-only">Read the water</h1>
      {hoursSince(outing) > AGES_H && <Aged outing={outing} />}
      {picture && <Gist picture={picture} busy={isFetching || !sameContent(read, conditions)} />}
      <ReadForm read={read} picture={picture} worths={worths.data} refusal={refusal} />

      <div className="min-w-0 lg:order-1">
        {error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={error} />}
        {!picture && !error && <Waiting what="Reading the water…" />}
        {picture && (
          <div aria-busy={isFetching || !sameContent(read, conditions)} className={error ? 'opacity-50' : ''}>
            <Answer picture={picture} view={view} onViewChange={setView} />
            <WorkedOut picture={picture} waterId={read.water_id} />
            {view === 'now' ? (
              <Column picture={picture} heightPx={330} className="mt-2" />
            ) : (
              <div className="mt-2 min-h-[394px]">
                <DayStrip conditions={conditions} timeZone={outing.timeZone} deepestM={picture.deepest_m} />
              </div>
            )}
            <div className="mt-2 flex flex-wrap items-start gap-3">
              <Button
                look="hot"
                size="large"
                disabled={Boolean(error) || picture.iced}
                onClick={() => void navigate('/rig')}
              >
                Choose the rig
              </Button>
              <div className="min-w-0 grow basis-72 space-y-1">
                <OddReadings
                  flags={picture.flags}
                  onTrustedChange={({ depth_m }, trusted) => observe(withTrust(read, depth_m, trusted))}
                />
                <OddReadings
                  label="Odd oxygen readings"
                  flags={picture.oxygen.flags}
                  onTrustedChange={({ depth_m }, trusted) =>
                    observe(withBreathTrusted(read, depth_m, trusted))
                  }
                />
                <Cautions cautions={picture.cautions} />
              </div>
            </div>
            <Why picture={picture} />
            <DaysAlike conditions={conditions} ask={!isFetching && !error} />
          </div>
        )}
      </div>
    </div>
  )
}
