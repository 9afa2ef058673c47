/** One thing that happened, and how it is put right. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../../api/client'
import { clockAt, instantOf, timeAt } from '../../format/clock'
import { isSo, KIND_WORDS, kindsThat } from '../../format/kinds'
import { range } from '../../format/units'
import { useAskAgain } from '../../queries/api'
import { useTrade } from '../../queries/hooks'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { ChoiceField, CONTROL, Field, QuantityField } from '../../ui/Field'
import { Trouble } from '../../ui/Notice'
import { fishSaid } from './words'
import { within } from '../../api/within'

type Entry = Schemas['EntryOut']

type Outcome = NonNullable<Schemas['EntryChangeIn']['kind']>
const isOutcome = (kind: Entry['kind']): kind is Outcome => isSo(kind, 'outcome')

interface EntryLineProps {
  dayId: string
  entry: Entry
  timeZone: string
}

export function EntryLine({ dayId, entry, timeZone }: EntryLineProps) {
  const units = useUnits()
  const at = timeAt(timeZone, entry.at)
  const [open, setOpen] = useState(false)
  const photo = `/api/days/${dayId}/entries/${entry.id}/photo`
  return (
    <li className="border-t border-rule py-1 first:border-t-0">
      <div className="grid grid-cols-[3.2rem_4.6rem_auto_minmax(0,1fr)_auto] items-start gap-2">
        <span>{at}</span>
        <strong>{KIND_WORDS[entry.kind]}</strong>
        <span className="whitespace-nowrap text-soft">
          {entry.odd_time && 'time in doubt, '}
          {isSo(entry.kind, 'hasDepth') &&
            `at ${range('depth', entry.depth_low_m, entry.depth_high_m, units)}`}
        </span>
        <span className="text-right font-semibold">
          {fishSaid(entry, units)}
          {entry.has_photo && (
            <a href={photo}>
              <img
                src={photo}
                alt={`The fish landed at ${at}`}
                className="ml-auto mt-1 max-h-24"
                loading="lazy"
              />
            </a>
          )}
        </span>
        {isOutcome(entry.kind) && (
          <button
            type="button"
            aria-expanded={open}
            aria-label={`Put right: ${KIND_WORDS[entry.kind]} at ${at}`}
            className="screen-only -my-1 min-h-11 px-1 text-sm text-soft underline underline-offset-4"
            onClick={() => setOpen(!open)}
          >
            {open ? 'Close' : 'Edit'}
          </button>
        )}
      </div>
      {open && <EntryForm dayId={dayId} entry={entry} timeZone={timeZone} onDone={() => setOpen(false)} />}
    </li>
  )
}

function EntryForm({ dayId, entry, timeZone, onDone }: EntryLineProps & { onDone(): void }) {
  const again = useAskAgain()
  const queries = useQueryClient()
  const species = useTrade().data?.species ?? []
  const [kind, setKind] = useState(entry.kind)
  const [kindOfFish, setKindOfFish] = useState(entry.species)
  const [lengthM, setLengthM] = useState(entry.length_m ?? null)
  const [weightKg, setWeightKg] = useState(entry.weight_kg ?? null)
  const was = clockAt(timeZone, new Date(entry.at))
  const [clock, setClock] = useState(was)
  const path = { day_id: dayId, entry_id: entry.id }
  const refresh = async () => {
    await queries.invalidateQueries({ queryKey: ['entries', dayId] })
    await again('/api/days/{day_id}', '/api/days/{day_id}/changes')
    onDone()
  }
  const landed = kind === 'landed'
  const save = useMutation({
    mutationFn: () =>
      answer(
        client.PATCH('/api/days/{day_id}/entries/{entry_id}', {
          params: { path },
          body: {
            ...(isOutcome(kind) ? { kind } : {}),
            ...(clock && clock !== was ? { at: new Date(instantOf(timeZone, clock)).toISOString() } : {}),
            ...(landed ? { species: kindOfFish, length_m: lengthM, weight_kg: weightKg } : {}),
          },
        }),
      ),
    onSuccess: refresh,
  })
  const remove = useMutation({
    mutationFn: () => answer(client.DELETE('/api/days/{day_id}/entries/{entry_id}', { params: { path } })),
    onSuccess: refresh,
  })
  return (
    <div className="my-1 grid grid-cols-2 items-end gap-2 border-2 border-ink bg-sheet p-3 sm:grid-cols-4">
      <ChoiceField
        label="It was"
        value={kind}
        options={kindsThat('outcome').map((value) => ({ value, text: KIND_WORDS[value] }))}
        onValueChange={(value) => setKind(value as Outcome)}
      />
      <Field label="At" className="col-span-1 sm:col-span-3">
        {({ id }) => (
          <input
            id={id}
            type="datetime-local"
            className={CONTROL}
            value={clock}
            onChange={(event) => setClock(event.target.value)}
          />
        )}
      </Field>
      {landed && (
        <>
          <ChoiceField
            label="Kind of fish"
            value={kindOfFish}
            options={[
              { value: '', text: 'Not said' },
              ...species.map((one) => ({ value: one.key, text: one.name })),
            ]}
            onValueChange={setKindOfFish}
          />
          <QuantityField
            label="Length"
            quantity="fishLength"
            value={lengthM}
            {...within('EntryChangeIn', 'length_m')}
            onValueChange={setLengthM}
            onClear={() => setLengthM(null)}
          />
          <QuantityField
            label="Weighed"
            quantity="mass"
            value={weightKg}
            {...within('EntryChangeIn', 'weight_kg')}
            onValueChange={setWeightKg}
            onClear={() => setWeightKg(null)}
          />
        </>
      )}
      <div className="col-span-full flex flex-wrap gap-3">
        <Button look="hot" disabled={save.isPending} onClick={() => save.mutate()}>
          Keep
        </Button>
        <Button disabled={remove.isPending} onClick={() => remove.mutate()}>
          It did not happen
        </Button>
      </div>
      {(save.error ?? remove.error) && (
        <div className="col-span-full">
          <Trouble error={save.error ?? remove.error} />
        </div>
      )}
    </div>
  )
}
