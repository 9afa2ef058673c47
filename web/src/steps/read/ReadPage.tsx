/** Read: what the angler sees and measures becomes a picture of the water. */
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Refusal, type Day } from '../../api/client'
import { useDays, usePicture, useWaters } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { freshOuting, outingLikeDay, useOuting, type Outing } from '../../state/outing'
import { usePerson } from '../../state/person'
import { withTrust } from '../../state/readings'
import { Button } from '../../ui/Button'
import { Cautions, Trouble, Waiting } from '../../ui/Notice'
import { sameContent, useSettled } from '../../ui/useSettled'
import { useChoicesAhead } from '../rig/asked'
import { DayStrip } from './DayStrip'
import { WaterForm } from '../../lake/WaterForm'
import { OddReadings } from './OddReadings'
import { Answer, Why, type View } from './ReadAnswer'
import { ReadForm } from './ReadForm'

/** Begin with the last day at a water; the demo angler also with its date, so that there is a summer to see. */
function useFirstOuting() {
  const { outing, replace } = useOuting()
  const { is_demo } = usePerson()
  const waters = useWaters()
  const days = useDays()
  useEffect(() => {
    if (outing || !waters.data || days.isPending) return
    const logged = days.data?.items ?? []
    const day =
      (is_demo ? [...logged].reverse().sort((a, b) => shows(b) - shows(a))[0] : undefined) ?? logged[0]
    const water = waters.data.items.find((w) => w.id === day?.water_id) ?? waters.data.items[0]
    if (!water) return
    const fresh = freshOuting(water)
    replace(day && is_demo ? outingLikeDay(water, day) : fresh)
  }, [outing, waters.data, days.isPending, days.data, is_demo, replace])
  return { outing, waters }
}

/** How well a day shows a layered lake: warm at the top, though not too warm to fish, and cold below. */
function shows(day: Day): number {
  const { readings } = day.conditions
  const top = readings[0]?.water_c ?? 0
  return (top < 19.5 ? top : 0) + top - (readings.at(-1)?.water_c ?? 0)
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
      <WaterForm water={null} />
    </section>
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
  const [view, setView] = useState<View>('now')

  return (
    <div className="mx-auto grid max-w-[1400px] gap-x-8 gap-y-4 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_400px] lg:px-6">
      <h1 className="sr-only">Read the water</h1>
      <ReadForm read={read} picture={picture} refusal={refusal} />

      <div className="min-w-0 lg:order-1">
        {error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={error} />}
        {!picture && !error && <Waiting what="Reading the water…" />}
        {picture && (
          <div aria-busy={isFetching || !sameContent(read, conditions)} className={error ? 'opacity-50' : ''}>
            <Answer picture={picture} view={view} onViewChange={setView} />
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
                <Cautions cautions={picture.cautions} />
              </div>
            </div>
            <Why picture={picture} />
          </div>
        )}
      </div>
    </div>
  )
}
