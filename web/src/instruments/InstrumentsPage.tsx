/** Instruments: what speaks on the boat and the bank, live, and what can be done with what it says. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { answer, client, Refusal, type Conditions, type Schemas } from '../api/client'
import { api, thrown, useAskAgain } from '../queries/api'
import { useWaters } from '../queries/hooks'
import { compass, format } from '../format/units'
import { freshOuting, useOuting } from '../state/outing'
import { withRead, withSurface } from '../state/readings'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { FileDoor } from '../ui/FileDoor'
import { Trouble, Waiting } from '../ui/Notice'

type Instrument = Schemas['InstrumentOut']
type Value = Schemas['LoggedValueOut']

const POLL_MS = 1_000
const STAND_INS = [
  { name: 'Sounder and thermometer', port: 10110 },
  { name: 'Weather station', port: 10111 },
]

export function InstrumentsPage() {
  const asked = { params: { query: { limit: 50 } } }
  const instruments = thrown(api.useQuery('get', '/api/instruments', asked, { refetchInterval: POLL_MS }))
  if (instruments.isError && !instruments.data) return <Trouble error={instruments.error} />
  if (!instruments.data) return <Waiting what="Looking for instruments…" />
  const items = instruments.data.items
  return (
    <div className="mx-auto grid max-w-[1100px] grid-cols-[minmax(0,1fr)] gap-8 px-4 py-4 lg:grid-cols-[minmax(0,1fr)_360px] lg:px-6">
      <section>
        <h1 className="plate text-3xl font-bold">Instruments</h1>
        {instruments.isError && <Trouble error={instruments.error} />}
        {items.length === 0 && (
          <p className="mt-2">
            None yet. A sounder, a thermometer or a weather station that sends NMEA 0183 over the network can
            be read here.
          </p>
        )}
        <ul className="mt-3">
          {items.map((instrument) => (
            <OneInstrument key={instrument.id} instrument={instrument} />
          ))}
        </ul>
      </section>
      <div className="space-y-6">
        <NewInstrument taken={items} />
        <LogFile />
      </div>
    </div>
  )
}

const STATES = {
  off: 'Off',
  connecting: 'Connecting…',
  connected: 'Connected',
  lost: 'Lost; trying again',
} as const

function OneInstrument({ instrument }: { instrument: Instrument }) {
  const again = useAskAgain()
  const done = () => again('/api/instruments')
  const path = { instrument_id: instrument.id }
  const turn = useMutation({
    mutationFn: (on: boolean) => {
      const { name, host, port } = instrument
      return answer(
        client.PUT('/api/instruments/{instrument_id}', { params: { path }, body: { name, host, port, on } }),
      )
    },
    onSettled: done,
  })
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE('/api/instruments/{instrument_id}', { params: { path } })),
    onSettled: done,
  })
  const lost = instrument.state === 'lost'
  return (
    <li aria-label={instrument.name} className="border-t-2 border-ink py-3">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="plate mr-auto text-xl font-bold">{instrument.name}</h2>
        <Button onClick={() => turn.mutate(!instrument.on)} disabled={turn.isPending}>
          {instrument.on ? 'Stop listening' : 'Listen'}
        </Button>
        <Button look="quiet" aria-label={`Remove ${instrument.name}`} onClick={() => remove.mutate()}>
          Remove
        </Button>
      </div>
      <p className={lost ? 'border-l-[6px] border-hot bg-care px-3 py-1' : 'text-soft'}>
        <strong className="text-ink">{STATES[instrument.state]}</strong> · {instrument.host}:{instrument.port}
        {instrument.why && ` · ${instrument.why}`}
      </p>
      <Values values={instrument.last} live={instrument.state === 'connected'} />
      <p className="text-sm text-soft">
        {instrument.stored.toLocaleString('en')} values kept
        {instrument.lost > 0 && ` · the line was lost ${instrument.lost} times and taken up again`}
        {instrument.bad_checksums + instrument.malformed > 0 &&
          ` · ${instrument.bad_checksums + instrument.malformed} spoiled sentences left out`}
      </p>
      <UseValues values={instrument.last} instrument={instrument} />
    </li>
  )
}

const NAMES = { depth: 'Depth', water: 'Water', wind: 'Wind', position: 'Position' } as const

function Values({ values, live }: { values: readonly Value[]; live: boolean }) {
  const units = useUnits()
  if (values.length === 0) return null
  const said = ({ kind, a, b }: Value) => {
    if (kind === 'depth') return format('depth', a, units)
    if (kind === 'water') return format('temperature', a, units)
    if (kind === 'wind') return `${format('wind', a, units)} from ${compass(b ?? 0)}`
    return `${Math.abs(a).toFixed(4)}° ${a < 0 ? 'S' : 'N'} ${Math.abs(b ?? 0).toFixed(4)}° ${(b ?? 0) < 0 ? 'W' : 'E'}`
  }
  return (
    <dl className={`my-2 flex flex-wrap gap-x-8 gap-y-1 ${live ? '' : 'opacity-60'}`}>
      {values.map((value) => (
        <div key={value.kind}>
          <dt className="eyebrow">{NAMES[value.kind]}</dt>
          <dd className="plate text-2xl font-bold">{said(value)}</dd>
        </div>
      ))}
    </dl>
  )
}

/** The conditions with what of these values they take over. */
function measured(conditions: Conditions, values: readonly Value[]): Conditions {
  const of = (kind: Value['kind']) => values.find((value) => value.kind === kind)
  const [depth, water, wind, position] = [of('depth'), of('water'), of('wind'), of('position')]
  const tenth = (n: number) => Math.round(n * 10) / 10
  return withRead(water ? withSurface(conditions, tenth(water.a)) : conditions, {
    ...(depth && { bottom_depth_m: Math.max(tenth(depth.a), 0.3), far_bottom_depth_m: null }),
    ...(wind && {
      wind_speed_mps: Math.min(tenth(wind.a), 40),
      wind_from_deg: (Math.round((wind.b ?? 0) / 22.5) * 22.5) % 360,
    }),
    ...(position && { place: { latitude_deg: position.a, longitude_deg: position.b ?? 0 } }),
  })
}

function UseValues({ values, instrument }: { values: readonly Value[]; instrument?: Instrument }) {
  const { outing, observe, replace } = useOuting()
  const waters = useWaters()
  const navigate = useNavigate()
  const again = useAskAgain()
  const sound = useMutation({
    mutationFn: (water_id: number) =>
      answer(
        client.POST('/api/instruments/{instrument_id}/surveys', {
          params: { path: { instrument_id: instrument?.id ?? 0 } },
          body: { water_id },
        }),
      ),
    onSuccess: () => again('/api/waters/{water_id}/chart', '/api/starts'),
  })
  if (values.length === 0) return null
  const water = waters.data?.items.find((w) => w.id === outing?.conditions.water_id) ?? waters.data?.items[0]
  return (
    <div className="mt-2 space-y-1">
      <div className="flex flex-wrap gap-3">
        <Button
          disabled={!water}
          onClick={() => {
            if (outing) observe(measured(outing.conditions, values))
            else if (water) {
              const fresh = freshOuting(water)
              replace({ ...fresh, conditions: measured(fresh.conditions, values) })
            }
            void navigate('/read')
          }}
        >
          Read with these
        </Button>
        {instrument &&
          water &&
          values.some((v) => v.kind === 'depth') &&
          values.some((v) => v.kind === 'position') && (
            <Button disabled={sound.isPending} onClick={() => sound.mutate(water.id)}>
              Add its depths to {water.name}
            </Button>
          )}
      </div>
      {sound.isError && <Trouble error={sound.error} />}
      {sound.data && (
        <p role="status">{sound.data.count.toLocaleString('en')} soundings added to the chart.</p>
      )}
    </div>
  )
}

function NewInstrument({ taken }: { taken: readonly Instrument[] }) {
  const again = useAskAgain()
  const [draft, setDraft] = useState({ name: '', host: '127.0.0.1', port: '10110' })
  const add = useMutation({
    mutationFn: (body: Schemas['InstrumentIn']) => answer(client.POST('/api/instruments', { body })),
    onSuccess: () => {
      setDraft({ ...draft, name: '' })
      return again('/api/instruments')
    },
  })
  const refusal = add.error instanceof Refusal ? add.error : null
  const line = (label: string, name: keyof typeof draft) => (
    <Field label={label} error={refusal?.at(name)}>
      {({ id, describedBy, invalid }) => (
        <input
          id={id}
          className={`${CONTROL} font-semibold`}
          value={draft[name]}
          aria-invalid={invalid || undefined}
          aria-describedby={describedBy}
          onChange={(event) => setDraft({ ...draft, [name]: event.target.value })}
        />
      )}
    </Field>
  )
  const offered = STAND_INS.filter((s) => !taken.some((t) => t.port === s.port))
  return (
    <form
      aria-label="New instrument"
      className="space-y-2"
      onSubmit={(event) => {
        event.preventDefault()
        add.mutate({
          name: draft.name.trim(),
          host: draft.host.trim(),
          port: Number(draft.port) || 0,
          on: true,
        })
      }}
    >
      <h2 className="plate text-xl font-bold">Add one</h2>
      {line('Name', 'name')}
      <div className="grid grid-cols-[1fr_7rem] gap-2">
        {line('Address', 'host')}
        {line('Port', 'port')}
      </div>
      <Button type="submit" disabled={!draft.name.trim() || add.isPending}>
        Add and listen
      </Button>
      {offered.length > 0 && (
        <div className="pt-2 text-sm">
          <p className="text-soft">
            No instrument at hand? <code>make standins</code> starts simulated ones on this machine.
          </p>
          {offered.map((s) => (
            <button
              key={s.port}
              type="button"
              className="min-h-9 pr-4 font-semibold underline underline-offset-4"
              onClick={() => add.mutate({ ...s, host: '127.0.0.1', on: true })}
            >
              Add the simulated {s.name.toLowerCase()}
            </button>
          ))}
        </div>
      )}
      {add.isError && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={add.error} />}
    </form>
  )
}

function LogFile() {
  const read = useMutation({
    mutationFn: (file: File) => {
      const body = new FormData()
      body.append('file', file, file.name)
      return answer(
        client.POST('/api/nmea-logs', {
          body: body as unknown as { file: string },
          bodySerializer: (value) => value as unknown as FormData,
        }),
      )
    },
  })
  return (
    <section aria-label="A log file" className="space-y-2">
      <h2 className="plate text-xl font-bold">From a log</h2>
      <FileDoor accept=".nmea,.log,.txt" onFile={(file) => read.mutate(file)}>
        NMEA log file
      </FileDoor>
      <p className="text-sm text-soft">Its soundings come onto a chart from the page of the water.</p>
      {read.isError && <Trouble error={read.error} />}
      {read.data && (
        <div>
          <p role="status" className="text-sm">
            {read.data.good} sentences read
            {read.data.bad_checksums + read.data.malformed > 0 &&
              `, ${read.data.bad_checksums + read.data.malformed} spoiled and left out`}
            .
          </p>
          <Values values={read.data.last} live />
          <UseValues values={read.data.last} />
        </div>
      )}
    </section>
  )
}
