/** The fly box: what each fly passes for, how it sinks, how many are left. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { useTrade } from '../queries/hooks'
import { format } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { ChoiceField, CONTROL, Field } from '../ui/Field'
import { NARROW } from '../ui/Fold'
import { Trouble } from '../ui/Notice'
import { useMedia } from '../ui/useMedia'
import { CsvDoor, useBoxChanged } from './CsvDoor'
import { speaksOf } from './speaksOf'

type Fly = Schemas['FlyOut']
type FlyIn = Schemas['FlyItemIn']

const STYLES = [
  { value: 'natural', text: 'Natural' },
  { value: 'attractor', text: 'Attractor' },
  { value: 'dry', text: 'Dry or emerger' },
  { value: 'lure', text: 'Lure' },
] as const
const NEW: FlyIn = {
  name: '',
  hook_size: 12,
  dressing: 'medium',
  wire: 'standard',
  bead: 'none',
  bead_mm: 0,
  foam_mm3: 0,
  extra_g: 0,
  wetted: true,
  measured_sink_mps: null,
  imitates: '',
  foods: [],
  style: 'natural',
  colour: '',
  left: 2,
}

/** With so few left the next snag may end it. */
const LOW = 1
/** Of a box that nobody searches, a phone shows so many. */
const FIRST = 12

export function FlyList({ flies, wanted }: { flies: readonly Fly[]; wanted: string }) {
  const trade = useTrade()
  const narrow = useMedia(NARROW)
  const [food, setFood] = useState('')
  const [low, setLow] = useState(false)
  const [all, setAll] = useState(false)
  const foods = trade.data?.foods ?? []
  const few = flies.filter((fly) => fly.left <= LOW)
  const found = (low ? few : flies).filter(
    (fly) =>
      (!food || fly.foods.includes(food)) && speaksOf(wanted, fly.name, fly.imitates, fly.colour, fly.style),
  )
  const short = narrow && !all && !low && !food && !wanted.trim()
  const shown = short ? found.slice(0, FIRST) : found
  return (
    <>
      <div className="mt-2 flex flex-wrap items-end gap-2">
        <ChoiceField
          label="Passing for"
          className="grow basis-40"
          value={food}
          options={[
            { value: '', text: `Anything (${flies.length})` },
            ...foods.map((f) => ({ value: f.key, text: f.name })),
          ]}
          onValueChange={setFood}
        />
        <Button aria-pressed={low} className={low ? 'bg-ink! text-paper!' : ''} onClick={() => setLow(!low)}>
          Running low ({few.length})
        </Button>
        <CsvDoor part="flies" />
      </div>
      <ul
        className="mt-2 lg:max-h-[56vh] lg:overflow-y-auto lg:pr-2"
        tabIndex={0}
        role="list"
        aria-label="Your flies, scrolls"
      >
        {shown.map((fly) => (
          <FlyRow key={fly.id} fly={fly} />
        ))}
      </ul>
      {found.length === 0 && <p role="status">No fly in the box is like that.</p>}
      {shown.length < found.length && (
        <Button className="mt-2 w-full" onClick={() => setAll(true)}>
          Show all {found.length}
        </Button>
      )}
      <NewFly foods={foods} />
    </>
  )
}

function FlyRow({ fly }: { fly: Fly }) {
  const units = useUnits()
  const refresh = useBoxChanged('flies')
  const path = { fly_id: fly.id }
  const count = useMutation({
    mutationFn: (left: number) =>
      answer(client.PUT('/api/flies/{fly_id}', { params: { path }, body: { ...fly, left } })),
    onSuccess: refresh,
  })
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE('/api/flies/{fly_id}', { params: { path } })),
    onSuccess: refresh,
  })
  const button = 'size-11 shrink-0 border-2 border-ink font-bold disabled:opacity-40'
  return (
    <li className="flex items-center gap-2 border-t border-rule py-1 first:border-t-2 first:border-ink">
      <span className="min-w-0 grow">
        <strong>{fly.name}</strong>
        <span className="block text-sm text-soft">
          {fly.imitates}, size {fly.hook_size}, {fly.sink_rate_mps < 0 ? 'rises ' : 'sinks '}
          {format('lineSpeed', Math.abs(fly.sink_rate_mps), units)}
        </span>
      </span>
      <button
        type="button"
        className={button}
        aria-label={`One ${fly.name} less`}
        disabled={fly.left === 0 || count.isPending}
        onClick={() => count.mutate(fly.left - 1)}
      >
        −
      </button>
      <span className={`w-6 text-center font-bold ${fly.left === 0 ? 'text-hot' : ''}`}>{fly.left}</span>
      <button
        type="button"
        className={button}
        aria-label={`One ${fly.name} more`}
        disabled={count.isPending}
        onClick={() => count.mutate(fly.left + 1)}
      >
        +
      </button>
      <Button
        look="quiet"
        className="min-w-11 px-1!"
        aria-label={`Take ${fly.name} out of the box`}
        onClick={() => remove.mutate()}
      >
        ×
      </Button>
      {(count.error ?? remove.error) && <Trouble error={count.error ?? remove.error} />}
    </li>
  )
}

function NewFly({ foods }: { foods: readonly Schemas['FoodNameOut'][] }) {
  const refresh = useBoxChanged('flies')
  const [draft, setDraft] = useState<FlyIn>(NEW)
  const set = (changes: Partial<FlyIn>) => setDraft({ ...draft, ...changes })
  const add = useMutation({
    mutationFn: () => {
      const food = foods.find((f) => f.key === draft.foods[0])
      return answer(
        client.POST('/api/flies', {
          body: { ...draft, name: draft.name.trim(), imitates: food?.name.toLowerCase() ?? 'searching' },
        }),
      )
    },
    onSuccess: async () => {
      setDraft({ ...NEW, style: draft.style })
      await refresh()
    },
  })
  const refusal = add.error instanceof Refusal ? add.error : null
  const choice = (
    label: string,
    name: 'dressing' | 'wire' | 'bead' | 'style',
    options: readonly { value: string; text: string }[],
  ) => (
    <ChoiceField
      label={label}
      value={draft[name]}
      options={options}
      onValueChange={(value) =>
        set(
          name === 'bead'
            ? { bead: value as FlyIn['bead'], bead_mm: value === 'none' ? 0 : draft.bead_mm || 3 }
            : { [name]: value },
        )
      }
    />
  )
  const plain = (...words: string[]) => words.map((word) => ({ value: word, text: word }))
  return (
    <form
      aria-label="New fly"
      className="mt-3 grid grid-cols-2 gap-2 border-t-2 border-ink pt-2"
      onSubmit={(event) => {
        event.preventDefault()
        add.mutate()
      }}
    >
      <Field label="Name, in your own words" className="col-span-2" error={refusal?.at('name')}>
        {({ id, describedBy, invalid }) => (
          <input
            id={id}
            className={CONTROL}
            maxLength={80}
            value={draft.name}
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            onChange={(event) => set({ name: event.target.value })}
          />
        )}
      </Field>
      <ChoiceField
        label="Passes for"
        value={draft.foods[0] ?? ''}
        options={[
          { value: '', text: 'Nothing in particular' },
          ...foods.map((f) => ({ value: f.key, text: f.name })),
        ]}
        onValueChange={(key) => set({ foods: key ? [key] : [] })}
      />
      {choice('Style', 'style', STYLES)}
      <Field label="Colour">
        {({ id }) => (
          <input
            id={id}
            className={CONTROL}
            maxLength={30}
            value={draft.colour}
            onChange={(event) => set({ colour: event.target.value })}
          />
        )}
      </Field>
      <ChoiceField
        label="Hook"
        value={String(draft.hook_size)}
        options={plain('4', '6', '8', '10', '12', '14', '16', '18', '20')}
        onValueChange={(size) => set({ hook_size: Number(size) })}
      />
      {choice('Dressing', 'dressing', plain('slim', 'medium', 'bulky'))}
      {choice('Bead', 'bead', plain('none', 'glass', 'brass', 'tungsten'))}
      <ChoiceField
        label="Foam"
        value={String(draft.foam_mm3)}
        options={[
          { value: '0', text: 'none' },
          { value: '50', text: 'a sliver' },
          { value: '120', text: 'some' },
          { value: '200', text: 'eyes or a back of it' },
        ]}
        onValueChange={(mm3) => set({ foam_mm3: Number(mm3) })}
      />
      <Button type="submit" className="self-end" disabled={!draft.name.trim() || add.isPending}>
        Add the fly
      </Button>
      {add.error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={add.error} />}
    </form>
  )
}
