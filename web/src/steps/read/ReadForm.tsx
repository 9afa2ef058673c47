/** What the angler sees and measures. */
import { useState } from 'react'
import type { Conditions, Picture, Refusal, Schemas } from '../../api/client'
import { within } from '../../api/within'
import { SKIES } from '../../format/skies'
import { clockOf, dayAndTime } from '../../format/clock'
import { compass, COMPASS, format } from '../../format/units'
import { useTrade, useWaters } from '../../queries/hooks'
import { freshOuting, useOuting } from '../../state/outing'
import { useUnits } from '../../state/person'
import { deeperOf, surfaceOf, UNREAD, withDeeper, withSurface, type Assumed } from '../../state/readings'
import { ChoiceField, CONTROL, Field } from '../../ui/Field'
import { Fold, NARROW } from '../../ui/Fold'
import { Segments } from '../../ui/Segments'
import { useMedia } from '../../ui/useMedia'
import { AskedChoice, AskedQuantity } from './Asked'
import { DeeperReadings } from './DeeperReadings'
import { EarlierReadings } from './EarlierReadings'
import { SamplePanel } from './SamplePanel'
import { SignsPanel } from './SignsPanel'

type Evidence = 'readings' | 'signs' | 'sample'

/** The five first inputs are these, the water and the hour. */
const FIRST: readonly Assumed[] = ['surface_c', 'wind_speed_mps', 'cloud_fraction']
const WEATHER: readonly Assumed[] = ['wind_speed_mps', 'wind_from_deg', 'cloud_fraction']
interface ReadFormProps {
  read: Conditions
  /** The water as read by now, where it could be. */
  picture: Picture | undefined
  refusal: Refusal | null
}

interface WholeFormProps extends ReadFormProps {
  worths: Schemas['WorthsOut'] | undefined
}

export function ReadForm({ read, picture, worths, refusal }: WholeFormProps) {
  return (
    <form
      className="space-y-2.5 lg:order-2"
      onSubmit={(event) => event.preventDefault()}
      aria-label="What you read"
    >
      <Fold title="Where and when" said={useWhere(read)} given>
        <div className="grid grid-cols-2 gap-x-3 gap-y-2.5">
          <WaterAndTime read={read} refusal={refusal} />
        </div>
      </Fold>
      <FirstThings read={read} picture={picture} refusal={refusal} />
      <Further read={read} picture={picture} refusal={refusal} />
      <EvidencePanel read={read} picture={picture} worths={worths} refusal={refusal} />
    </form>
  )
}

function useWhere(read: Conditions): string {
  const waters = useWaters()
  const name = waters.data?.items.find((w) => w.id === read.water_id)?.name ?? ''
  return `${name}, ${dayAndTime(read.at_local)}`
}

/** What a first answer comes from: the top's temperature, wind and sky. */
function FirstThings({ read, picture, refusal }: ReadFormProps) {
  const { observe } = useOuting()
  const units = useUnits()
  const sky = SKIES.reduce((best, s) =>
    Math.abs(s.share - read.cloud_fraction) < Math.abs(best.share - read.cloud_fraction) ? s : best,
  )
  const asked = { read, picture }
  const blows = format('wind', read.wind_speed_mps, units)
  const said = [
    `${format('temperature', surfaceOf(read).water_c, units)} at the top`,
    `${blows} from ${compass(read.wind_from_deg)}`,
    sky.text.toLowerCase(),
  ].join(', ')
  return (
    <Fold title="Water and weather" said={said} given={FIRST.every((name) => !read.assumed.includes(name))}>
      <div className="grid grid-cols-2 items-start gap-x-3 gap-y-2.5">
        <AskedQuantity
          {...asked}
          name="surface_c"
          className="col-span-2"
          label="Surface temperature"
          quantity="temperature"
          value={surfaceOf(read).water_c}
          {...within('ReadingIn', 'water_c')}
          onValueChange={(waterC) => observe(withSurface(read, waterC))}
        />
        <AskedQuantity
          {...asked}
          name="wind_speed_mps"
          label="Wind"
          quantity="wind"
          value={read.wind_speed_mps}
          {...within('ConditionsIn', 'wind_speed_mps')}
          error={refusal?.at('wind_speed_mps')}
          onValueChange={(wind_speed_mps) => observe({ wind_speed_mps })}
        />
        <AskedChoice {...asked} name="wind_from_deg" said={compass}>
          {(made) => (
            <ChoiceField
              label="Wind from"
              value={made ? String(Math.round(read.wind_from_deg / 22.5) * 22.5) : ''}
              options={[
                ...(made ? [] : [{ value: '', text: 'not read' }]),
                ...COMPASS.map((point) => ({ value: String(point.deg), text: point.name })),
              ]}
              onValueChange={(deg) => deg && observe({ wind_from_deg: Number(deg) })}
            />
          )}
        </AskedChoice>
      </div>
      <AskedChoice {...asked} name="cloud_fraction" said={() => 'some cloud'}>
        {(made) => (
          <Segments
            label="Sky"
            value={made ? sky.value : ''}
            options={SKIES.map((s) => ({ ...s, drawing: <SkyDrawing share={s.share} /> }))}
            onValueChange={(value) => observe({ cloud_fraction: Number(value) })}
          />
        )}
      </AskedChoice>
    </Fold>
  )
}

/** What stands as usual for this water until it is looked at. */
function Further({ read, picture, refusal }: ReadFormProps) {
  const { observe } = useOuting()
  const units = useUnits()
  const trade = useTrade()
  const asked = { read, picture }
  const species = trade.data?.species.find((s) => s.key === read.species)?.name ?? ''
  const said = [
    `${format('depth', read.bottom_depth_m, units)} deep`,
    `clear to ${format('depth', read.secchi_m, units)}`,
    species.toLowerCase(),
  ].join(', ')
  return (
    <Fold
      title={
        read.assumed.includes('bottom_depth_m') ? 'Depth and clarity, as usual here' : 'Depth and clarity'
      }
      said={said}
      given
    >
      <div className="grid grid-cols-2 items-start gap-x-3 gap-y-2.5">
        <AskedQuantity
          {...asked}
          name="bottom_depth_m"
          label="Bottom depth here"
          quantity="depth"
          value={read.bottom_depth_m}
          {...within('ConditionsIn', 'bottom_depth_m')}
          error={refusal?.at('bottom_depth_m')}
          onValueChange={(bottom_depth_m) => observe({ bottom_depth_m })}
        />
        <AskedQuantity
          {...asked}
          name="secchi_m"
          label="You can see down (Secchi)"
          quantity="depth"
          value={read.secchi_m}
          {...within('ConditionsIn', 'secchi_m')}
          error={refusal?.at('secchi_m')}
          onValueChange={(secchi_m) => observe({ secchi_m })}
        />
        <ChoiceField
          label="Trout"
          className="col-span-2"
          value={read.species ?? ''}
          options={(trade.data?.species ?? []).map((s) => ({ value: s.key, text: s.name }))}
          onValueChange={(species) => observe({ species })}
        />
      </div>
    </Fold>
  )
}

function WaterAndTime({ read, refusal }: { read: Conditions; refusal: Refusal | null }) {
  const { observe, replace } = useOuting()
  const waters = useWaters()
  return (
    <>
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
          // The weather is the same there; the water is another.
          const { wind_speed_mps, wind_from_deg, cloud_fraction, signs } = read
          const assumed = UNREAD.filter((name) => !WEATHER.includes(name) || read.assumed.includes(name))
          const conditions = {
            ...fresh.conditions,
            wind_speed_mps,
            wind_from_deg,
            cloud_fraction,
            signs,
            assumed,
          }
          replace({ ...fresh, conditions })
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
    </>
  )
}

/** Readings down the column, signs and a sample, one of them at a time. */
function EvidencePanel({ read, picture, worths, refusal }: WholeFormProps) {
  const { observe } = useOuting()
  const trade = useTrade()
  const narrow = useMedia(NARROW)
  const [open, setOpen] = useState(deeperOf(read).length > 0 && !narrow)
  const [evidence, setEvidence] = useState<Evidence>('readings')
  return (
    <>
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
      <EvidenceWorth evidence={evidence} worths={worths} />
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
    </>
  )
}

const LEAST_M = 0.05

/** What looking further would be worth. */
function EvidenceWorth({ evidence, worths }: { evidence: Evidence; worths: WholeFormProps['worths'] }) {
  const units = useUnits()
  const narrows = evidence === 'sample' ? worths?.sample_m : evidence === 'readings' ? worths?.reading_m : 0
  if (!worths || !narrows || narrows < LEAST_M) return null
  const what =
    evidence === 'sample' || worths.reading_at_m === null
      ? 'A sample of what they eat'
      : `A reading at ${format('depth', worths.reading_at_m, units)}`
  return (
    <p className="text-sm text-soft">
      {what} narrows the search by some {format('depth', narrows, units)} of{' '}
      {format('depth', worths.searched_m, units)}.
    </p>
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
