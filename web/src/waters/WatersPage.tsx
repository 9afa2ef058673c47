/** Waters: where they lie and how they usually are. */
import { useAskAgain } from '../queries/api'
import { within } from '../api/within'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, client, Refusal, type Schemas, type Water } from '../api/client'
import { useTrade, useWaters } from '../queries/hooks'
import { toShown, type Units } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { ChoiceField, CONTROL, Field, QuantityField } from '../ui/Field'
import { Trouble, Waiting } from '../ui/Notice'
import { RulesFields } from './RulesFields'
import { StockedFields } from './StockedFields'

type WaterIn = Schemas['WaterIn']

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

const NEW: WaterIn = {
  name: '',
  latitude_deg: 50,
  longitude_deg: 0,
  altitude_m: 100,
  fetch_km: 1,
  usual_bottom_depth_m: 6,
  usual_secchi_m: 3,
  usual_fish_kg: 1,
  time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  species: 'rainbow',
  stocked: [],
  rules: FREE,
  notes: '',
}

export function WatersPage() {
  const waters = useWaters()
  const units = useUnits()
  const [editing, setEditing] = useState<Water | 'new' | null>(null)
  if (waters.isError) return <Trouble error={waters.error} />
  if (!waters.data) return <Waiting what="Fetching your waters…" />
  const shown = editing ?? (waters.data.items.length === 0 ? 'new' : null)
  return (
    <div className="mx-auto grid max-w-[1100px] gap-8 px-4 py-4 lg:grid-cols-2 lg:px-6">
      <section>
        <h1 className="plate text-3xl font-bold">Waters</h1>
        <ul className="mt-3">
          {waters.data.items.map((water) => (
            <li key={water.id} className="flex items-start justify-between gap-4 border-t-2 border-ink py-3">
              <div>
                <h2 className="plate text-xl font-bold">
                  <Link to={`/waters/${water.id}`} className="underline decoration-2 underline-offset-4">
                    {water.name}
                  </Link>
                </h2>
                <p className="text-soft">
                  {degrees(water.latitude_deg, 'N', 'S')} {degrees(water.longitude_deg, 'E', 'W')} ·{' '}
                  {altitude(water.altitude_m, units)} up · open for {water.fetch_km} km
                </p>
                {water.notes && <p>{water.notes}</p>}
                <p className="text-sm text-soft">{water.rule_words.join(' ')}</p>
                {!water.has_outline && <p className="text-sm">No chart yet: open it to draw the shore.</p>}
              </div>
              <Button aria-label={`Change ${water.name}`} onClick={() => setEditing(water)}>
                Change
              </Button>
            </li>
          ))}
        </ul>
        <Button className="mt-2" onClick={() => setEditing('new')}>
          Add a water
        </Button>
        <p className="mt-3">
          <Link to="/instruments" className="font-semibold underline underline-offset-4">
            Sounder, thermometer, weather station
          </Link>
        </p>
      </section>
      {shown && (
        <WaterForm
          key={shown === 'new' ? 'new' : shown.id}
          water={shown === 'new' ? null : shown}
          onDone={() => setEditing(null)}
        />
      )}
    </div>
  )
}

function altitude(m: number, units: Units): string {
  return `${Math.round(toShown('depth', m, units))} ${units.depth_unit}`
}

function degrees(deg: number, plus: string, minus: string): string {
  return `${Math.abs(deg).toFixed(1)}° ${deg < 0 ? minus : plus}`
}

function WaterForm({ water, onDone }: { water: Water | null; onDone(): void }) {
  const again = useAskAgain()
  const trade = useTrade()
  const [draft, setDraft] = useState<WaterIn>(water ?? NEW)
  const set = (changes: Partial<WaterIn>) => setDraft({ ...draft, ...changes })
  const save = useMutation({
    mutationFn: () =>
      water
        ? answer(
            client.PUT('/api/waters/{water_id}', { params: { path: { water_id: water.id } }, body: draft }),
          )
        : answer(client.POST('/api/waters', { body: draft })),
    onSuccess: async () => {
      await again('/api/waters', '/api/pictures', '/api/choices')
      onDone()
    },
  })
  const refusal = save.error instanceof Refusal ? save.error : null
  const plain = (label: string, name: PlainName, numeric: boolean) => (
    <PlainField
      label={label}
      value={draft[name]}
      numeric={numeric}
      error={refusal?.at(name)}
      onValueChange={(value) => set({ [name]: value })}
    />
  )
  return (
    <form
      aria-label={water ? `Change ${water.name}` : 'New water'}
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <h2 className="plate text-2xl font-bold">{water ? water.name : 'A new water'}</h2>
      {plain('Name', 'name', false)}
      <div className="grid grid-cols-2 gap-3">
        {plain('Latitude, degrees (south negative)', 'latitude_deg', true)}
        {plain('Longitude, degrees (west negative)', 'longitude_deg', true)}
        <QuantityField
          label="Altitude"
          quantity="depth"
          value={draft.altitude_m}
          {...within('WaterIn', 'altitude_m')}
          error={refusal?.at('altitude_m')}
          onValueChange={(altitude_m) => set({ altitude_m })}
        />
        {plain('Longest open stretch, km', 'fetch_km', true)}
        <QuantityField
          label="Usual depth where you fish"
          quantity="depth"
          value={draft.usual_bottom_depth_m}
          {...within('WaterIn', 'usual_bottom_depth_m')}
          onValueChange={(usual_bottom_depth_m) => set({ usual_bottom_depth_m })}
        />
        <QuantityField
          label="Usual clarity (Secchi)"
          quantity="depth"
          value={draft.usual_secchi_m}
          {...within('WaterIn', 'usual_secchi_m')}
          onValueChange={(usual_secchi_m) => set({ usual_secchi_m })}
        />
        <QuantityField
          label="Usual fish"
          quantity="mass"
          value={draft.usual_fish_kg}
          {...within('WaterIn', 'usual_fish_kg')}
          onValueChange={(usual_fish_kg) => set({ usual_fish_kg })}
        />
        <ChoiceField
          label="Trout"
          value={draft.species}
          options={(trade.data?.species ?? []).map((s) => ({ value: s.key, text: s.name }))}
          onValueChange={(species) => set({ species })}
        />
        {plain('Time zone', 'time_zone', false)}
      </div>
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
        <Button size="large" onClick={onDone}>
          Leave it
        </Button>
      </div>
    </form>
  )
}

type PlainName = 'name' | 'time_zone' | 'latitude_deg' | 'longitude_deg' | 'fetch_km'

interface PlainFieldProps {
  label: string
  value: string | number | undefined
  numeric: boolean
  error: string | undefined
  onValueChange(value: string | number): void
}

/** A field as it is typed; a number may have a comma. */
function PlainField({ label, value, numeric, error, onValueChange }: PlainFieldProps) {
  return (
    <Field label={label} error={error}>
      {({ id, describedBy, invalid }) => (
        <input
          id={id}
          className={`${CONTROL} font-semibold`}
          inputMode={numeric ? 'decimal' : 'text'}
          defaultValue={String(value)}
          aria-invalid={invalid || undefined}
          aria-describedby={describedBy}
          onChange={(event) =>
            onValueChange(numeric ? Number(event.target.value.replace(',', '.')) : event.target.value)
          }
        />
      )}
    </Field>
  )
}
