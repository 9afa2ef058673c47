/** Bring what an earlier version kept on the device into today's shape; nothing that waits to be sent is lost. */
import type { Transaction } from 'dexie'
import type { Action, Ranked, Schemas } from '../api/client'
import { inMps } from './speeds'

/** What was being fished, as versions 1 and 2 kept it. */
interface OldDoing {
  line: { name: string }
  fly_names: string[]
  ladder: Ranked['ladder']
  count_s: number
  retrieve_key?: string
  retrieve_name: string | null
  retrieve_rhythm: string | null
  retrieve_mps: number | null
  set_depth_m: number | null
  indicator: Schemas['HangIn']['indicator'] | null
  drift_s: number | null
  twitch_every_s: number | null
  out_m: number | null
  tow_ms: number | null
}

interface OldChoice extends Pick<OldDoing, 'line' | 'count_s'> {
  retrieve_key: string
  retrieve_name: string
  retrieve_rhythm: string
  retrieve_mps: number
  fly_name: string
}

interface OldFishing {
  doing: OldDoing | { action: Action }
  simulation?: { choice: OldChoice }
  run?: unknown
  picture?: unknown
}

/** A presentation that waits to be sent, as version 2 queued it. */
interface OldPresentation {
  cast_m?: number
  count_s?: number
  retrieve_key?: string
  retrieve_mps?: number | null
  slack?: number
  loose?: boolean
  tip_ms?: number
  hang?: Partial<Schemas['HangIn']> | null
  tow?: { out_m: number; speed_ms: number } | null
  action?: unknown
}

const OLD_CAST_M = 18
const OLD_DRIFT_S = 120
/** Standard deviations within which a normal spread holds eight in ten. */
const EIGHT_IN_TEN = 1.2816

/** Version 2: what an earlier one was fishing was a cast. */
export function wasACast(change: Transaction) {
  return change
    .table<OldFishing>('fishing')
    .toCollection()
    .modify((row) => {
      if (!row.simulation) return
      const { fly_name, ...choice } = row.simulation.choice
      row.run = row.simulation
      row.doing = { ...choice, ...NOT_HUNG_OR_TOWED, ladder: [], fly_names: [fly_name] }
      row.picture = null
      delete row.simulation
    })
}

const NOT_HUNG_OR_TOWED = {
  set_depth_m: null,
  indicator: null,
  drift_s: null,
  twitch_every_s: null,
  out_m: null,
  tow_ms: null,
} as const

/** Version 3: what is done is one tagged action. Answers of an earlier contract are asked for again. */
export async function oneAction(change: Transaction) {
  await change
    .table<OldFishing>('fishing')
    .toCollection()
    .modify((row) => {
      if ('action' in row.doing) return
      const { line, fly_names, ladder } = row.doing
      const doing = { action: actionOf(row.doing), line, fly_names, ladder }
      row.doing = doing
    })
  await change
    .table<{ path: string; body: unknown; refused: string | null }>('outbox')
    .toCollection()
    .modify((row) => {
      // An old page that was still open may have been refused for its shape: everything is tried once more.
      row.refused = null
      if (/\/presentations\/[^/]+$/.test(row.path)) row.body = sentAsOneAction(row.body as OldPresentation)
    })
  await change.table('kept').where('kind').anyOf('worked', 'turned').delete()
}

const NOT_ACROSS = { off_wind_deg: 90, mends_s: [], recasts: false }

/** A run as kept before it knew of side wind. */
interface PlaneRun {
  float_node?: number
  flies: { depth_m: number[]; spread_m?: number[] }[]
}

/** Version 8: runs are of three dimensions and say where a fly is eight times in ten. Kept plans are asked for again. */
export async function inSpace(change: Transaction) {
  await change
    .table<{ run?: PlaneRun; doing: { action: Partial<Action> } }>('fishing')
    .toCollection()
    .modify((row) => {
      const { action } = row.doing
      if (action.kind === 'cast')
        row.doing.action = { ...NOT_ACROSS, tip_y_mps: 0, drag_mps: 0.04, ...action }
      if (action.kind === 'hang') row.doing.action = { ...NOT_ACROSS, fed_mps: 0, ...action }
      if (!row.run || row.run.float_node !== undefined) return
      const flies = row.run.flies.map(({ spread_m: spread = [], ...fly }) => ({
        ...fly,
        across_m: [],
        shallow_m: fly.depth_m.map((depth, i) => Math.max(depth - EIGHT_IN_TEN * (spread[i] ?? 0), 0)),
        deep_m: fly.depth_m.map((depth, i) => depth + EIGHT_IN_TEN * (spread[i] ?? 0)),
      }))
      row.run = { ...row.run, flies, float_node: 0, ...{ thread_across_m: [], side: null } }
    })
  await change.table('kept').where('kind').anyOf('worked', 'turned').delete()
}

function actionOf(old: OldDoing): Action {
  if (old.set_depth_m !== null)
    return {
      kind: 'hang',
      set_depth_m: old.set_depth_m,
      indicator: old.indicator ?? 'fixed',
      diameter_m: 0.019,
      drift_s: old.drift_s ?? OLD_DRIFT_S,
      twitch_every_s: old.twitch_every_s,
      distance_m: 10,
      ...NOT_ACROSS,
      fed_mps: 0,
    }
  if (old.out_m !== null) return { kind: 'tow', out_m: old.out_m, tow_mps: old.tow_ms ?? 0.3, for_s: 180 }
  return {
    kind: 'cast',
    cast_m: OLD_CAST_M,
    count_s: old.count_s,
    retrieve_key: old.retrieve_key ?? 'strip-pause',
    retrieve_name: old.retrieve_name ?? '',
    retrieve_rhythm: old.retrieve_rhythm ?? '',
    retrieve_mps: old.retrieve_mps ?? 0.1,
    pull_s: 1,
    pause_s: 0,
    slack: 0,
    loose: false,
    tip_mps: 0,
    tip_y_mps: 0,
    drag_mps: 0.04,
    ...NOT_ACROSS,
  }
}

function sentAsOneAction(body: OldPresentation): unknown {
  if (body.action) return body
  const {
    hang,
    tow,
    cast_m = OLD_CAST_M,
    count_s,
    retrieve_key,
    retrieve_mps,
    slack,
    loose,
    tip_ms,
    ...rest
  } = body
  if (hang) return { ...rest, action: { kind: 'hang', ...hang, distance_m: cast_m } }
  if (tow) return { ...rest, action: { kind: 'tow', out_m: tow.out_m, tow_ms: tow.speed_ms } }
  return {
    ...rest,
    action: { kind: 'cast', cast_m, count_s, retrieve_key, retrieve_mps, slack, loose, tip_ms },
  }
}

/** Version 4: an answer is kept under the contract's own name of its question. */
export async function askedByContract(change: Transaction) {
  const kept = change.table<{ id: string }>('kept')
  for (const row of await kept.toArray()) {
    const id = nameByContract(row.id)
    if (id === row.id) continue
    await kept.delete(row.id)
    await kept.put({ ...row, id })
  }
}

const LISTS = ['waters', 'lines', 'leaders', 'flies', 'rods', 'floats', 'spools']
const WORKED: Record<string, string> = {
  picture: 'pictures',
  choices: 'choices',
  weighing: 'weighings',
  simulation: 'simulations',
  run: 'runs',
}

function nameByContract(id: string): string {
  const [what, ...asked] = JSON.parse(id) as [string, ...unknown[]]
  const named = (method: string, of: string, init: object) => JSON.stringify([method, `/api/${of}`, init])
  if (LISTS.includes(what)) return named('get', what, { params: { query: { limit: 200 } } })
  if (what === 'trade') return named('get', what, {})
  if (what === 'day-strip')
    return named('post', 'day-strips', { body: { conditions: asked[0], forecast: asked[1] } })
  const worked = WORKED[what]
  return worked ? named('post', worked, { body: asked[0] }) : id
}

/** Version 10: speeds are `_mps`. An old page that was still open may have been refused for theirs: all is tried once more. */
export async function speedsInMps(change: Transaction) {
  for (const name of ['fishing', 'fished', 'searches', 'taken']) {
    const table = change.table<object>(name)
    for (const row of await table.toArray()) await table.put(inMps(row))
  }
  await change
    .table<{ body: unknown; refused: string | null }>('outbox')
    .toCollection()
    .modify((row) => {
      row.body = inMps(row.body)
      row.refused = null
    })
  await change.table('kept').where('kind').anyOf('worked', 'turned').delete()
}

/** Version 7: what was read says what of it was assumed; before, nothing was. */
export async function readAsGiven(change: Transaction) {
  await change
    .table<{ conditions: { assumed?: string[] }; picture?: { unread?: unknown[] } | null }>('fishing')
    .toCollection()
    .modify((row) => {
      row.conditions.assumed ??= []
      if (row.picture) row.picture.unread ??= []
    })
}

/** Version 5: a cast is timed by two clocks, and a day's entries keep their order. */
export async function castByTwoClocks(change: Transaction) {
  await change
    .table<{ castAt: unknown }>('fishing')
    .toCollection()
    .modify((row) => {
      if (typeof row.castAt === 'number') row.castAt = { wall: row.castAt, page: 0, ran: 0 }
    })
  await change
    .table<{ at: number; order?: number }>('entries')
    .toCollection()
    .modify((row) => {
      row.order = row.at
    })
}
