/** Drills of two minutes, each scored against the simulator, with a curve of getting better. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { fromShown, words } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { useDrills, type Drill } from './hooks'

type Kind = Schemas['DrillIn']['kind']

const KINDS: readonly { kind: Kind; text: string }[] = [
  { kind: 'depth', text: 'How deep is the fly?' },
  { kind: 'float', text: 'Set the float' },
  { kind: 'line', text: 'Which line?' },
  { kind: 'count', text: 'Count, eyes shut' },
]

export function Drills() {
  const units = useUnits()
  const queries = useQueryClient()
  const past = useDrills()
  const [drill, setDrill] = useState<Drill | null>(null)
  const ask = useMutation({
    mutationFn: (kind: Kind) => answer(client.POST('/api/drills', { body: { kind } })),
    onSuccess: setDrill,
  })
  const reply = useMutation({
    mutationFn: (value: number) => {
      const params = { path: { drill_id: drill?.id ?? '' } }
      return answer(client.POST('/api/drills/{drill_id}/answer', { params, body: { answer: value } }))
    },
    onSuccess: (next) => {
      setDrill(next)
      return queries.invalidateQueries({ queryKey: ['get', '/api/drills'] })
    },
  })
  return (
    <section aria-label="Drills" className="space-y-3">
      <h2 className="plate text-xl font-bold">Drills of two minutes</h2>
      <div className="grid grid-cols-2 gap-2">
        {KINDS.map(({ kind, text }) => (
          <Button
            key={kind}
            aria-pressed={drill?.kind === kind && drill.points === null}
            disabled={ask.isPending}
            onClick={() => ask.mutate(kind)}
          >
            {text}
          </Button>
        ))}
      </div>
      {(ask.error ?? reply.error) && <Trouble error={ask.error ?? reply.error} />}
      {drill && (
        <div className="space-y-2 border-t-2 border-ink pt-2" aria-live="polite">
          <p className="text-lg font-semibold">{words(drill.words, units)}</p>
          {drill.points === null ? (
            <Answer
              key={drill.id}
              drill={drill}
              pending={reply.isPending}
              onAnswer={(value) => reply.mutate(value)}
            />
          ) : (
            <>
              <p className="plate text-4xl font-extrabold">{drill.points} points</p>
              {drill.told && <p>{words(drill.told, units)}</p>}
              <Button look="hot" disabled={ask.isPending} onClick={() => ask.mutate(drill.kind)}>
                Another
              </Button>
            </>
          )}
        </div>
      )}
      <Curve drills={past.data?.items ?? []} />
    </section>
  )
}

function Answer({
  drill,
  pending,
  onAnswer,
}: {
  drill: Drill
  pending: boolean
  onAnswer(value: number): void
}) {
  const units = useUnits()
  const [text, setText] = useState('')
  if (drill.unit === 'choice')
    return (
      <div className="flex flex-wrap gap-2">
        {drill.choices.map((choice, i) => (
          <Button key={choice} disabled={pending} onClick={() => onAnswer(i)}>
            {choice}
          </Button>
        ))}
      </div>
    )
  if (drill.unit === 's') return <Count pending={pending} onAnswer={onAnswer} />
  const typed = Number(text.replace(',', '.'))
  const good = text.trim() !== '' && Number.isFinite(typed) && typed >= 0
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (good) onAnswer(fromShown('depth', typed, units))
      }}
    >
      <Field label={`Your answer, ${units.depth_unit}`} className="grow">
        {({ id }) => (
          <input
            id={id}
            className={CONTROL}
            inputMode="decimal"
            autoComplete="off"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        )}
      </Field>
      <Button type="submit" look="hot" disabled={pending || !good}>
        Answer
      </Button>
    </form>
  )
}

/** One press begins, the next one ends: no clock is shown. */
function Count({ pending, onAnswer }: { pending: boolean; onAnswer(value: number): void }) {
  const begun = useRef<number | null>(null)
  const [counting, setCounting] = useState(false)
  return (
    <Button
      look="hot"
      size="huge"
      className="w-full"
      disabled={pending}
      onClick={() => {
        if (begun.current === null) {
          begun.current = performance.now()
          setCounting(true)
        } else onAnswer(Math.min((performance.now() - begun.current) / 1000, 1000))
      }}
    >
      {counting ? 'Now' : 'Begin to count'}
    </Button>
  )
}

/** Points over the drills of each kind, oldest first; in words for the ear. */
function Curve({ drills }: { drills: readonly Drill[] }) {
  return (
    <ul aria-label="Getting better" className="grid grid-cols-2 gap-x-6 gap-y-2">
      {KINDS.map(({ kind, text }) => {
        const points = drills
          .filter((drill) => drill.kind === kind)
          .map((drill) => drill.points ?? 0)
          .reverse()
        if (points.length === 0) return null
        const mean = (of: number[]) => Math.round(of.reduce((sum, p) => sum + p, 0) / of.length)
        return (
          <li key={kind} className="border-t border-rule pt-1 text-sm">
            <span className="flex justify-between">
              <span>{text}</span>
              <strong>{mean(points.slice(-5))} of late</strong>
            </span>
            <svg
              viewBox="0 0 200 40"
              className="w-full"
              role="img"
              aria-label={`${points.length} drills, ${mean(points)} points on the whole`}
            >
              <line x1={0} x2={200} y1={38} y2={38} stroke="var(--rule)" />
              <polyline
                points={points
                  .map(
                    (p, i) => `${points.length > 1 ? (200 * i) / (points.length - 1) : 100},${38 - 0.36 * p}`,
                  )
                  .join(' ')}
                fill="none"
                stroke="var(--hot)"
                strokeWidth={2}
              />
              {points.map((p, i) => (
                <circle
                  key={i}
                  cx={points.length > 1 ? (200 * i) / (points.length - 1) : 100}
                  cy={38 - 0.36 * p}
                  r={2.5}
                  fill="var(--hot)"
                />
              ))}
            </svg>
          </li>
        )
      })}
    </ul>
  )
}
