/** A water, new or changed: its name and place first; the rest is assumed until it is told. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal, type Schemas, type Water } from '../api/client'
import { within } from '../api/within'
import { useAskAgain } from '../queries/api'
import { useChart, useTrade } from '../queries/hooks'
import { format } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { ChoiceField, CONTROL, Field, QuantityField } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { PlaceFields, type Place } from './PlaceFields'
import { RulesFields } from './RulesFields'
import { StockedFields } from './StockedFields'

type WaterIn = Schemas['WaterIn']
/** A water that may not have its place yet. */
type Draft = Omit<Required<WaterIn>, keyof Place> & { place: Place | null }

const FREE: Schemas['RulesIn'] = {
  most_flies: null,
  largest_hook: null,
  barbless: false,
  indicators: true,
  static_buoyant: true,
  lures: true,
  boats: true,
  float_tubes: true,
  wading: true,
  release: 'either',
  bag_limit: null,
  opens: null,
  closes: null,
  method_bans: [],
}

const NEW: Draft = {
  name: '',
  place: null,
  altitude_m: 100,
  fetch_km: 1,
  usual_bottom_depth_m: 6,
  usual_secchi_m: 3,
  usual_fish_kg: 1,
  species: 'rainbow',
  stocked: [],
  rules: FREE,
  notes: '',
}

function draftOf({ latitude_deg, longitude_deg, time_zone, ...water }: Water): Draft {
  return { ...water, place: { latitude_deg, longitude_deg, time_zone } }
}

interface WaterFormProps {
  water: Water | null
  /** Kept, or left as it was; without it the form cannot be left. */
  onDone?(): void
}

export function WaterForm({ water, onDone }: WaterFormProps) {
  const again = useAskAgain()
  const units = useUnits()
  const [draft, setDraft] = useState<Draft>(() => (water ? draftOf(water) : NEW))
  const [placeless, setPlaceless] = useState(false)
  const set = (changes: Partial<Draft>) => setDraft((before) => ({ ...before, ...changes }))
  const save = useMutation({
    mutationFn: (body: WaterIn) =>
      water
        ? answer(client.PUT('/api/waters/{water_id}', { params: { path: { water_id: water.id } }, body }))
        : answer(client.POST('/api/waters', { body })),
    onSuccess: async () => {
      await again('/api/waters', '/api/pictures', '/api/choices')
      onDone?.()
    },
  })
  const refusal = save.error instanceof Refusal ? save.error : null
  return (
    <form
      aria-label={water ? `Change ${water.name}` : 'New water'}
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        const { place, ...rest } = draft
        setPlaceless(!place)
        if (place) save.mutate({ ...rest, ...place })
      }}
    >
      {onDone && <h2 className="plate text-2xl font-bold">{water ? water.name : 'A new water'}</h2>}
      <Field label="Name" error={refusal?.at('name')}>
        {({ id, describedBy, invalid }) => (
          <input
            id={id}
            className={`${CONTROL} font-semibold`}
            required
            maxLength={80}
            value={draft.name}
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            onChange={(event) => set({ name: event.target.value })}
          />
        )}
      </Field>
      <PlaceFields
        place={draft.place}
        error={
          placeless && !draft.place
            ? 'Say where it lies: sun, season and clock hang on it.'
            : refusal?.at('latitude_deg', 'longitude_deg', 'time_zone')
        }
        onPlaceChange={(place, altitude_m) => set({ place, ...(altitude_m !== null && { altitude_m }) })}
      />
      <QuantityField
        label="Altitude"
        quantity="depth"
        value={draft.altitude_m}
        {...within('WaterIn', 'altitude_m')}
        error={refusal?.at('altitude_m')}
        hint="The higher it lies, the colder its season and the less oxygen its water can hold."
        onValueChange={(altitude_m) => set({ altitude_m })}
      />
      <details open={water !== null}>
        <summary className="min-h-9 cursor-pointer font-semibold">
          How it usually is: {format('depth', draft.usual_bottom_depth_m, units)} where you fish, clear to{' '}
          {format('depth', draft.usual_secchi_m, units)}
        </summary>
        <div className="mt-1 space-y-3">
          <Usually water={water} draft={draft} onChange={set} />
          <StockedFields draft={draft} onChange={set} />
          <Field label="Notes" error={refusal?.at('notes')}>
            {({ id, describedBy, invalid }) => (
              <textarea
                id={id}
                rows={2}
                maxLength={2000}
                className={`${CONTROL} h-auto! py-1.5`}
                value={draft.notes}
                aria-invalid={invalid || undefined}
                aria-describedby={describedBy}
                onChange={(event) => set({ notes: event.target.value })}
              />
            )}
          </Field>
        </div>
      </details>
      <RulesFields
        rules={draft.rules}
        error={refusal?.at('closes', 'opens', 'season')}
        banError={refusal?.at('method_bans', 'first', 'last')}
        onRulesChange={(rules) => set({ rules: { ...draft.rules, ...rules } })}
      />
      {save.error && <Trouble error={save.error} />}
      <div className="flex gap-3">
        <Button type="submit" look="hot" size="large" disabled={save.isPending}>
          Keep this water
        </Button>
        {onDone && (
          <Button size="large" onClick={onDone}>
            Leave it
          </Button>
        )}
      </div>
    </form>
  )
}

interface UsuallyProps {
  water: Water | null
  draft: Draft
  onChange(changes: Partial<Draft>): void
}

/** How the water usually is: what a reading is assumed to be until it is made. */
function Usually({ water, draft, onChange }: UsuallyProps) {
  const trade = useTrade()
  return (
    <div className="grid grid-cols-2 items-start gap-3">
      <QuantityField
        label="Usual depth where you fish"
        quantity="depth"
        value={draft.usual_bottom_depth_m}
        {...within('WaterIn', 'usual_bottom_depth_m')}
        onValueChange={(usual_bottom_depth_m) => onChange({ usual_bottom_depth_m })}
      />
      <QuantityField
        label="Usual clarity (Secchi)"
        quantity="depth"
        value={draft.usual_secchi_m}
        {...within('WaterIn', 'usual_secchi_m')}
        onValueChange={(usual_secchi_m) => onChange({ usual_secchi_m })}
      />
      <QuantityField
        label="Usual fish"
        quantity="mass"
        value={draft.usual_fish_kg}
        {...within('WaterIn', 'usual_fish_kg')}
        onValueChange={(usual_fish_kg) => onChange({ usual_fish_kg })}
      />
      <ChoiceField
        label="Trout"
        value={draft.species}
        options={(trade.data?.species ?? []).map((s) => ({ value: s.key, text: s.name }))}
        onValueChange={(species) => onChange({ species })}
      />
      <OpenStretch water={water} draft={draft} onChange={onChange} />
    </div>
  )
}

const KM_M = 1000

/** How far the wind blows over open water, which the chart knows where there is one. */
function OpenStretch({ water, draft, onChange }: UsuallyProps) {
  const units = useUnits()
  const chart = useChart(water?.id ?? 0, water?.has_outline ?? false)
  const { least, most } = within('WaterIn', 'fetch_km')
  const charted = chart.data?.longest_fetch_km
  return (
    <div className="col-span-2 flex flex-wrap items-start gap-x-3">
      <QuantityField
        label="Longest open stretch"
        quantity="stretch"
        value={KM_M * draft.fetch_km}
        least={KM_M * least}
        most={KM_M * most}
        hint="How far the wind can blow over it: it makes the waves, and mixes the water."
        className="grow basis-40"
        onValueChange={(m) => onChange({ fetch_km: m / KM_M })}
      />
      {charted && Math.abs(charted - draft.fetch_km) > 0.05 && (
        <Button className="mt-6" onClick={() => onChange({ fetch_km: charted })}>
          The chart says {format('stretch', KM_M * charted, units)}
        </Button>
      )}
    </div>
  )
}
