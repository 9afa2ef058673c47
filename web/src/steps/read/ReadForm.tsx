/** What the angler sees and measures. */
import { useState } from 'react'
import type { Conditions, Picture, Refusal } from '../../api/client'
import { within } from '../../api/within'
import { clockOf } from '../../format/clock'
import { COMPASS } from '../../format/units'
import { useTrade, useWaters } from '../../queries/hooks'
import { freshOuting, useOuting } from '../../state/outing'
import { deeperOf, surfaceOf, withDeeper, withSurface } from '../../state/readings'
import { ChoiceField, CONTROL, Field, QuantityField } from '../../ui/Field'
import { Segments } from '../../ui/Segments'
import { DeeperReadings } from './DeeperReadings'
import { EarlierReadings } from './EarlierReadings'
import { SamplePanel } from './SamplePanel'
import { SignsPanel } from './SignsPanel'

type Evidence = 'readings' | 'signs' | 'sample'

const SKIES = [
  { value: '0', text: 'Clear', share: 0 },
  { value: '0.3', text: 'Some', share: 0.3 },
  { value: '0.6', text: 'Broken', share: 0.6 },
  { value: '1', text: 'Overcast', share: 1 },
] as const

interface ReadFormProps {
  read: Conditions
  /** The water as read by now, where it could be. */
  picture: Picture | undefined
  refusal: Refusal | null
}

export function ReadForm({ read, picture, refusal }: ReadFormProps) {
  const { observe } = useOuting()
  const trade = useTrade()
  return (
    <form
      className="space-y-2.5 lg:order-2"
      onSubmit={(event) => event.preventDefault()}
      aria-label="What you read"
    >
      <div className="grid grid-cols-2 gap-x-3 gap-y-2.5">
        <WaterAndTime read={read} refusal={refusal} />
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
      <EvidencePanel read={read} picture={picture} refusal={refusal} />
    </form>
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
    </>
  )
}

/** Readings down the column, signs and a sample, one of them at a time. */
function EvidencePanel({ read, picture, refusal }: ReadFormProps) {
  const { observe } = useOuting()
  const trade = useTrade()
  const [open, setOpen] = useState(deeperOf(read).length > 0)
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
