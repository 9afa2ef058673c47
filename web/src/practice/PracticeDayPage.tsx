/** One practice day: read, rig and cast against what is hidden; when it has ended, what it was. */
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import type { Schemas } from '../api/client'
import { handling, headline } from '../choice/sayings'
import { Column } from '../column/Column'
import { waiting } from '../offline/practised'
import type { Taken } from '../offline/store'
import { useRun } from '../queries/hooks'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Trouble, Waiting } from '../ui/Notice'
import { useMedia } from '../ui/useMedia'
import { CastButton, type Pace } from './CastButton'
import { Advice, Deciding, Guessing, type Mode } from './Deciding'
import { letGo } from './device'
import { useForget, usePracticeDay, usePracticePlan, usePractise, type PracticeDay } from './hooks'
import { rigOf, turnedBy, Turner, Ways, type PracticeRig, type Turned } from './Rigging'
import { Clock, LastCast, Readings } from './Standing'
import { Debrief } from './Debrief'

export function PracticeDayPage() {
  const { dayId = '' } = useParams()
  const { day, taken, error } = usePracticeDay(dayId)
  if (error && !day) return <Trouble error={error} />
  if (!day) return <Waiting what="Going to the water…" />
  return (
    <div className="mx-auto max-w-[1400px] px-4 py-3 lg:px-6">
      <p className="text-sm">
        <Link to="/practice" className="underline">
          Practice
        </Link>{' '}
        · {day.for_friends ? 'code' : 'day'} <strong>{day.seed}</strong>, {day.level} · {day.water}
        {taken && ` · taken along: it goes on with no connection${unsent(taken)}`}
      </p>
      {taken?.refused && (
        <div role="alert" className="mt-2 border-l-[6px] border-hot bg-care px-3 py-1.5">
          <p className="font-semibold">The server has this day otherwise: {taken.refused}</p>
          <p>What was done here stays on this device, and does not reach the list.</p>
          <Button onClick={() => void letGo(taken.dayId)}>Let go of it, and see the server’s</Button>
        </div>
      )}
      {day.told ? (
        <Debrief day={day} told={day.told} taken={taken} />
      ) : day.taken && !taken ? (
        <ElsewhereTaken day={day} />
      ) : (
        <Play day={day} taken={taken} />
      )}
      <Forget dayId={day.id} />
    </div>
  )
}

/** Forgetting asks twice: what was practised does not come back. */
function Forget({ dayId }: { dayId: string }) {
  const forget = useForget(dayId)
  const [asked, setAsked] = useState(false)
  return (
    <div className="mt-6 border-t border-rule pt-1">
      {asked ? (
        <Button disabled={forget.isPending} onClick={() => forget.mutate()}>
          Yes, forget this day
        </Button>
      ) : (
        <Button look="quiet" onClick={() => setAsked(true)}>
          Forget this day
        </Button>
      )}
      {forget.error && <Trouble error={forget.error} />}
    </div>
  )
}

function unsent(taken: Taken): string {
  const many = waiting(taken)
  return many === 0 ? '' : `, ${many} to send`
}

/** A day is played in one place at a time: two would do different things at the same minute. */
function ElsewhereTaken({ day }: { day: PracticeDay }) {
  const { take } = usePractise(day, undefined)
  return (
    <div className="mt-3 max-w-prose space-y-3">
      <p>
        This day was taken along by another device, and goes on there. What was done on it there without a
        connection is here once that device has one.
      </p>
      <Button disabled={take.isPending} onClick={() => take.mutate()}>
        {take.isPending ? 'Fetching it…' : 'Go on with it on this device'}
      </Button>
      {take.error && <Trouble error={take.error} />}
    </div>
  )
}

/** What is about to be cast: of the plan and turned, or what the app would fish. */
function useChosen(ranked: Schemas['RankedOut'][]) {
  const [turned, setTurned] = useState<Turned | null>(null)
  const [fished, setFished] = useState<PracticeRig | null>(null)
  const one = ranked.find((each) => each.method.key === turned?.key) ?? ranked[0]
  const chosen = fished ?? (one ? { rig: rigOf(one), action: one.action } : null)
  const isTurned = turned !== null && !fished && one?.method.key === turned.key
  const action = chosen && isTurned ? turnedBy(chosen.action, turned.by) : chosen?.action
  return {
    one: fished ? undefined : one,
    turned,
    now: chosen && action ? { rig: chosen.rig, action } : null,
    turn(next: Turned | null) {
      setFished(null)
      setTurned(next)
    },
    fish(next: PracticeRig) {
      setFished(next)
      setTurned(null)
    },
  }
}

/** The cast as it is drawn: as it is turned, or with no connection as the plan has it. */
function useDrawn(
  day: PracticeDay,
  waterC: number,
  now: PracticeRig | null,
  planned: Schemas['RankedOut'] | undefined,
) {
  const bottom = [{ distance_m: 0, depth_m: day.bottom_m }]
  const run = useRun(
    now ? { water_c: waterC, bottom, weed_m: 0, wind_speed_mps: day.wind_speed_mps, fished: now } : null,
  )
  const drawn = run.error ? planned?.run : (run.data ?? planned?.run)
  return drawn && { ...drawn, bottom }
}

interface AboutProps {
  now: PracticeRig
  chosen: ReturnType<typeof useChosen>
  bottomM: number
  taken: boolean
}

/** What is about to be cast, and the dial that turns it. */
function About({ now, chosen, bottomM, taken }: AboutProps) {
  const units = useUnits()
  return (
    <div className="border-t-2 border-ink pt-2">
      <p className="plate text-xl font-bold">{headline({ line: now.rig.line, action: now.action }, units)}</p>
      <p className="text-sm">{now.rig.flies.map((placed) => placed.fly.name).join(' · ')}</p>
      <p className="text-sm text-soft">{handling(now.action, units)}</p>
      {chosen.one && (
        <Turner
          one={chosen.one}
          turned={chosen.turned}
          bottomM={bottomM}
          taken={taken}
          onTurn={chosen.turn}
        />
      )}
    </div>
  )
}

function Play({ day, taken }: { day: PracticeDay; taken: Taken | undefined }) {
  const wide = useMedia('(min-width: 1024px)')
  const { done, advice, take } = usePractise(day, taken)
  const plan = usePracticePlan(day.id, taken)
  const chosen = useChosen(plan.data?.ranked ?? [])
  const { now, one } = chosen
  const drawn = useDrawn(day, plan.data?.water_c ?? 12, now, one)
  const [pace, setPace] = useState<Pace>('quick')
  const [mode, setMode] = useState<Mode>('asked')
  const [guessing, setGuessing] = useState(false)
  const busy = done.isPending
  const over = day.at_min >= day.day_min
  const last = day.casts.at(-1)
  const trouble = done.error ?? plan.error ?? advice.error ?? take.error
  const cast = () => {
    if (!now) return
    advice.reset()
    setGuessing(false)
    done.mutate({ kind: 'cast', ...now }, { onSuccess: () => setGuessing(mode === 'each') })
  }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1fr)_430px]">
      <div className="min-w-0">
        <Clock day={day} />
        <Column
          picture={day.picture}
          simulation={drawn}
          timeS={deepestAt(drawn)}
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
          onRead={(what) => {
            chosen.turn(chosen.turned)
            done.mutate({ kind: 'reading', what })
          }}
        />
        {day.found && <p className="mt-1 text-sm">{day.found} What it said is in the Column.</p>}
      </div>
      <div className="min-w-0 space-y-3">
        {trouble && <Trouble error={trouble} />}
        <LastCast day={day} last={last} />
        {over ? (
          <Button
            look="hot"
            size="huge"
            className="w-full"
            disabled={busy}
            onClick={() => done.mutate({ kind: 'end' })}
          >
            {busy ? 'Working it out…' : 'The day is over: see where they were'}
          </Button>
        ) : (
          <CastButton
            text={last ? 'Cast again' : 'Cast'}
            pace={pace}
            action={now?.action}
            lastsS={drawn?.time_s.at(-1) ?? 0}
            disabled={busy || !now}
            onCast={cast}
          />
        )}
        {guessing && now && !over && (
          <Guessing
            key={day.casts.length}
            now={now}
            advice={advice.data}
            asking={advice.isPending}
            onAsk={() => advice.mutate()}
            onTake={chosen.fish}
          />
        )}
        {!guessing && advice.data && (
          <div className="border-l-[6px] border-hot bg-sheet px-3 py-2">
            <Advice advice={advice.data} onTake={chosen.fish} />
          </div>
        )}
        {now && !over && (
          <About now={now} chosen={chosen} bottomM={day.bottom_m} taken={taken !== undefined} />
        )}
        {!over && (
          <Deciding
            moveMin={day.move_min}
            disabled={busy}
            mode={mode}
            pace={pace}
            asking={advice.isPending}
            ending={busy && done.variables.kind === 'end'}
            onMove={() => done.mutate({ kind: 'place' })}
            onAsk={() => advice.mutate()}
            onEnd={() => done.mutate({ kind: 'end' })}
            onMode={setMode}
            onPace={setPace}
          />
        )}
        {!taken && !over && (
          <Button disabled={take.isPending} onClick={() => take.mutate()}>
            {take.isPending ? 'Packing it…' : 'Take it along, for no signal'}
          </Button>
        )}
        {!over && (
          <Ways
            ranked={plan.data?.ranked ?? []}
            waiting={plan.isFetching}
            chosen={one?.method.key ?? null}
            onChoose={(key) => chosen.turn({ key, by: 0 })}
          />
        )}
      </div>
    </div>
  )
}

function deepestAt(run: Pick<Schemas['RunOut'], 'flies' | 'time_s'> | undefined): number {
  const depths = run?.flies[0]?.depth_m ?? []
  return run?.time_s[depths.indexOf(Math.max(...depths))] ?? 0
}
