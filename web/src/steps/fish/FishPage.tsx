/** Fish: the count, the fly's depth as it sinks, and one tap for whatever happens. */
import { useEffect, useLayoutEffect, useReducer, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Picture, Schemas } from '../../api/client'
import { usePicture, useWaters } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { interpolate } from '../../column/geometry'
import { wayOf } from '../../choice/ways'
import { fishOf, KIND_WORDS, kindsThat } from '../../format/kinds'
import { useElsewhere } from '../../offline/elsewhere'
import { secondsSince, type Moment } from '../../offline/moments'
import {
  store,
  useLive,
  written,
  type Fishing,
  type Kind,
  type LoggedEntry,
  type Spot,
} from '../../offline/store'
import { usePerson, useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { logOf } from '../../search/log'
import { withRidge } from '../../search/ridge'
import type { Moves } from '../../search/thinker'
import { useMoves } from '../../search/useMoves'
import { Cautions, Reminders, Trouble, Waiting } from '../../ui/Notice'
import { useMedia } from '../../ui/useMedia'
import { isTyping } from '../../ui/Help'
import { LadderList } from '../../choice/LadderList'
import { handling, headline } from '../../choice/sayings'
import { Changed } from './Changed'
import { Clock, callsOf } from './Clock'
import { Fan } from './Fan'
import { Holding } from './Holding'
import { HowToSearch } from './HowToSearch'
import { Landing } from './Landing'
import { entriesOf, undoLast } from './logging'
import { Heard } from './Heard'
import { NextMove } from './NextMove'
import { OwnChange } from './OwnChange'
import { cameToAFly, WhichFly } from './WhichFly'
import { useChange } from './useChange'
import { useTaps } from './useTaps'
import { Troubles, Waits } from './Unsent'
import { call, useWakeLock } from './signal'

const KEYS: Record<string, Kind> = {
  c: 'cast',
  n: 'nothing',
  k: 'knock',
  t: 'take',
  l: 'lost',
  f: 'landed',
}
/** What can only happen while a fly is in the water; a fish may be logged late. */
const NEEDS_CAST: readonly Kind[] = ['nothing', 'knock']
/** Line sinks by centimetres in it, and a slow phone has time left for a tap. */
const TICK_MS = 250

export function FishPage() {
  const { username } = usePerson()
  const fishing = useLive(async () => (await store.fishing.get('now')) ?? null, 'fishing')
  const navigate = useNavigate()
  if (fishing === undefined) return <Waiting what="Looking for what you are fishing…" />
  if (!fishing || fishing.username !== username) {
    return (
      <section className="mx-auto max-w-xl space-y-4 p-6">
        <h1 className="plate text-3xl font-bold">Nothing tied on yet</h1>
        <p>Choose a rig, press “Fish this”, and the count starts here.</p>
        <Button look="hot" size="large" onClick={() => void navigate('/rig')}>
          Choose the rig
        </Button>
      </section>
    )
  }
  return <AtTheWater fishing={fishing} />
}

/** Seconds into the cast, or null between casts. */
function useElapsed(castAt: Moment | null): number | null {
  const [, tick] = useReducer((n: number) => n + 1, 0)
  useEffect(() => {
    if (castAt === null) return
    const timer = setInterval(tick, TICK_MS)
    return () => clearInterval(timer)
  }, [castAt])
  return castAt && secondsSince(castAt)
}

/** Call the hands as the cast goes on, and keep the screen awake. */
function useCalls(fishing: Fishing) {
  const { castAt, presentationId } = fishing
  const { sound_on: sound, beat_on: beat } = useUnits()
  useWakeLock(castAt !== null || fishing.holding != null)
  useEffect(() => {
    if (castAt === null) return
    const since = secondsSince(castAt)
    return call(
      callsOf(fishing, beat).map((one) => ({ ...one, inS: one.inS - since })),
      sound,
    )
    // What is fished is another one only with its id.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [castAt, presentationId, sound, beat])
}

/** Laid on with the buttons themselves, so that a key works from the moment they are seen. */
function useKeys(onPress: (event: KeyboardEvent) => void) {
  const press = useRef(onPress)
  useLayoutEffect(() => {
    press.current = onPress
  })
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => press.current(event)
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])
}

/** Cast there next. */
const pick = (spot: Spot) => written(() => store.fishing.update('now', { spot }))

function useRules(waterId: number): Schemas['RulesIn'] | undefined {
  return useWaters().data?.items.find(({ id }) => id === waterId)?.rules
}

/** When the fly landed: a tap is seen before the store has it, which on a slow phone takes a while. */
function useCastAt(fishing: Fishing) {
  const [tapped, setTapped] = useState<{ castAt: Moment | null } | null>(null)
  const stored = fishing.castAt?.wall ?? null
  const [seen, setSeen] = useState(stored)
  // Once the store has caught up it is right: what was tapped before says nothing of the next cast.
  if (seen !== stored) {
    setSeen(stored)
    setTapped(null)
  }
  const tappedNow = seen === stored ? tapped : null
  const castAt = tappedNow ? tappedNow.castAt : fishing.castAt
  return {
    castAt,
    setCastAt: (now: Moment | null) => setTapped({ castAt: now }),
    /** What was taken back again may never have been seen in the store. */
    trustStore: () => setTapped(null),
  }
}

function AtTheWater({ fishing }: { fishing: Fishing }) {
  const units = useUnits()
  const { doing, landing, dayId } = fishing
  const { castAt, setCastAt, trustStore } = useCastAt(fishing)
  const asked = usePicture(fishing.conditions)
  const picture = asked.data ?? fishing.picture
  const entries = useLive(() => entriesOf(dayId), dayId) ?? []
  const elapsed = useElapsed(castAt)
  const search = useLive(async () => (await store.searches.get(dayId)) ?? null, `search:${dayId}`) ?? null
  const fished = useLive(() => store.fished.where('dayId').equals(dayId).toArray(), `fished:${dayId}`) ?? []
  const [trouble, setTrouble] = useState<unknown>(null)
  useCalls(fishing)
  useElsewhere(dayId)

  const live = entries.filter((e) => !e.undone)
  const moves = useMoves(search, fished, entries, fishing.presentationId)
  const water = picture && moves ? withRidge(picture, moves) : picture
  const change = useChange(fishing, search, setTrouble)
  const rules = useRules(fishing.conditions.water_id)
  const spot = fishing.spot ?? moves?.fan.next ?? null
  const last = live.at(-1)
  const asksOf =
    last && last.presentationId === fishing.presentationId && !landing && cameToAFly(last) ? last : null
  // Of a team it is asked where the eyes are; the move waits for the answer.
  const asks = asksOf !== null && asksOf.fly === undefined && doing.fly_names.length > 1

  const { tap, near, land } = useTaps({ fishing, live, castAt, setCastAt, spot })
  const undo = () => void undoLast(fishing).then(trustStore)

  useKeys((event) => {
    const kind = KEYS[event.key.toLowerCase()]
    if (landing || event.repeat || isTyping(event)) return
    if (event.key.toLowerCase() === 'u' && live.length > 0) undo()
    else if (kind && !(castAt === null && NEEDS_CAST.includes(kind))) void tap(kind)
  })

  return (
    <div className="mx-auto flex min-h-full max-w-[1100px] flex-col gap-2 px-3 pt-2 pb-3 lg:grid lg:grid-cols-[minmax(0,1fr)_410px] lg:content-start lg:gap-x-8">
      <div className="min-w-0">
        <Doing doing={doing} />
        {fishing.rough && (
          <p className="text-sm leading-tight">No connection: drawn from your last run, roughly.</p>
        )}
        {water && (
          <Drawn picture={water} fishing={fishing} elapsed={elapsed} entries={live} spent={moves?.fished} />
        )}
        {!picture && asked.isError && <NoDrawing />}
      </div>
      <div className="flex min-w-0 grow flex-col gap-2">
        {asks ? (
          <WhichFly fishing={fishing} entry={asksOf} />
        ) : (
          search && (
            <NextMove
              fishing={fishing}
              search={search}
              moves={moves}
              planned={doing.ladder[0]}
              onTake={change}
            />
          )
        )}
        {trouble !== null && <Trouble error={trouble} />}
        {fishing.holding && <Holding fishing={fishing} since={fishing.holding.at} />}
        <Clock fishing={fishing} elapsed={elapsed}>
          {moves && spot && <Fan fan={moves.fan} next={spot} onPick={(picked) => void pick(picked)} />}
        </Clock>
        {landing ? (
          <Landing
            fishing={fishing}
            rules={rules}
            kept={live.filter((e) => e.kept).length}
            onLand={(said) => void land(said)}
            onBack={() => void written(() => store.fishing.update('now', { landing: null }))}
          />
        ) : (
          <Answers inWater={elapsed !== null} left={units.left_handed} onTap={(kind) => void tap(kind)} />
        )}
        {asksOf && !asks && <WhichFly fishing={fishing} entry={asksOf} />}
        <Tally entries={live} onUndo={undo} />
        <Touched
          inCast={elapsed !== null && wayOf(doing.action).rhythm(doing.action) !== null}
          onTap={() => void tap('touched')}
        />
        {search && (
          <Heard
            fishing={fishing}
            search={search}
            usualM={fishing.run.flies[0]?.end_depth_m ?? 1}
            onNear={(kind) => void near(kind)}
            bottomM={fishing.conditions.bottom_depth_m}
          />
        )}
        {search && (
          <OwnChange fishing={fishing} search={search} fished={fished} entries={entries} onTake={change} />
        )}
        {search && <Changed fishing={fishing} search={search} />}
        {search && <HowToSearch search={search} />}
        <Cautions cautions={picture?.cautions ?? []} />
        <Reminders said={picture?.reminders ?? []} />
        {doing.ladder.length > 0 && (
          <LadderList
            rungs={doing.ladder}
            ahead={
              search && {
                of: [
                  fishing.presentationId,
                  live.length,
                  last?.id,
                  search.school,
                  search.refused.length,
                  search.tableAt,
                ].join(' '),
                table: search.table,
                log: () => logOf(search, fished, entries, Date.now(), fishing.presentationId),
              }
            }
            fishing={live.length > 0}
          />
        )}
      </div>
    </div>
  )
}

interface AnswersProps {
  inWater: boolean
  /** Under the left thumb. */
  left: boolean
  onTap(kind: Kind): void
}

/** The cast, and the five answers to it. */
function Answers({ inWater, left, onTap }: AnswersProps) {
  return (
    <div className="grid grid-cols-6 gap-2" dir={left ? 'rtl' : 'ltr'}>
      <Button look="hot" className="col-span-6 min-h-16 text-3xl lg:min-h-20" onClick={() => onTap('cast')}>
        {inWater ? 'Cast again' : 'Cast'}
      </Button>
      {kindsThat('outcome').map((kind, i) => (
        <Button
          key={kind}
          size="huge"
          className={i < 2 ? 'col-span-3' : 'col-span-2'}
          disabled={!inWater && NEEDS_CAST.includes(kind)}
          onClick={() => onTap(kind)}
        >
          {KIND_WORDS[kind]}
        </Button>
      ))}
    </div>
  )
}

/** What is tied on, and what the hands do. */
function Doing({ doing }: { doing: Fishing['doing'] }) {
  const units = useUnits()
  return (
    <>
      <h1 className="plate text-2xl leading-tight font-bold">{headline(doing, units)}</h1>
      <p className="line-clamp-2 text-sm leading-tight lg:line-clamp-none">
        <strong>{doing.fly_names[0]}</strong>
        {doing.fly_names.slice(1).map((name) => ` · ${name}`)}. {handling(doing.action, units)}
      </p>
    </>
  )
}

function NoDrawing() {
  return <p className="mt-2 text-sm">No connection: the count and the log work on; the drawing waits.</p>
}

/** A cast that touched the bottom on its way down times its line. */
function Touched({ inCast, onTap }: { inCast: boolean; onTap(): void }) {
  if (!inCast) return null
  return (
    <Button className="min-h-12 text-sm" onClick={onTap}>
      Touched bottom: times the line
    </Button>
  )
}

interface DrawnProps {
  picture: Picture
  fishing: Fishing
  elapsed: number | null
  entries: readonly LoggedEntry[]
  /** Where flies have really been today. */
  spent: Moves['fished'] | undefined
}

function Drawn({ picture, fishing, elapsed, entries, spent }: DrawnProps) {
  const wide = useMedia('(width >= 64rem)')
  // Tall enough to bring the buttons down under the thumb.
  const tall = useMedia('(height >= 50rem)')
  const drawn = { picture, simulation: fishing.run, timeS: elapsed ?? 0, ...(spent?.length ? { spent } : {}) }
  const takes = fishOf(entries)
    .filter((e) => e.elapsedS !== null)
    .map((e) => depthOf(e, fishing))
  return (
    <>
      <Column {...drawn} heightPx={wide ? 520 : tall ? 226 : 170} takes={takes} className="mt-1" />
    </>
  )
}

function Tally({ entries, onUndo }: { entries: readonly LoggedEntry[]; onUndo(): void }) {
  const count = (kind: Kind) => entries.filter((e) => e.kind === kind).length
  const last = entries.at(-1)
  const { left_handed: left } = useUnits()
  return (
    <div className="text-sm">
      <div className={`flex items-center justify-between gap-2 ${left ? 'flex-row-reverse' : ''}`}>
        <div className="leading-tight">
          <strong className="text-base">
            {plural(count('cast'), 'cast')} · {plural(count('knock'), 'knock')} ·{' '}
            {plural(fishOf(entries).length, 'take')} · {count('landed')} landed
          </strong>
          <br />
          <Waits />
        </div>
        <Button disabled={!last} className="min-h-14 shrink-0" onClick={onUndo}>
          {last ? `Undo ${KIND_WORDS[last.kind].toLowerCase()}` : 'Undo'}
        </Button>
      </div>
      <Troubles />
    </div>
  )
}

function plural(n: number, word: string): string {
  return `${n} ${word}${n === 1 ? '' : 's'}`
}

function depthOf(entry: LoggedEntry, fishing: Fishing): { low_m: number; high_m: number } {
  const { time_s, flies } = fishing.run
  const depth = interpolate(time_s, flies[0]?.depth_m ?? [0], entry.elapsedS ?? 0)
  return { low_m: Math.max(0, depth - 0.2), high_m: depth + 0.2 }
}
