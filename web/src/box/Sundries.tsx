/** Rods, indicators and leader material: short lists, each with a line to add one more. */
import { useMutation } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { useAskAgain } from '../queries/api'
import { answer, client, type Schemas } from '../api/client'
import { useFloats, useRods, useSpools } from '../queries/hooks'
import { format, inFeet } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { CONTROL } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { USUAL } from '../api/trade'

const ROD_LENGTHS_M = [2.45, 2.6, 2.75, 2.9, 3.05, 3.2, 3.35, 3.65]
const KIND_NAMES = { fixed: 'Fixed', 'quick-release': 'Quick-release', sliding: 'Sliding' } as const
const WIDTHS_MM = [0.13, 0.15, 0.18, 0.2, 0.23, 0.25, 0.28, 0.3, 0.35, 0.4, 0.45, 0.5]

export function Sundries() {
  return (
    <>
      <Rods />
      <Indicators />
      <LeaderMaterial />
    </>
  )
}

function Rods() {
  const units = useUnits()
  const rods = useRods()
  const [rod, setRod] = useState({ length: '3.05', number: '6' })
  return (
    <Sundry
      title="Rods"
      list="/api/rods"
      items={rods.data?.items ?? []}
      say={(item) => `${format('depth', item.length_m, units)}, number ${item.number}`}
      onRemove={(id) => answer(client.DELETE('/api/rods/{rod_id}', { params: { path: { rod_id: id } } }))}
      onAdd={() =>
        answer(
          client.POST('/api/rods', {
            body: {
              name: `${inFeet(Number(rod.length))}, number ${rod.number}`,
              length_m: Number(rod.length),
              number: Number(rod.number),
            },
          }),
        )
      }
    >
      <select
        aria-label="Rod length"
        className={CONTROL}
        value={rod.length}
        onChange={(e) => setRod({ ...rod, length: e.target.value })}
      >
        {ROD_LENGTHS_M.map((m) => (
          <option key={m} value={m}>
            {inFeet(m)}
          </option>
        ))}
      </select>
      <select
        aria-label="Rod number"
        className={CONTROL}
        value={rod.number}
        onChange={(e) => setRod({ ...rod, number: e.target.value })}
      >
        {['4', '5', '6', '7', '8'].map((n) => (
          <option key={n}>{n}</option>
        ))}
      </select>
    </Sundry>
  )
}

function Indicators() {
  const floats = useFloats()
  const [kind, setKind] = useState<Schemas['FloatItemIn']['kind']>('sliding')
  return (
    <Sundry
      title="Indicators"
      list="/api/floats"
      items={floats.data?.items ?? []}
      say={(item) => `${(item.diameter_m * 1000).toFixed(0)} mm`}
      onRemove={(id) =>
        answer(client.DELETE('/api/floats/{float_id}', { params: { path: { float_id: id } } }))
      }
      onAdd={() =>
        answer(
          client.POST('/api/floats', {
            body: { name: KIND_NAMES[kind], kind, diameter_m: USUAL.usualFloatM },
          }),
        )
      }
    >
      <select
        aria-label="Kind of indicator"
        className={`${CONTROL} col-span-2`}
        value={kind}
        onChange={(e) => setKind(e.target.value as typeof kind)}
      >
        <option value="fixed">fixed</option>
        <option value="quick-release">quick-release</option>
        <option value="sliding">sliding</option>
      </select>
    </Sundry>
  )
}

function LeaderMaterial() {
  const spools = useSpools()
  const [spool, setSpool] = useState<{ mm: string; material: Schemas['SpoolIn']['material'] }>({
    mm: '0.18',
    material: 'fluorocarbon',
  })
  return (
    <Sundry
      title="Leader material"
      list="/api/spools"
      items={spools.data?.items ?? []}
      say={() => ''}
      onRemove={(id) =>
        answer(client.DELETE('/api/spools/{spool_id}', { params: { path: { spool_id: id } } }))
      }
      onAdd={() =>
        answer(
          client.POST('/api/spools', {
            body: {
              name: `${spool.mm} mm ${spool.material}`,
              material: spool.material,
              diameter_m: Number(spool.mm) / 1000,
            },
          }),
        )
      }
    >
      <select
        aria-label="Thickness"
        className={CONTROL}
        value={spool.mm}
        onChange={(e) => setSpool({ ...spool, mm: e.target.value })}
      >
        {WIDTHS_MM.map((mm) => (
          <option key={mm} value={String(mm)}>
            {mm.toFixed(2)} mm
          </option>
        ))}
      </select>
      <select
        aria-label="Material"
        className={CONTROL}
        value={spool.material}
        onChange={(e) => setSpool({ ...spool, material: e.target.value as typeof spool.material })}
      >
        <option value="fluorocarbon">fluorocarbon</option>
        <option value="nylon">nylon</option>
      </select>
    </Sundry>
  )
}

interface SundryProps<T extends { id: number; name: string }> {
  title: string
  /** Where the list is asked for. */
  list: '/api/rods' | '/api/floats' | '/api/spools'
  items: readonly T[]
  say(item: T): string
  onRemove(id: number): Promise<unknown>
  onAdd(): Promise<unknown>
  children: ReactNode
}

function Sundry<T extends { id: number; name: string }>({
  title,
  list,
  items,
  say,
  onRemove,
  onAdd,
  children,
}: SundryProps<T>) {
  const again = useAskAgain()
  const refresh = () => again(list, '/api/choices')
  const remove = useMutation({ mutationFn: onRemove, onSuccess: refresh })
  const add = useMutation({ mutationFn: onAdd, onSuccess: refresh })
  return (
    <section className="mt-6">
      <h2 className="plate text-2xl font-bold">{title}</h2>
      <ul className="mt-1">
        {items.map((item) => (
          <li
            key={item.id}
            className="flex items-center justify-between gap-3 border-t border-rule first:border-t-2 first:border-ink"
          >
            <span>
              <strong>{item.name}</strong> <span className="text-sm text-soft">{say(item)}</span>
            </span>
            <Button
              look="quiet"
              className="min-w-11 px-1!"
              aria-label={`Take ${item.name} out of the box`}
              onClick={() => remove.mutate(item.id)}
            >
              Out
            </Button>
          </li>
        ))}
      </ul>
      <form
        aria-label={`Add to ${title.toLowerCase()}`}
        className="mt-1 grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] gap-2"
        onSubmit={(event) => {
          event.preventDefault()
          add.mutate()
        }}
      >
        {children}
        <Button type="submit" disabled={add.isPending}>
          Add
        </Button>
      </form>
      {(add.error ?? remove.error) && <Trouble error={add.error ?? remove.error} />}
    </section>
  )
}
