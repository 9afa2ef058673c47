/** Practice: deal a day against a hidden lake, or take a drill. Nothing here counts in the log. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { Drills } from './Drills'
import { usePracticeDays } from './hooks'

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
  const days = usePracticeDays()
  const [level, setLevel] = useState<Level>('easy')
  const [seed, setSeed] = useState('')
  const deal = useMutation({
    mutationFn: async (body: Schemas['PracticeDayIn']) => {
      const path = { day_id: crypto.randomUUID() }
      return answer(client.PUT('/api/practice-days/{day_id}', { params: { path }, body }))
    },
    onSuccess: (day) => void navigate(`/practice/${day.id}`),
  })
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
          <div className="flex flex-wrap gap-2">
            <Button
              look="hot"
              size="large"
              disabled={deal.isPending}
              onClick={() => deal.mutate({ level, week: false })}
            >
              Deal a day
            </Button>
            <Button size="large" disabled={deal.isPending} onClick={() => deal.mutate({ level, week: true })}>
              The day of the week
            </Button>
          </div>
          <form
            className="flex items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault()
              deal.mutate({ level, seed, week: false })
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
          <h2 className="eyebrow border-b-2 border-ink pt-2">Days so far</h2>
          {days.error && <Trouble error={days.error} />}
          {days.data?.count === 0 && <p className="text-soft">None yet.</p>}
          <ul aria-label="Practice days">
            {days.data?.items.map((day) => (
              <li key={day.id} className="border-b border-rule">
                <Link to={`/practice/${day.id}`} className="flex min-h-11 items-center justify-between gap-3">
                  <span>
                    <strong>{day.seed}</strong> <span className="text-soft">{day.level}</span>
                  </span>
                  <span className="text-right">
                    {day.takes} takes in {day.casts} casts
                    {day.knew !== null ? ` · who knew: ${day.knew.toFixed(1)}` : ' · still fishing'}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </section>
        <Drills />
      </div>
    </div>
  )
}
