/** What can be done with a rig - cast, hang, tow - an entry each that answers for itself: nothing else asks what kind it is. */
import type { Action, Drawn, Schemas } from '../api/client'
import { cutLength, format, type Units } from '../format/units'
import type { CastPhase } from '../offline/store'
import type { OwnChange } from '../state/outing'

type Of<K extends Action['kind']> = Extract<Action, { kind: K }>

/** A pull and a rest, in s, and how it is said. */
interface Rhythm {
  pullS: number
  pauseS: number
  said: string
}

interface Way<A extends Action> {
  /** Line or float, with count or depth. */
  headline(lineName: string, action: A, units: Units): string
  /** What the hands do. */
  handling(action: A, units: Units): string
  /** What a tap on "Cast" marks, and what the fly should do then. */
  lands: string
  goal: string
  goalM(point: Drawn['flies'][number] | undefined): number
  /** When the hands must do something, in s after landing; null for what goes on. */
  signalS(action: A, run: Pick<Drawn, 'side'>): number | null
  mendsS(action: A): readonly number[]
  /** How it is drawn in; null for what hangs or is towed. */
  rhythm(action: A): Rhythm | null
  countS(action: A): number
  /** Turned by a hand: by so many seconds of count, or tenths of a metre of depth. */
  turned(action: A, by: number): A
  /** With what the angler has turned of it. */
  withOwn(action: A, own: OwnChange): A
  /** In which phases of it a fish may come. */
  phases: readonly CastPhase[]
  /** What of it a hand turns on the water. */
  turns: readonly ('count' | 'float' | 'pace')[]
  /** Whether two of the kind are told apart by no hand. */
  same(one: A, other: A): boolean
  /** What must not be left at home for it. */
  kit(action: A): readonly string[]
}

const FLOATS = { fixed: 'Fixed', 'quick-release': 'Quick-release', sliding: 'Sliding' } as const
const SAME_S = 0.05
const SAME_M = 0.005
const LEAST_SET_M = 0.4

const WAYS: { [K in Action['kind']]: Way<Of<K>> } = {
  cast: {
    headline: (lineName, { count_s }) => `${lineName}, count ${Math.round(count_s)}`,
    handling: ({ retrieve_name, retrieve_mps, retrieve_rhythm }, units) =>
      `${retrieve_name}, ${format('lineSpeed', retrieve_mps, units)}: ${retrieve_rhythm}.`,
    lands: 'as the fly lands',
    goal: 'start',
    goalM: (point) => point?.start_depth_m ?? 0,
    signalS: ({ count_s }) => count_s,
    mendsS: ({ mends_s }) => mends_s,
    rhythm: ({ pull_s, pause_s, retrieve_rhythm }) => ({
      // An earlier build kept no rhythm.
      pullS: pull_s,
      pauseS: pause_s,
      said: retrieve_rhythm,
    }),
    countS: ({ count_s }) => count_s,
    turned: (action, by) => ({ ...action, count_s: Math.max(action.count_s + by, 0) }),
    withOwn: (action, own) => ({
      ...action,
      count_s: own.countS ?? action.count_s,
      retrieve_mps: own.retrieveMps ?? action.retrieve_mps,
    }),
    phases: ['drop', 'pull', 'stop', 'lift', 'hang'],
    turns: ['count', 'pace'],
    same: (one, other) =>
      Math.abs(one.count_s - other.count_s) < SAME_S && one.retrieve_mps === other.retrieve_mps,
    kit: () => [],
  },
  hang: {
    headline: (_, { indicator, set_depth_m }, units) =>
      `${FLOATS[indicator]} float at ${cutLength(set_depth_m, units)}`,
    handling: ({ twitch_every_s }) =>
      twitch_every_s
        ? `Lift it a little every ${twitch_every_s} s, let it drop.`
        : 'Leave it alone; mend, and recast when the line bows.',
    lands: 'as the float lands',
    goal: 'hang',
    goalM: (point) => point?.end_depth_m ?? 0,
    // Lifted off once its line drags it.
    signalS: ({ drift_s }, run) => Math.min(drift_s, run.side?.recast_at_s ?? Infinity),
    mendsS: ({ mends_s }) => mends_s,
    rhythm: () => null,
    countS: () => 0,
    turned: (action, by) => ({
      ...action,
      set_depth_m: Math.max(action.set_depth_m + by / 10, LEAST_SET_M),
    }),
    withOwn: (action, own) => ({ ...action, set_depth_m: own.setDepthM ?? action.set_depth_m }),
    phases: ['drop', 'rest', 'lift'],
    turns: ['float'],
    same: (one, other) => Math.abs(one.set_depth_m - other.set_depth_m) < SAME_M,
    kit: ({ indicator }) => [`${indicator} indicator and stoppers`, 'swivels'],
  },
  tow: {
    headline: (lineName, { out_m }, units) => `${lineName}, ${format('depth', out_m, units)} out`,
    handling: ({ tow_mps }, units) => `Let the boat go at ${format('lineSpeed', tow_mps, units)}.`,
    lands: 'when the line is out',
    goal: 'run',
    goalM: (point) => point?.end_depth_m ?? 0,
    signalS: () => null,
    mendsS: () => [],
    rhythm: () => null,
    countS: () => 0,
    turned: (action) => action,
    withOwn: (action, own) => ({ ...action, tow_mps: own.towMps ?? action.tow_mps }),
    phases: ['drop', 'pull', 'stop', 'lift', 'hang'],
    turns: [],
    same: () => true,
    kit: () => ['drogue', 'anchor'],
  },
}

/** What an action is, whatever it is. */
export const wayOf = <A extends Action>({ kind }: A): Way<A> => WAYS[kind] as unknown as Way<A>

/** An action as it is asked, or as it is answered with its words. */
type Asked = Action | Schemas['ShotIn']['action']

/** Whether two actions are the same to a hand. */
export const sameAction = (one: Asked, other: Asked): boolean =>
  one.kind === other.kind && wayOf(one as Action).same(one as Action, other as Action)
