/** What is chosen for one side of the tank, and the question it becomes. */
import { ACROSS, USUAL_HANDLING, type Schemas } from '../api/client'
import { USUAL } from '../api/trade'

/** What the tank takes from the angler's box. */
export interface Box {
  lines: readonly Schemas['LineOut'][]
  leaders: readonly Schemas['LeaderOut'][]
  flies: readonly Schemas['FlyOut'][]
}

export interface Side {
  method: 'cast' | 'indicator'
  lineId: number
  leaderId: number
  flyId: number
  /** A fly above the point, or none. */
  upperFlyId: number | null
  castM: number
  countS: number
  retrieveKey: string
  setDepthM: number
  /** Speed of the boat toward the flies [m/s]. */
  boatMps: number
  /** Line is fed out through the count, so that it falls level. */
  fed: boolean
  /** The floating line is laid back upwind so often [s]; 0 for never. */
  mendS: number
}

/** What both sides share. */
export interface Shared {
  bottomM: number
  waterC: number
  windMps: number
}

const UPPER_M = 1.5
const MOST_MENDS = 40

/** Two sides that show something at once: the same cast on a middling and on a fast line. */
export function startingSides({ lines, leaders, flies }: Box): [Side, Side] {
  const line = (key: string) => (lines.find((l) => l.class_key === key) ?? lines[0])?.id ?? 0
  const side: Side = {
    method: 'cast',
    lineId: line('fast-intermediate'),
    leaderId: leaders[0]?.id ?? 0,
    flyId: flies[0]?.id ?? 0,
    upperFlyId: null,
    castM: USUAL.usualCastM,
    countS: 20,
    retrieveKey: 'strip-pause',
    setDepthM: 3,
    boatMps: 0,
    fed: false,
    mendS: 0,
  }
  return [side, { ...side, lineId: line('type-5') }]
}

/** The longest set depth the leader allows [m]. */
export function deepestSet(leader: Schemas['LeaderOut'] | undefined): number {
  return Math.floor((leader?.length_m ?? 3) * 10) / 10
}

/** The run to ask for, or null where the box lacks a part. */
export function presentationOf(side: Side, shared: Shared, box: Box): Schemas['RunIn'] | null {
  // A float hangs from a line that floats; a sinking one would draw it under.
  const floater = box.lines.find((l) => l.class_key === 'floating')
  const own = box.lines.find((l) => l.id === side.lineId)
  const line = side.method === 'indicator' ? (floater ?? own) : own
  const leader = box.leaders.find((l) => l.id === side.leaderId)
  const point = box.flies.find((f) => f.id === side.flyId)
  const upper = box.flies.find((f) => f.id === side.upperFlyId)
  if (!line || !leader || !point) return null
  const setDepthM = Math.min(side.setDepthM, deepestSet(leader))
  const room = side.method === 'indicator' ? setDepthM : leader.length_m
  const flies = [
    { fly: point, above_point_m: 0, dropper_m: 0 },
    ...(upper ? [{ fly: upper, above_point_m: Math.min(UPPER_M, room / 2), dropper_m: 0 }] : []),
  ]
  return {
    water_c: shared.waterC,
    bottom: [{ distance_m: 0, depth_m: shared.bottomM }],
    weed_m: 0,
    wind_speed_mps: shared.windMps,
    fished: { rig: { line, leader, flies }, action: actionOf(side, setDepthM, leader.length_m) },
  }
}

function mendsOf({ mendS }: Side): number[] {
  if (mendS <= 0) return []
  return Array.from(
    { length: Math.min(Math.floor(USUAL.usualDriftS / mendS), MOST_MENDS) },
    (_, i) => (i + 1) * mendS,
  )
}

function actionOf(side: Side, setDepthM: number, leaderM: number): Schemas['FishedIn']['action'] {
  if (side.method === 'indicator')
    return {
      kind: 'hang',
      set_depth_m: setDepthM,
      indicator: 'fixed',
      diameter_m: USUAL.usualFloatM,
      drift_s: USUAL.usualDriftS,
      distance_m: 10,
      ...ACROSS,
      mends_s: mendsOf(side),
      fed_mps: 0,
    }
  return {
    kind: 'cast',
    cast_m: Math.max(side.castM, leaderM + 0.5),
    count_s: side.countS,
    retrieve_key: side.retrieveKey,
    ...USUAL_HANDLING,
    ...ACROSS,
    mends_s: mendsOf(side),
    tip_mps: side.boatMps,
    loose: side.fed,
  }
}
