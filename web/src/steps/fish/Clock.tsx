/** The clock of a cast, a drift under a float or a tow: one number, what the hands do now, and where the fly is. */
import type { ReactNode } from 'react'
import { interpolate } from '../../column/geometry'
import { format, seconds, type Units } from '../../format/units'
import type { Doing, Fishing } from '../../offline/store'
import { useUnits } from '../../state/person'
import { handling } from '../../choice/sayings'
import { wayOf } from '../../choice/ways'
import { hang, mark, pulls, type Call } from './signal'

/** When the hands must do something, in seconds after landing; null for a tow, which goes on. */
const signalS = ({ doing: { action }, run }: Pick<Fishing, 'doing' | 'run'>) =>
  wayOf(action).signalS(action, run)

/** How long "mend" stands after its moment [s]. */
const MENDING_S = 4

/** Whether the floating line is to be laid back now. */
function mending({ action }: Doing, elapsed: number): boolean {
  return wayOf(action)
    .mendsS(action)
    .some((at) => elapsed >= at && elapsed < at + MENDING_S)
}

/** What calls the hands in one cast, so long after the fly landed: the mark, the pulls of the retrieve, the hang. */
export function callsOf({ doing, run }: Fishing, beat: boolean): Call[] {
  const at = signalS({ doing, run })
  if (at === null) return []
  const { action } = doing
  const way = wayOf(action)
  const mends = way
    .mendsS(action)
    .filter((mendS) => mendS < (run.time_s.at(-1) ?? at))
    .map(mark)
  const drawnIn = way.rhythm(action)
  if (!drawnIn) return [...mends.filter((call) => call.inS < at), mark(at)]
  const lifts = run.phase.indexOf('lift')
  const liftS = run.time_s[lifts] ?? null
  const end = liftS ?? run.time_s.at(-1) ?? at
  const everyS = drawnIn.pullS ? drawnIn.pullS + drawnIn.pauseS : 0
  const rhythm = beat && drawnIn.pauseS > 0 ? pulls(at, end, everyS) : []
  return [...mends, mark(at), ...rhythm.slice(1), ...(lifts > 0 && liftS !== null ? [hang(liftS)] : [])]
}

const MEND: Face = { big: 'Mend', what: 'lay the floating line back upwind', hot: true }

interface Face {
  big: string
  what: string
  hot: boolean
}

function faceOf({ doing, run }: Fishing, elapsed: number | null, units: Units): Face {
  const { action } = doing
  const at = signalS({ doing, run })
  if (elapsed === null)
    return {
      big: at === null ? '0:00' : String(Math.round(at)),
      what: `ready: tap Cast ${wayOf(action).lands}`,
      hot: false,
    }
  if (at === null) {
    const whole = Math.floor(elapsed)
    const clock = `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
    return { big: clock, what: handling(action, units), hot: false }
  }
  const left = at - elapsed
  const drawnIn = wayOf(action).rhythm(action)
  if (!drawnIn) {
    if (left <= 0)
      return { big: 'Recast', what: 'the line has bowed: lift it off and start again', hot: true }
    if (mending(doing, elapsed)) return MEND
    const hangs = run.flies[0]?.settle_s ?? 0
    const what = elapsed < hangs ? 'let it sink and hang, line slack' : handling(action, units)
    return { big: String(Math.ceil(left)), what, hot: false }
  }
  const dragged = run.side?.recast_at_s ?? null
  if (dragged !== null && elapsed >= dragged)
    return { big: 'Recast', what: 'the bow drags the fly: lift off and cast again', hot: true }
  if (left > 0 && mending(doing, elapsed)) return MEND
  if (left > 0) return { big: String(Math.ceil(left)), what: 'count, rod low, line just tight', hot: false }
  const lift = run.time_s[run.phase.indexOf('lift')] ?? run.time_s.at(-1) ?? 0
  return elapsed < lift
    ? { big: 'Pull', what: drawnIn.said, hot: true }
    : { big: 'Hang', what: 'lift slowly, hold, watch behind the fly', hot: true }
}

interface ClockProps {
  fishing: Fishing
  elapsed: number | null
  /** Where the cast goes. */
  children?: ReactNode
}

export function Clock({ fishing, elapsed, children }: ClockProps) {
  const units = useUnits()
  const { run, doing } = fishing
  const point = run.flies[0]
  const { big, what, hot } = faceOf(fishing, elapsed, units)
  const way = wayOf(doing.action)
  const goal = `fly should ${way.goal} at ${format('depth', way.goalM(point), units)}`
  return (
    <div className="flex items-end justify-between gap-3" role="timer" aria-label="Count">
      <p
        className={`plate leading-[0.85] font-extrabold ${hot ? 'text-5xl text-hot lg:text-6xl' : 'text-7xl lg:text-8xl'}`}
      >
        {big}
      </p>
      <div className="min-w-0 grow pb-0.5">
        <p className="leading-tight font-semibold">{what}</p>
        <p className="text-sm text-soft">
          {elapsed === null
            ? goal
            : `fly at about ${format('depth', interpolate(run.time_s, point?.depth_m ?? [0], elapsed), units)} · ${seconds(elapsed)}`}
        </p>
      </div>
      {children}
    </div>
  )
}
