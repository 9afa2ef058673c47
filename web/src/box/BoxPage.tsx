/** Box: lines with their real rates, leaders, flies and how they sink. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { useAskAgain } from '../queries/api'
import { answer, client, type Schemas } from '../api/client'
import { useFlies, useLeaders, useLines, useTrade } from '../queries/hooks'
import { format } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { ChoiceField, CONTROL, Field, QuantityField } from '../ui/Field'
import { NARROW } from '../ui/Fold'
import { Trouble, Waiting } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { useMedia } from '../ui/useMedia'
import { CsvDoor } from './CsvDoor'
import { FlyList } from './FlyList'
import { LeaderBuilder } from './LeaderBuilder'
import { speaksOf } from './speaksOf'
import { Sundries } from './Sundries'

const PARTS = ['Flies', 'Lines', 'Leaders', 'Rods'] as const
type Part = (typeof PARTS)[number]

export function BoxPage() {
  const lines = useLines()
  const leaders = useLeaders()
  const flies = useFlies()
  const narrow = useMedia(NARROW)
  const [wanted, setWanted] = useState('')
  const [part, setPart] = useState<Part>('Flies')
  const error = lines.error ?? leaders.error ?? flies.error
  if (error) return <Trouble error={error} />
  if (!lines.data || !leaders.data || !flies.data) return <Waiting what="Opening the box…" />
  const shows = (one: Part) => !narrow || part === one
  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-x-10 gap-y-4 px-4 py-4 lg:grid-cols-[1.2fr_1fr_1.1fr] lg:px-6">
      <div className="flex flex-wrap items-end gap-x-6 gap-y-2 lg:col-span-3">
        <h1 className="plate text-3xl font-bold">Box</h1>
        <Field label="Find in the box" className="grow basis-52 lg:max-w-md">
          {({ id }) => (
            <input
              id={id}
              type="search"
              className={CONTROL}
              autoComplete="off"
              value={wanted}
              onChange={(event) => setWanted(event.target.value)}
            />
          )}
        </Field>
        {narrow && (
          <Segments
            label="Part of the box"
            className="grow basis-full"
            value={part}
            options={PARTS.map((one) => ({ value: one, text: one }))}
            onValueChange={(one) => setPart(one as Part)}
          />
        )}
        <Link to="/tank" className="flex min-h-11 items-center font-semibold underline underline-offset-4">
          Try two rigs against each other in the tank
        </Link>
      </div>
      {shows('Flies') && (
        <section className="min-w-0 lg:order-3">
          <h2 className="plate text-2xl font-bold">Flies</h2>
          <FlyList flies={flies.data.items} wanted={wanted} />
        </section>
      )}
      {shows('Lines') && (
        <section className="min-w-0 lg:order-1">
          <h2 className="plate text-2xl font-bold">Lines</h2>
          <p className="text-sm text-soft">
            A label is not a measurement: count a line down to a known bottom and put its real rate here.
          </p>
          <ul className="mt-2">
            {lines.data.items
              .filter((line) => speaksOf(wanted, line.name))
              .map((line) => (
                <LineRow key={`${line.id}:${line.sink_rate_mps}`} line={line} />
              ))}
          </ul>
          <CsvDoor part="lines" className="mt-2" />
          <NewLine />
        </section>
      )}
      {(shows('Leaders') || shows('Rods')) && (
        <section className="min-w-0 lg:order-2">
          {shows('Leaders') && (
            <>
              <h2 className="plate text-2xl font-bold">Leaders</h2>
              <Leaders leaders={leaders.data.items.filter((leader) => speaksOf(wanted, leader.name))} />
              <CsvDoor part="leaders" className="mt-2" />
              <LeaderBuilder />
            </>
          )}
          {shows('Rods') && <Sundries />}
        </section>
      )}
    </div>
  )
}

function Leaders({ leaders }: { leaders: readonly Schemas['LeaderOut'][] }) {
  const units = useUnits()
  return (
    <ul className="mt-2">
      {leaders.map((leader) => (
        <li key={leader.id} className="border-t-2 border-ink py-2">
          <p className="font-semibold">{leader.name}</p>
          <LeaderDrawing leader={leader} />
          <p className="text-sm text-soft">
            {leader.sections
              .map(
                (s) =>
                  `${format('depth', s.length_m, units)} of ${(1000 * s.diameter_m).toFixed(2)} mm ${s.material}`,
              )
              .join(', ')}
          </p>
        </li>
      ))}
    </ul>
  )
}

function LineRow({ line }: { line: Schemas['LineOut'] }) {
  const again = useAskAgain()
  const [rate, setRate] = useState(line.sink_rate_mps)
  const refresh = async () => {
    await again('/api/lines', '/api/choices', '/api/weighings')
  }
  const path = { line_id: line.id }
  const save = useMutation({
    mutationFn: () =>
      answer(
        client.PUT('/api/lines/{line_id}', {
          params: { path },
          body: { ...line, sink_rate_mps: rate, calibrated: true },
        }),
      ),
    onSuccess: refresh,
  })
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE('/api/lines/{line_id}', { params: { path } })),
    onSuccess: refresh,
  })
  const units = useUnits()
  const floats = line.class_key === 'floating'
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_7.5rem_auto] items-center gap-3 border-t border-rule py-1.5 first:border-t-2 first:border-ink">
      <span>
        <strong>{line.name}</strong>
        <span className="block text-sm text-soft">
          number {line.number}, {(1000 * line.diameter_m).toFixed(2)} mm
          {line.label_mps !== null ? ', timed' : line.calibrated ? ', measured' : ', by its label'}
          {line.too_fast_a_label &&
            `: a label this fast on a line this light cannot be; expect about ${format('lineSpeed', line.likely_mps, units)} until you time it`}
          {!floats && (
            <>
              {' · '}
              <Link to={`/box/lines/${line.id}`} className="text-ink underline underline-offset-4">
                time it
              </Link>
            </>
          )}
        </span>
      </span>
      {floats ? (
        <span className="text-soft">floats</span>
      ) : (
        <QuantityField
          label={`Sinks`}
          quantity="lineSpeed"
          value={rate}
          least={0.002}
          most={0.3}
          onValueChange={setRate}
        />
      )}
      {rate !== line.sink_rate_mps ? (
        <Button look="hot" onClick={() => save.mutate()}>
          Keep
        </Button>
      ) : (
        <Button look="quiet" aria-label={`Take ${line.name} out of the box`} onClick={() => remove.mutate()}>
          Out
        </Button>
      )}
      {(save.error ?? remove.error) && <Trouble error={save.error ?? remove.error} />}
    </li>
  )
}

function NewLine() {
  const again = useAskAgain()
  const trade = useTrade()
  const [name, setName] = useState('')
  const [key, setKey] = useState('intermediate')
  const [number, setNumber] = useState('6')
  const kind = trade.data?.line_classes.find((c) => c.key === key)
  const add = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/lines', {
          body: {
            name: name.trim() || (kind?.name ?? key),
            class_key: key,
            number: Number(number),
            sink_rate_mps: kind?.label_sink_rate_mps ?? 0,
            calibrated: false,
            stretches: [],
          },
        }),
      ),
    onSuccess: async () => {
      setName('')
      await again('/api/lines', '/api/choices', '/api/weighings')
    },
  })
  return (
    <form
      aria-label="New line"
      className="mt-3 grid grid-cols-2 items-end sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_4rem_auto] gap-2 border-t-2 border-ink pt-2"
      onSubmit={(event) => {
        event.preventDefault()
        add.mutate()
      }}
    >
      <Field label="Name">
        {({ id }) => (
          <input
            id={id}
            className={CONTROL}
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Field>
      <ChoiceField
        label="Class"
        value={key}
        options={(trade.data?.line_classes ?? []).map((c) => ({ value: c.key, text: c.name }))}
        onValueChange={setKey}
      />
      <ChoiceField
        label="No."
        value={number}
        options={['4', '5', '6', '7', '8'].map((n) => ({ value: n, text: n }))}
        onValueChange={setNumber}
      />
      <Button type="submit" disabled={add.isPending}>
        Add
      </Button>
      {add.error && <Trouble error={add.error} />}
    </form>
  )
}

function LeaderDrawing({ leader }: { leader: Schemas['LeaderOut'] }) {
  const width = 300
  const starts = leader.sections.map((_, i) =>
    leader.sections.slice(0, i).reduce((sum, s) => sum + s.length_m, 0),
  )
  return (
    <svg
      width="100%"
      height="22"
      viewBox={`0 0 ${width} 22`}
      preserveAspectRatio="none"
      aria-hidden="true"
      className="my-1 block"
    >
      {leader.sections.map((section, i) => {
        const x = (width * (starts[i] ?? 0)) / leader.length_m
        return (
          <g key={i} stroke="var(--ink)">
            <line
              x1={x}
              x2={x + (width * section.length_m) / leader.length_m}
              y1="11"
              y2="11"
              strokeWidth={section.diameter_m * 12000}
            />
            {i > 0 && <line x1={x} x2={x} y1="4" y2="18" strokeWidth="1.5" />}
          </g>
        )
      })}
    </svg>
  )
}
