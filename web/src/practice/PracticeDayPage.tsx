/** One practice day: read, rig and cast against what is hidden; when it has ended, what it was. */
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Action, Ranked, Schemas } from '../api/client'
import { headline, handling } from '../choice/sayings'
import { Column } from '../column/Column'
import { cutLength, format, sky, words } from '../format/units'
import { useRun } from '../queries/hooks'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Dial } from '../ui/Dial'
import { Trouble, Waiting } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { useMedia } from '../ui/useMedia'
import { usePracticeDay, usePracticePlan, usePractise, type PracticeDay } from './hooks'
import { CastButton } from './CastButton'
import { Told } from './Told'

const READINGS = [
  { reading: 'lowering', text: 'Lower a thermometer' },
  { reading: 'look', text: 'Look about for signs' },
  { reading: 'sounding', text: 'Sound the bottom' },
  { reading: 'clarity', text: 'How far one sees' },
] as const

export function PracticeDayPage() {
  const { dayId = '' } = useParams()
  const day = usePracticeDay(dayId)
  if (day.error) return <Trouble error={day.error} />
  if (!day.data) return <Waiting what="Going to the water…" />
  return (
    <div className="mx-auto max-w-[1400px] px-4 py-3 lg:px-6">
      <p className="text-sm">
        <Link to="/practice" className="underline">
          Practice
        </Link>{' '}
        · code <strong>{day.data.seed}</strong>, {day.data.level} · {day.data.water}
      </p>
      {day.data.told ? <Told day={day.data} told={day.data.told} /> : <Play day={day.data} />}
    </div>
  )
}

function Readings({
  day,
  disabled,
  onRead,
}: {
  day: PracticeDay
  disabled: boolean
  onRead(reading: (typeof READINGS)[number]['reading']): void
}) {
  return (
    <div className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4">
      {READINGS.map(({ reading, text }) => (
        <Button
          key={reading}
          disabled={disabled || day.made.includes(reading)}
          onClick={() => onRead(reading)}
        >
          {text}
          <span className="block text-sm font-normal">
            {day.made.includes(reading) ? 'done' : `${day.costs_min[reading] ?? 0} min`}
          </span>
        </Button>
      ))}
    </div>
  )
}

type Pace = 'quick' | 'counted'
type Mode = 'off' | 'asked' | 'each'

/** A way to fish of the plan, turned by the angler. */
interface Turned {
  key: string
  by: number
}

function Play({ day }: { day: PracticeDay }) {
  const units = useUnits()
  const wide = useMedia('(min-width: 1024px)')
  const { read, move, cast, end, advise } = usePractise(day.id)
  const plan = usePracticePlan(day.id)
  const [turned, setTurned] = useState<Turned | null>(null)
  const [fished, setFished] = useState<Fished | null>(null)
  const ranked = plan.data?.ranked ?? []
  const one = ranked.find((each) => each.method.key === turned?.key) ?? ranked[0]
  const chosen = fished ?? (one ? { rig: rigOf(one), action: one.action } : null)
  const action = chosen && turned && !fished ? turnedBy(chosen.action, turned.by) : chosen?.action
  const run = useRun(
    chosen && action
      ? {
          water_c: plan.data?.water_c ?? 12,
          bottom: [{ distance_m: 0, depth_m: day.bottom_m }],
          weed_m: 0,
          wind_speed_ms: day.wind_speed_ms,
          fished: { rig: chosen.rig, action },
        }
      : null,
  )
  const [pace, setPace] = useState<Pace>('quick')
  const [mode, setMode] = useState<Mode>('asked')
  const busy = cast.isPending || read.isPending || move.isPending || end.isPending
  const over = day.at_min >= day.day_min
  const last = day.casts.at(-1)
  const trouble = cast.error ?? read.error ?? move.error ?? end.error ?? plan.error ?? advise.error
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1fr)_430px]">
      <div className="min-w-0">
        <Clock day={day} />
        <Column
          picture={day.picture}
          simulation={run.data && { ...run.data, bottom: [{ distance_m: 0, depth_m: day.bottom_m }] }}
          timeS={deepestAt(run.data)}
          heightPx={wide ? 420 : 230}
          takes={day.casts.flatMap((each) =>
            each.came
              .filter(({ kind }) => kind === 'take' || kind === 'lost')
              .map(({ depth_m }) => ({ low_m: depth_m, high_m: depth_m })),
          )}
        />
        <Readings
          day={day}
          disabled={busy || over}
          onRead={(reading) => {
            setFished(null)
            read.mutate(reading)
          }}
        />
        {day.found && <p className="mt-1 text-sm">{day.found} What it said is in the Column.</p>}
      </div>
      <div className="min-w-0 space-y-3">
        {trouble && <Trouble error={trouble} />}
        {over ? (
          <p className="text-lg font-semibold">The day is over.</p>
        ) : (
          <>
            <LastCast day={day} last={last} />
            <CastButton
              text={last ? 'Cast again' : 'Cast'}
              countS={pace === 'counted' && action?.kind === 'cast' ? action.count_s : 0}
              disabled={busy || !chosen || !action}
              onCast={() => {
                if (!chosen || !action) return
                advise.reset()
                cast.mutate(
                  { number: day.casts.length, rig: chosen.rig, action },
                  { onSuccess: () => mode === 'each' && advise.mutate() },
                )
              }}
            />
          </>
        )}
        {chosen && action && (
          <div className="border-t-2 border-ink pt-2">
            <p className="plate text-xl font-bold">{headline({ line: chosen.rig.line, action }, units)}</p>
            <p className="text-sm">{chosen.rig.flies.map((placed) => placed.fly.name).join(' · ')}</p>
            <p className="text-sm text-soft">{handling(action, units)}</p>
            {one && !fished && <Turner one={one} turned={turned} bottomM={day.bottom_m} onTurn={setTurned} />}
          </div>
        )}
        <Deciding
          moveMin={day.move_min}
          disabled={busy}
          over={over}
          mode={mode}
          pace={pace}
          asking={advise.isPending}
          ending={end.isPending}
          onMove={() => move.mutate()}
          onAsk={() => advise.mutate()}
          onEnd={() => end.mutate()}
          onMode={setMode}
          onPace={setPace}
        />
        {advise.data && (
          <Advice
            advice={advise.data}
            onTake={(next) => {
              setFished(next)
              setTurned(null)
            }}
          />
        )}
        <Ways
          ranked={ranked}
          waiting={plan.isFetching}
          chosen={fished ? null : (one?.method.key ?? null)}
          onChoose={(key) => {
            setFished(null)
            setTurned({ key, by: 0 })
          }}
        />
      </div>
    </div>
  )
}

interface DecidingProps {
  moveMin: number
  disabled: boolean
  over: boolean
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

/** What is decided between casts: to move, to ask, to end, and how the time runs. */
function Deciding(props: DecidingProps) {
  const { moveMin, disabled, over, mode, pace, asking, ending, onMove, onAsk, onEnd, onMode, onPace } = props
  return (
    <>
      <div className="flex flex-wrap gap-2">
        <Button disabled={disabled || over} onClick={onMove}>
          Another place <span className="text-sm font-normal">{moveMin} min</span>
        </Button>
        {mode !== 'off' && (
          <Button disabled={asking || over} onClick={onAsk}>
            What would you do?
          </Button>
        )}
        <Button disabled={disabled} onClick={onEnd}>
          {ending ? 'Working it out…' : 'End the day and see'}
        </Button>
      </div>
      <div className="grid grid-cols-2 gap-3">
        <Segments
          label="A cast takes"
          value={pace}
          options={[
            { value: 'quick', text: 'no time' },
            { value: 'counted', text: 'its count' },
          ]}
          onValueChange={(value) => onPace(value as Pace)}
        />
        <Segments
          label="Advice"
          value={mode}
          options={[
            { value: 'off', text: 'off' },
            { value: 'asked', text: 'asked' },
            { value: 'each', text: 'each' },
          ]}
          onValueChange={(value) => onMode(value as Mode)}
        />
      </div>
    </>
  )
}

interface Fished {
  rig: Schemas['RigIn']
  action: Action
}

function rigOf({ line, leader, flies }: Ranked): Schemas['RigIn'] {
  return { line, leader, flies }
}

/** Another count, or another depth of the float. */
function turnedBy(action: Fished['action'], by: number): Fished['action'] {
  if (action.kind === 'cast') return { ...action, count_s: Math.max(action.count_s + by, 0) }
  if (action.kind === 'hang') return { ...action, set_depth_m: Math.max(action.set_depth_m + by / 10, 0.4) }
  return action
}

function deepestAt(run: Schemas['RunOut'] | undefined): number {
  const depths = run?.flies[0]?.depth_m ?? []
  return run?.time_s[depths.indexOf(Math.max(...depths))] ?? 0
}

function Clock({ day }: { day: PracticeDay }) {
  const units = useUnits()
  const left = Math.max(day.day_min - day.at_min, 0)
  const read = day.picture
  return (
    <p className="flex flex-wrap items-baseline justify-between gap-x-4">
      <span className="plate text-3xl font-extrabold">{day.clock}</span>
      <span>
        {Math.round(left)} min left · {day.casts.length} casts · <strong>{day.takes} takes</strong>
      </span>
      <span className="text-sm text-soft">
        wind {format('wind', day.wind_speed_ms, units)}, {sky(day.cloud_fraction)}, top{' '}
        {format('temperature', read.profile.water_c[0] ?? 0, units)}, bottom{' '}
        {day.made.includes('sounding') ? '' : 'perhaps '}
        {format('depth', day.bottom_m, units)}
      </span>
    </p>
  )
}

const CAME = {
  take: 'A take, and it is in the net',
  lost: 'A take: it came off',
  knock: 'A knock',
  follow: 'A follow',
} as const

function LastCast({ day, last }: { day: PracticeDay; last: PracticeDay['casts'][number] | undefined }) {
  const units = useUnits()
  if (!last) return <p>Nothing was cast yet. Read what is worth its minutes, choose a way, and cast.</p>
  return (
    <div role="status" className="border-l-[6px] border-ink pl-3">
      <p className="text-lg font-semibold">
        {last.came.length === 0
          ? 'Nothing.'
          : last.came
              .map((one) => `${CAME[one.kind]} at ${format('depth', one.depth_m, units)}`)
              .join(', then ')}
      </p>
      <p className="text-sm text-soft">
        Cast {day.casts.length}: {last.words}, worked {format('depth', last.low_m, units)} to{' '}
        {format('depth', last.high_m, units)}
        {last.touched && ', and touched the bottom'}
      </p>
    </div>
  )
}

function Turner({
  one,
  turned,
  bottomM,
  onTurn,
}: {
  one: Ranked
  turned: Turned | null
  bottomM: number
  onTurn(next: Turned): void
}) {
  const units = useUnits()
  const by = turned?.key === one.method.key ? turned.by : 0
  const { action } = one
  if (action.kind === 'cast')
    return (
      <Dial
        label="Count"
        value={action.count_s + by}
        least={0}
        most={90}
        step={1}
        said={`${Math.round(action.count_s + by)} s`}
        onValueChange={(value) => onTurn({ key: one.method.key, by: value - action.count_s })}
      />
    )
  if (action.kind === 'hang') {
    const most = Math.min(
      bottomM - 0.1,
      one.leader.sections.reduce((sum, s) => sum + s.length_m, 0),
    )
    return (
      <Dial
        label="Set depth"
        value={Math.min(action.set_depth_m + by / 10, most)}
        least={Math.min((one.flies.at(-1)?.above_point_m ?? 0) + 0.4, most)}
        most={most}
        step={0.05}
        said={cutLength(Math.min(action.set_depth_m + by / 10, most), units)}
        onValueChange={(value) => onTurn({ key: one.method.key, by: 10 * (value - action.set_depth_m) })}
      />
    )
  }
  return null
}

function Advice({ advice, onTake }: { advice: Schemas['PracticeAdviceOut']; onTake(next: Fished): void }) {
  const units = useUnits()
  const { rig, action } = advice
  return (
    <div className="border-l-[6px] border-hot bg-sheet px-3 py-2" aria-live="polite">
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

function Ways({
  ranked,
  waiting,
  chosen,
  onChoose,
}: {
  ranked: readonly Ranked[]
  waiting: boolean
  chosen: string | null
  onChoose(key: string): void
}) {
  const units = useUnits()
  return (
    <section aria-label="Ways to fish">
      <h2 className="eyebrow border-b-2 border-ink">
        Ways to fish, from the starter box{waiting ? ' · working it out…' : ''}
      </h2>
      <ul>
        {ranked.map((one) => (
          <li key={one.method.key} className="border-b border-rule">
            <button
              type="button"
              aria-pressed={one.method.key === chosen}
              className="min-h-11 w-full text-left hover:bg-sheet aria-pressed:bg-sheet aria-pressed:pl-2.5 aria-pressed:shadow-[inset_4px_0_0_var(--hot)]"
              onClick={() => onChoose(one.method.key)}
            >
              <span className="block leading-tight font-semibold">{one.method.name}</span>
              <span className="block truncate text-sm leading-tight text-soft">{headline(one, units)}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
