/** What is decided between casts: to move, to ask, to end, how the time runs - and what one would do before the app says it. */
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { headline } from '../choice/sayings'
import { words } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Segments } from '../ui/Segments'
import type { Pace } from './CastButton'
import type { PracticeRig } from './Rigging'

export type Mode = 'off' | 'asked' | 'each'
type Said = Schemas['PracticeAdviceOut']

export interface DecidingProps {
  moveMin: number
  disabled: boolean
  mode: Mode
  pace: Pace
  asking: boolean
  ending: boolean
  onMove(): void
  onAsk(): void
  onEnd(): void
  onMode(mode: Mode): void
  onPace(pace: Pace): void
}

export function Deciding(props: DecidingProps) {
  const { moveMin, disabled, mode, pace, asking, ending, onMove, onAsk, onEnd, onMode, onPace } = props
  return (
    <>
      <div className="grid grid-cols-2 gap-2 sm:flex sm:flex-wrap">
        <Button disabled={disabled} onClick={onMove}>
          Another place <span className="inline-block text-sm font-normal">{moveMin} min</span>
        </Button>
        {mode === 'asked' && (
          <Button disabled={asking} onClick={onAsk}>
            What would you do?
          </Button>
        )}
        <Button disabled={disabled} onClick={onEnd}>
          {ending ? 'Working it out…' : 'End the day and see'}
        </Button>
      </div>
      <div className="grid gap-3 sm:grid-cols-2">
        <Segments
          label="A cast takes"
          value={pace}
          options={[
            { value: 'quick', text: 'no time' },
            { value: 'counted', text: 'its count' },
            { value: 'true', text: 'its time' },
          ]}
          onValueChange={(value) => onPace(value as Pace)}
        />
        <Segments
          label="Advice"
          value={mode}
          options={[
            { value: 'off', text: 'off' },
            { value: 'asked', text: 'asked' },
            { value: 'each', text: 'each cast' },
          ]}
          onValueChange={(value) => onMode(value as Mode)}
        />
      </div>
    </>
  )
}

const STEPS = {
  on: 'Go on',
  depth: 'Another depth',
  fly: 'Another fly',
  way: 'Another line or method',
  place: 'Another place',
} as const
type Step = keyof typeof STEPS

const fliesOf = ({ rig }: Pick<PracticeRig, 'rig'>) => rig.flies.map(({ fly }) => fly.name).join('|')

/** Which step an advice is, from what is fished now. */
function stepOf({ elsewhere, rig, action }: Said, now: PracticeRig): Step {
  if (elsewhere) return 'place'
  if (!rig || !action) return 'on'
  if (rig.line.name !== now.rig.line.name || action.kind !== now.action.kind) return 'way'
  return fliesOf({ rig }) === fliesOf(now) ? 'depth' : 'fly'
}

export interface GuessingProps {
  /** What is fished now. */
  now: PracticeRig
  advice: Said | undefined
  asking: boolean
  onAsk(): void
  onTake(next: PracticeRig): void
}

/** After a cast: first what the angler would do, then what the app would. */
export function Guessing({ now, advice, asking, onAsk, onTake }: GuessingProps) {
  const [guess, setGuess] = useState<Step | null>(null)
  return (
    <section aria-label="What would you do now?" className="border-l-[6px] border-hot bg-sheet px-3 py-2">
      {guess === null ? (
        <>
          <p className="font-semibold">What would you do now?</p>
          <div className="mt-1 flex flex-wrap gap-1.5">
            {(Object.keys(STEPS) as Step[]).map((step) => (
              <Button
                key={step}
                onClick={() => {
                  setGuess(step)
                  onAsk()
                }}
              >
                {STEPS[step]}
              </Button>
            ))}
          </div>
        </>
      ) : (
        <p>
          You would: <span className="font-semibold">{STEPS[guess].toLowerCase()}.</span>
        </p>
      )}
      {asking && <p className="mt-1 text-sm">The app thinks…</p>}
      {guess !== null && advice && (
        <div className="mt-2">
          <p className="text-sm font-semibold">
            {stepOf(advice, now) === guess
              ? 'So would the app.'
              : `The app would not: ${STEPS[stepOf(advice, now)].toLowerCase()}.`}
          </p>
          <Advice advice={advice} onTake={onTake} />
        </div>
      )}
    </section>
  )
}

export function Advice({ advice, onTake }: { advice: Said; onTake(next: PracticeRig): void }) {
  const units = useUnits()
  const { rig, action } = advice
  return (
    <div aria-live="polite">
      <p className="eyebrow">The app would</p>
      <p className="font-semibold">
        {advice.elsewhere
          ? 'Go to another place.'
          : rig && action
            ? `Fish ${headline({ line: rig.line, action }, units)}: ${rig.flies.map((p) => p.fly.name).join(' · ')}.`
            : 'Go on as you are.'}
      </p>
      {advice.words.map((phrase, i) => (
        <p key={i} className="text-sm">
          {words(phrase, units)}
        </p>
      ))}
      {rig && action && <Button onClick={() => onTake({ rig, action })}>Fish that</Button>}
    </div>
  )
}
