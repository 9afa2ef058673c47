/** Practice: deal a day against a hidden lake, or take a drill. Nothing here counts in the log. */
import { useMutation } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { counted } from '../format/units'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import type { Played } from '../offline/store'
import { useWaters } from '../queries/hooks'
import { usePerson } from '../state/person'
import { canFollow, takeAlong, tidy } from './device'
import { Drills } from './Drills'
import { useAgain, usePracticeDays, useTakenDays } from './hooks'

type Level = Schemas['PracticeDayIn']['level']

const LEVELS: readonly { value: Level; text: string }[] = [
  { value: 'easy', text: 'Easy' },
  { value: 'fair', text: 'Fair' },
  { value: 'hard', text: 'Hard' },
]
const SAID: Record<Level, string> = {
  easy: 'They stay where they are, there are many, and the signs do not lie.',
  fair: 'They may move, come and go, or want one kind of fly.',
  hard: 'Few fish, misleading signs, two bands - or nobody at home at this place.',
}

export function PracticePage() {
  const navigate = useNavigate()
  const [level, setLevel] = useState<Level>('easy')
  const [seed, setSeed] = useState('')
  const [waterId, setWaterId] = useState<number | null>(null)
  const [along, setAlong] = useState(false)
  const { username } = usePerson()
  const taken = useTakenDays()
  // Whenever something of them was sent.
  useEffect(() => void tidy(username), [username, taken])
  const deal = useMutation({
    mutationFn: async (body: Schemas['PracticeDayIn']) => {
      const path = { day_id: crypto.randomUUID() }
      const day = await answer(client.PUT('/api/practice-days/{day_id}', { params: { path }, body }))
      if (along) await takeAlong(username, day)
      return day
    },
    onSuccess: (day) => void navigate(`/practice/${day.id}`),
  })
  const dealing = (more: Pick<Schemas['PracticeDayIn'], 'week' | 'seed'>) =>
    deal.mutate({ level, water_id: waterId, ...more })
  const refusal = deal.error instanceof Refusal ? deal.error : null
  return (
    <div className="mx-auto max-w-[1180px] px-4 py-3 lg:px-6">
      <h1 className="plate text-2xl font-bold">
        Practice <span className="text-base font-semibold text-soft">fish a hidden lake, then see it</span>
      </h1>
      <div className="mt-2 grid gap-x-12 gap-y-6 lg:grid-cols-2">
        <section aria-label="Deal a day" className="space-y-3">
          <p>
            Four hours, a water, its weather, and trout somewhere in it. Read, rig and cast as you would; each
            costs its minutes. Afterwards you see where they were. None of it counts in your log.
          </p>
          <Segments
            label="How hard"
            value={level}
            options={LEVELS}
            onValueChange={(value) => setLevel(value as Level)}
          />
          <p className="text-sm text-soft">{SAID[level]}</p>
          <WaterField waterId={waterId} onChange={setWaterId} />
          <label className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={along}
              onChange={(event) => setAlong(event.target.checked)}
            />
            Take it along, to play it with no signal
          </label>
          <div className="flex flex-wrap gap-2">
            <Button
              look="hot"
              size="large"
              disabled={deal.isPending}
              onClick={() => dealing({ week: false })}
            >
              {deal.isPending ? (along ? 'Packing it…' : 'Dealing…') : 'Deal a day'}
            </Button>
            <Button size="large" disabled={deal.isPending} onClick={() => dealing({ week: true })}>
              The day of the week
            </Button>
            <OnWaterTaken level={level} />
          </div>
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault()
              dealing({ seed, week: false })
            }}
          >
            <Field label="A friend's code" error={refusal?.at('seed')} className="grow">
              {({ id, describedBy, invalid }) => (
                <input
                  id={id}
                  className={CONTROL}
                  value={seed}
                  maxLength={12}
                  autoCapitalize="characters"
                  aria-invalid={invalid || undefined}
                  aria-describedby={describedBy}
                  onChange={(event) => setSeed(event.target.value)}
                />
              )}
            </Field>
            <Button type="submit" disabled={deal.isPending || seed.trim() === ''}>
              Same day as a friend
            </Button>
          </form>
          {deal.error && !refusal?.at('seed') && <Trouble error={deal.error} />}
          <DaysSoFar />
        </section>
        <Drills />
      </div>
    </div>
  )
}

/** Another day on the water that this device has: it needs no connection. */
function OnWaterTaken({ level }: { level: Level }) {
  const rows = useTakenDays() ?? []
  const follow = useAgain()
  const from = rows.filter(canFollow).sort((a, b) => b.takenAt - a.takenAt)[0]
  if (!from) return null
  return (
    <>
      <Button size="large" disabled={follow.isPending} onClick={() => follow.mutate({ from, level })}>
        Another day on {from.pack.name.water}
        <span className="block text-sm font-normal">with or without signal</span>
      </Button>
      {follow.error && <Trouble error={follow.error} />}
    </>
  )
}

function WaterField({
  waterId,
  onChange,
}: {
  waterId: number | null
  onChange(waterId: number | null): void
}) {
  const waters = useWaters()
  if (!waters.data?.count) return null
  return (
    <Field label="Water">
      {({ id }) => (
        <select
          id={id}
          className={CONTROL}
          value={waterId ?? ''}
          onChange={(event) => onChange(event.target.value === '' ? null : Number(event.target.value))}
        >
          <option value="">made up with the day</option>
          {waters.data.items.map((water) => (
            <option key={water.id} value={water.id}>
              {water.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  )
}

/** The days so far: those of the server, and as this device has played them since. */
function DaysSoFar() {
  const days = usePracticeDays()
  const taken = useTakenDays() ?? []
  const items = days.data?.items ?? []
  const rows = [
    ...taken
      .filter(({ dayId }) => !items.some(({ id }) => id === dayId))
      .map(({ pack, played }) => rowOf(pack.name, played)),
    ...items.map((day) => {
      const here = taken.find(({ dayId }) => dayId === day.id)
      return here ? rowOf(here.pack.name, here.played) : { ...day, here: false }
    }),
  ]
  return (
    <>
      <h2 className="eyebrow border-b-2 border-ink pt-2">Days so far</h2>
      {days.error && taken.length === 0 && <Trouble error={days.error} />}
      {days.data && rows.length === 0 && <p className="text-soft">None yet.</p>}
      <ul aria-label="Practice days">
        {rows.map((day) => (
          <li key={day.id} className="border-b border-rule">
            <Link to={`/practice/${day.id}`} className="flex min-h-11 items-center justify-between gap-3">
              <span>
                <strong>{day.seed}</strong>{' '}
                <span className="text-soft">
                  {day.level}
                  {day.water !== null && `, ${day.water}`}
                  {day.here && ' · on this device'}
                </span>
              </span>
              <span className="text-right">
                {counted(day.takes, 'take', 'takes')} in {counted(day.casts, 'cast', 'casts')}
                {day.knew !== null ? ` · who knew: ${day.knew.toFixed(1)}` : ' · still fishing'}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  )
}

function rowOf(name: Schemas['PracticeNameOut'], played: Played) {
  const { id, seed, level, own, water } = name
  return {
    ...{ id, seed, level, water: own ? water : null, here: true },
    ...{ takes: played.takes, casts: played.casts.length, knew: played.told?.knew ?? null },
  }
}
