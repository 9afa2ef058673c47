/** Fish: the count, the fly's depth as it sinks, and one tap for whatever happens. */
import { useEffect, useLayoutEffect, useReducer, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import type { Picture } from '../../api/client'
import { usePicture, useTrade } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { interpolate } from '../../column/geometry'
import { format } from '../../format/units'
import { moment, secondsSince, type Moment } from '../../offline/moments'
import { store, useLive, written, type Fishing, type Kind, type LoggedEntry } from '../../offline/store'
import { usePerson, useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { withRidge } from '../../search/ridge'
import type { Moves } from '../../search/thinker'
import { useMoves } from '../../search/useMoves'
import { Cautions, Reminders, Trouble, Waiting } from '../../ui/Notice'
import { Segments } from '../../ui/Segments'
import { isTyping } from '../../ui/ShortcutSheet'
import { LadderList } from '../../choice/LadderList'
import { handling, headline } from '../../choice/sayings'
import { Clock, signalS } from './Clock'
import { entriesOf, log, undoLast } from './logging'
import { Heard } from './Heard'
import { NextMove } from './NextMove'
import { useChange } from './useChange'
import { Troubles, Waits } from './Unsent'
import { signalIn, useWakeLock } from './signal'

const KIND_WORDS: Record<Kind, string> = {
  cast: 'Cast',
  nothing: 'Nothing',
  knock: 'Knock',
  take: 'Take',
  lost: 'Lost',
  landed: 'Landed',
}
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
/** Two taps closer than this are one tap of a cold finger. */
const DOUBLE_TAP_MS = 450
/** The log keeps times into a cast up to an hour: a fly left lying longer is where it was. */
const LONGEST_S = 3600

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
    const timer = setInterval(tick, 100)
    return () => clearInterval(timer)
  }, [castAt])
  return castAt && secondsSince(castAt)
}

function AtTheWater({ fishing }: { fishing: Fishing }) {
  const units = useUnits()
  const { doing, castAt, landing, dayId } = fishing
  const asked = usePicture(fishing.conditions)
  const picture = asked.data ?? fishing.picture
  const entries = useLive(() => entriesOf(dayId), dayId) ?? []
  const elapsed = useElapsed(castAt)
  const search = useLive(async () => (await store.searches.get(dayId)) ?? null, `search:${dayId}`) ?? null
  const fished = useLive(() => store.fished.where('dayId').equals(dayId).toArray(), `fished:${dayId}`) ?? []
  const [trouble, setTrouble] = useState<unknown>(null)
  const [lastTap, setLastTap] = useState({ kind: '', at: 0 })
  const atS = signalS(doing)
  const sound = units.sound_on
  useWakeLock(castAt !== null)
  useEffect(() => {
    if (castAt === null || atS === null) return
    return signalIn(atS - secondsSince(castAt), sound)
  }, [castAt, atS, sound])

  const live = entries.filter((e) => !e.undone)
  const moves = useMoves(search, fished, entries, fishing.presentationId)
  const water = picture && moves ? withRidge(picture, moves) : picture
  const change = useChange(fishing, search, setTrouble)

  async function tap(kind: Kind) {
    const at = Date.now()
    if (lastTap.kind === kind && at - lastTap.at < DOUBLE_TAP_MS) return
    setLastTap({ kind, at })
    const elapsedS = castAt && Math.min(Math.round(secondsSince(castAt) * 10) / 10, LONGEST_S)
    if (kind === 'landed') {
      await written(() => store.fishing.update('now', { landing: { at, elapsedS } }))
      return
    }
    // A new cast says that the one before it came to nothing.
    if (kind === 'cast' && castAt !== null) await log(fishing, 'nothing', at - 1, elapsedS, { castAt: null })
    if (kind === 'cast') await log(fishing, kind, at, null, { castAt: moment() })
    else await log(fishing, kind, at, elapsedS, kind === 'knock' ? {} : { castAt: null })
  }
  async function land(species: string, lengthM: number | null) {
    if (!landing) return
    const ended = { landing: null, castAt: null }
    await log(fishing, 'landed', landing.at, landing.elapsedS, ended, { species, lengthM })
  }

  // Laid on with the buttons themselves, so that a key works from the moment they are seen.
  const press = useRef<(event: KeyboardEvent) => void>(() => undefined)
  useLayoutEffect(() => {
    press.current = (event) => {
      const kind = KEYS[event.key.toLowerCase()]
      if (landing || event.repeat || isTyping(event)) return
      if (event.key.toLowerCase() === 'u' && live.length > 0) void undoLast(fishing)
      else if (kind && !(castAt === null && NEEDS_CAST.includes(kind))) void tap(kind)
    }
  })
  useLayoutEffect(() => {
    const listen = (event: KeyboardEvent) => press.current(event)
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])

  const cautions = picture?.cautions ?? []
  return (
    <div className="mx-auto flex min-h-full max-w-[1100px] flex-col gap-2 px-3 pt-2 pb-3 lg:grid lg:grid-cols-[minmax(0,1fr)_410px] lg:content-start lg:gap-x-8">
      <div className="min-w-0">
        <h1 className="plate text-xl leading-tight font-bold">{headline(doing, units)}</h1>
        <p className="line-clamp-2 text-sm leading-tight lg:line-clamp-none">
          {doing.action.kind === 'cast' && handling(doing.action, units)} {doing.fly_names.join(' · ')}
        </p>
        {water && (
          <Drawn picture={water} fishing={fishing} elapsed={elapsed} entries={live} spent={moves?.fished} />
        )}
        {!picture && asked.isError && (
          <p className="mt-2 text-sm">No connection: the count and the log work on; the drawing waits.</p>
        )}
      </div>
      <div className="flex min-w-0 grow flex-col gap-2">
        {search && <NextMove search={search} moves={moves} planned={doing.ladder[0]} onTake={change} />}
        {trouble !== null && <Trouble error={trouble} />}
        <Clock fishing={fishing} elapsed={elapsed} />
        {landing ? (
          <Landing
            usual={fishing.conditions.species ?? ''}
            onLand={(species, lengthM) => void land(species, lengthM)}
            onBack={() => void written(() => store.fishing.update('now', { landing: null }))}
          />
        ) : (
          <div className="grid grid-cols-6 gap-2">
            <Button
              look="hot"
              className="col-span-6 min-h-16 text-3xl lg:min-h-20"
              onClick={() => void tap('cast')}
            >
              {elapsed === null ? 'Cast' : 'Cast again'}
            </Button>
            {(['nothing', 'knock', 'take', 'lost', 'landed'] as const).map((kind, i) => (
              <Button
                key={kind}
                size="huge"
                className={i < 2 ? 'col-span-3' : 'col-span-2'}
                disabled={elapsed === null && NEEDS_CAST.includes(kind)}
                onClick={() => void tap(kind)}
              >
                {KIND_WORDS[kind]}
              </Button>
            ))}
          </div>
        )}
        <Tally entries={live} fishing={fishing} />
        {search && (
          <Heard
            search={search}
            usualM={fishing.run.flies[0]?.end_depth_m ?? 1}
            bottomM={fishing.conditions.bottom_depth_m}
          />
        )}
        <Cautions cautions={cautions} />
        <Reminders said={picture?.reminders ?? []} />
        {doing.ladder.length > 0 && <LadderList rungs={doing.ladder} />}
      </div>
    </div>
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
  const drawn = { picture, simulation: fishing.run, timeS: elapsed ?? 0, ...(spent?.length ? { spent } : {}) }
  const takes = entries
    .filter((e) => ['take', 'lost', 'landed'].includes(e.kind) && e.elapsedS !== null)
    .map((e) => depthOf(e, fishing))
  return (
    <>
      <Column {...drawn} heightPx={170} takes={takes} className="mt-1 lg:hidden" />
      <Column {...drawn} heightPx={520} takes={takes} className="mt-1 hidden lg:block" />
    </>
  )
}

interface LandingProps {
  /** The trout the day was read for. */
  usual: string
  onLand(species: string, lengthM: number | null): void
  onBack(): void
}

function Landing({ usual, onLand, onBack }: LandingProps) {
  const units = useUnits()
  const trade = useTrade()
  const [species, setSpecies] = useState(usual)
  const [lengthM, setLengthM] = useState(0.38)
  return (
    <section aria-label="Landed" className="border-2 border-ink bg-sheet p-3">
      <p className="font-semibold">Wet hands, fish in the water, held upright until it swims.</p>
      {trade.data && (
        <Segments
          label="Which"
          value={species}
          options={trade.data.species.map((s) => ({ value: s.key, text: s.name.replace(' trout', '') }))}
          onValueChange={setSpecies}
          className="mt-1"
        />
      )}
      <Dial
        label="Length"
        value={lengthM}
        least={0.1}
        most={0.9}
        step={units.fish_length_unit === 'in' ? 0.0127 : 0.01}
        said={format('fishLength', lengthM, units)}
        onValueChange={setLengthM}
      />
      <div className="grid grid-cols-2 gap-2">
        <Button look="hot" size="huge" onClick={() => onLand(species, Math.round(lengthM * 1000) / 1000)}>
          Save {format('fishLength', lengthM, units)}
        </Button>
        <Button size="huge" onClick={() => onLand(species, null)}>
          Not measured
        </Button>
        <Button look="quiet" className="col-span-2" onClick={onBack}>
          Back, it is still on
        </Button>
      </div>
    </section>
  )
}

function Tally({ entries, fishing }: { entries: readonly LoggedEntry[]; fishing: Fishing }) {
  const count = (kind: Kind) => entries.filter((e) => e.kind === kind).length
  const last = entries.at(-1)
  return (
    <div className="text-sm">
      <div className="flex items-center justify-between gap-2">
        <div className="leading-tight">
          <strong className="text-base">
            {plural(count('cast'), 'cast')} · {plural(count('knock'), 'knock')} ·{' '}
            {plural(count('take') + count('lost') + count('landed'), 'take')} · {count('landed')} landed
          </strong>
          <br />
          <Waits />
        </div>
        <Button disabled={!last} className="min-h-14 shrink-0" onClick={() => void undoLast(fishing)}>
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
