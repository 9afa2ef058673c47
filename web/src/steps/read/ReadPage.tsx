/** Read: what the angler sees and measures becomes a picture of the water. */
import { useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import { Refusal, type Day, type Picture } from '../../api/client'
import { within } from '../../api/within'
import { useDays, usePicture, useTrade, useWaters } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { clockOf } from '../../format/clock'
import { COMPASS, chances, format, range, words } from '../../format/units'
import { freshOuting, outingLikeDay, useOuting, type Outing } from '../../state/outing'
import { usePerson, useUnits } from '../../state/person'
import { deeperOf, surfaceOf, withDeeper, withSurface, withTrust } from '../../state/readings'
import { Button } from '../../ui/Button'
import { ChoiceField, CONTROL, Field, QuantityField } from '../../ui/Field'
import { Cautions, Trouble, Waiting } from '../../ui/Notice'
import { Segments } from '../../ui/Segments'
import { sameContent, useSettled } from '../../ui/useSettled'
import { useChoicesAhead } from '../rig/asked'
import { DayStrip } from './DayStrip'
import { DeeperReadings } from './DeeperReadings'
import { EarlierReadings } from './EarlierReadings'
import { LikelyFood } from './LikelyFood'
import { OddReadings } from './OddReadings'
import { SamplePanel } from './SamplePanel'
import { SignsPanel } from './SignsPanel'

/** What is drawn: the hour in hand, or the whole day. */
type View = 'now' | 'day'
type Evidence = 'readings' | 'signs' | 'sample'

const SKIES = [
  { value: '0', text: 'Clear', share: 0 },
  { value: '0.3', text: 'Some', share: 0.3 },
  { value: '0.6', text: 'Broken', share: 0.6 },
  { value: '1', text: 'Overcast', share: 1 },
] as const

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
  const navigate = useNavigate()
  return (
    <section className="mx-auto max-w-xl space-y-4 p-6">
      <h1 className="plate text-3xl font-bold">Which water?</h1>
      <p>Name a lake or reservoir and say where it lies. Everything else starts from there.</p>
      <Button look="hot" size="large" onClick={() => void navigate('/waters')}>
        Add a water
      </Button>
    </section>
  )
}

function Reading({ outing }: { outing: Outing }) {
  const { observe, replace } = useOuting()
  const units = useUnits()
  const navigate = useNavigate()
  const waters = useWaters()
  const trade = useTrade()
  const read = outing.conditions
  const conditions = useSettled(read, 180)
  const { data: picture, error, isFetching } = usePicture(conditions)
  const refusal = error instanceof Refusal ? error : null
  useChoicesAhead(outing, Boolean(picture && !isFetching && !error && !picture.iced))
  const [open, setOpen] = useState(deeperOf(read).length > 0)
  const [view, setView] = useState<View>('now')
  const [evidence, setEvidence] = useState<Evidence>('readings')

  return (
    <div className="mx-auto grid max-w-[1400px] gap-x-8 gap-y-4 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_400px] lg:px-6">
      <h1 className="sr-only">Read the water</h1>
      <form
        className="space-y-2.5 lg:order-2"
        onSubmit={(event) => event.preventDefault()}
        aria-label="What you read"
      >
        <div className="grid grid-cols-2 gap-x-3 gap-y-2.5">
          <ChoiceField
            label="Water"
            className="col-span-2"
            value={String(read.water_id)}
            options={(waters.data?.items ?? []).map((w) => ({ value: String(w.id), text: w.name }))}
            error={
              refusal?.status === 404
                ? 'This water is not there any more. Choose another.'
                : refusal?.at('water_id')
            }
            onValueChange={(id) => {
              const water = waters.data?.items.find((w) => String(w.id) === id)
              if (!water) return
              const fresh = freshOuting(water, read.at_local)
              const { wind_speed_ms, signs } = read
              replace({ ...fresh, conditions: { ...fresh.conditions, wind_speed_ms, signs } })
            }}
          />
          <Field label="Day and time at the water" className="col-span-2" error={refusal?.at('at_local')}>
            {({ id, describedBy, invalid }) => (
              <input
                id={id}
                type="datetime-local"
                className={`${CONTROL} font-semibold`}
                value={read.at_local}
                aria-invalid={invalid || undefined}
                aria-describedby={describedBy}
                onChange={(event) => event.target.value && observe({ at_local: clockOf(event.target.value) })}
              />
            )}
          </Field>
          <QuantityField
            label="Surface temperature"
            quantity="temperature"
            value={surfaceOf(read).water_c}
            {...within('ReadingIn', 'water_c')}
            onValueChange={(waterC) => observe(withSurface(read, waterC))}
          />
          <QuantityField
            label="Bottom depth here"
            quantity="depth"
            value={read.bottom_depth_m}
            {...within('ConditionsIn', 'bottom_depth_m')}
            error={refusal?.at('bottom_depth_m')}
            onValueChange={(bottom_depth_m) => observe({ bottom_depth_m })}
          />
          <QuantityField
            label="Wind"
            quantity="wind"
            value={read.wind_speed_ms}
            {...within('ConditionsIn', 'wind_speed_ms')}
            error={refusal?.at('wind_speed_ms')}
            onValueChange={(wind_speed_ms) => observe({ wind_speed_ms })}
          />
          <ChoiceField
            label="Wind from"
            value={String(Math.round(read.wind_from_deg / 22.5) * 22.5)}
            options={COMPASS.map((point) => ({ value: String(point.deg), text: point.name }))}
            onValueChange={(deg) => observe({ wind_from_deg: Number(deg) })}
          />
        </div>
        <Segments
          label="Sky"
          value={
            SKIES.reduce((best, s) =>
              Math.abs(s.share - read.cloud_fraction) < Math.abs(best.share - read.cloud_fraction) ? s : best,
            ).value
          }
          options={SKIES.map((s) => ({ ...s, drawing: <SkyDrawing share={s.share} /> }))}
          onValueChange={(value) => observe({ cloud_fraction: Number(value) })}
        />
        <div className="grid grid-cols-2 gap-x-3">
          <QuantityField
            label="You can see down (Secchi)"
            quantity="depth"
            value={read.secchi_m}
            {...within('ConditionsIn', 'secchi_m')}
            error={refusal?.at('secchi_m')}
            onValueChange={(secchi_m) => observe({ secchi_m })}
          />
          <ChoiceField
            label="Trout"
            value={read.species ?? ''}
            options={(trade.data?.species ?? []).map((s) => ({ value: s.key, text: s.name }))}
            onValueChange={(species) => observe({ species })}
          />
        </div>
        <Segments
          label="Know more"
          value={evidence}
          options={[
            { value: 'readings', text: 'Deeper' },
            { value: 'signs', text: read.signs.length > 0 ? `Seen: ${read.signs.length}` : 'Signs' },
            { value: 'sample', text: read.sample ? 'Sample ✓' : 'Sample' },
          ]}
          onValueChange={(value) => setEvidence(value as Evidence)}
        />
        {evidence === 'readings' && (
          <DeeperReadings
            key={`${read.water_id} ${read.read_at_local}`}
            readings={deeperOf(read)}
            oxygen={read.oxygen}
            open={open}
            onOpenChange={setOpen}
            error={refusal?.at('readings', 'water_c', 'depth_m', 'oxygen', 'oxygen_mgl')}
            onReadingsChange={(deeper, oxygen, surfaceC) => {
              const top = surfaceC === undefined ? read : withSurface(read, surfaceC)
              observe({ ...withDeeper(top, deeper), oxygen })
            }}
          />
        )}
        {evidence === 'readings' && open && <EarlierReadings conditions={read} onObserved={observe} />}
        {picture?.may_be_iced && (
          <label className="flex min-h-11 items-center gap-2 font-semibold">
            <input
              type="checkbox"
              className="size-5 accent-(--ink)"
              checked={read.ice}
              onChange={(event) => observe({ ice: event.target.checked })}
            />
            Ice on the water
          </label>
        )}
        {evidence === 'signs' && trade.data && (
          <SignsPanel
            signs={trade.data.signs}
            seen={read.signs}
            lookFor={picture?.look_for?.key ?? null}
            onSeenChange={(signs) => observe({ signs })}
          />
        )}
        {evidence === 'sample' && trade.data && (
          <SamplePanel
            foods={trade.data.foods}
            sample={read.sample ?? null}
            onSampleChange={(sample) => observe({ sample })}
          />
        )}
      </form>

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
            <div className="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-2">
              <section aria-label="Why" className="text-[0.9375rem]">
                <h2 className="eyebrow border-b border-ink pb-0.5">Why there</h2>
                {picture.belief.factors.map((factor) => (
                  <p key={factor.key} className="py-0.5 leading-tight">
                    <strong className="mr-1.5">{factor.name}</strong>
                    {words(factor.why, units)}
                  </p>
                ))}
                {picture.trend && (
                  <p className="py-0.5 leading-tight">
                    <strong className="mr-1.5">Today</strong>
                    {words(picture.trend, units)}
                  </p>
                )}
                <p className="py-0.5 leading-tight">
                  <strong className="mr-1.5">Wind</strong>
                  {picture.wind_notes.map((note) => words(note, units)).join(' ')}
                </p>
              </section>
              <LikelyFood picture={picture} />
            </div>
          </div>
        )}
      </div>
    </div>
  )
}

interface AnswerProps {
  picture: Picture
  view: View
  onViewChange(view: View): void
}

/** The likeliest band in a line, whether this hour or the day is drawn, and how much of it all is guess. */
function Answer({ picture: seen, view, onViewChange }: AnswerProps) {
  const units = useUnits()
  const measured = Math.round(100 * seen.measured_share)
  const band = seen.belief.main_band
  const others = seen.belief.bands.filter((other) => other.top_m !== band.top_m)
  return (
    <div className="flex flex-wrap items-end justify-between gap-x-8 gap-y-2">
      <p>
        <span className="eyebrow block">Most likely feeding</span>
        <span className="plate text-4xl leading-none font-bold">
          {range('depth', band.top_m, band.bottom_m, units)}
        </span>
        <span className="ml-2 text-soft">down, {chances(band.chance)}</span>
        {others.map((other) => (
          <span key={other.top_m} className="block font-semibold">
            or {range('depth', other.top_m, other.bottom_m, units)}, {chances(other.chance)}
          </span>
        ))}
        <span className="block text-sm">{words(seen.activity.why, units)}</span>
      </p>
      <Segments
        label="Show"
        value={view}
        options={[
          { value: 'now', text: 'This hour' },
          { value: 'day', text: 'The day' },
        ]}
        onValueChange={(value) => onViewChange(value as View)}
        className="w-48"
      />
      <div className="w-56">
        <p className="flex justify-between text-sm font-semibold">
          <span>measured {measured} %</span>
          <span>guess {100 - measured} %</span>
        </p>
        <div className="mt-1 flex h-3 border border-ink" aria-hidden="true">
          <span className="bg-ink" style={{ width: `${measured}%` }} />
          <span
            className="grow"
            style={{
              background: 'repeating-linear-gradient(135deg, var(--rule) 0 3px, transparent 3px 7px)',
            }}
          />
        </div>
        <p className="mt-0.5 text-sm text-soft">
          {seen.wanted_reading_m === null
            ? 'Read where it matters.'
            : `A reading at ${format('depth', seen.wanted_reading_m, units)} would settle most.`}
        </p>
      </div>
    </div>
  )
}

function SkyDrawing({ share }: { share: number }) {
  return (
    <svg
      width="30"
      height="16"
      viewBox="0 0 30 16"
      aria-hidden="true"
      fill="none"
      stroke="currentColor"
      strokeWidth="1.6"
    >
      {share < 1 && <circle cx="11" cy="8" r="4.2" />}
      {share === 0 && <path d="M11 0.5V2M11 14v1.5M3 8h1.5M17.5 8H19" />}
      {share > 0 && <path d={share > 0.5 ? 'M7 14h15M5 11h19M9 8h13' : 'M14 13h11M16 10h8'} />}
      {share === 1 && <path d="M7 5h16" />}
    </svg>
  )
}
