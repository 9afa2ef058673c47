/** What the Fish step writes: first to the device, then to the server. */
import {
  Refusal,
  type Action,
  type Conditions,
  type Drawn,
  type Picture,
  type Schemas,
} from '../../api/client'
import { dateAt, instantOf } from '../../format/clock'
import { isSo } from '../../format/kinds'
import type { Moment } from '../../offline/moments'
import { flush, queue } from '../../offline/outbox'
import { askToKeep } from '../../offline/room'
import {
  store,
  written,
  type CastPhase,
  type Doing,
  type Fishing,
  type Kind,
  type LoggedEntry,
  type Spot,
  type TheirPace,
} from '../../offline/store'
import { v5 as uuid } from 'uuid'

export interface Start {
  username: string
  conditions: Conditions
  /** Of the water. */
  timeZone: string
  /** What the Column draws and the clock follows. */
  run: Drawn
  doing: Doing
  picture: Picture | null
  rig: Schemas['RigIn']
  action: Action
  longLeaderOk: boolean
  /** What goes to the water with the plan, where it came; a day that goes on keeps its own. */
  search?: Schemas['SearchOut'] | null
  /** What it was asked for. */
  asked?: Schemas['ChoicesIn'] | null
  /** Of the search table, where it is one of its presentations. */
  key?: string | null
  /** How the search thinks of it, where it is not of its table. */
  beside?: { method: string; share: number }
  /** Its run is drawn from that of another. */
  rough?: boolean
  /** What the plan promised of it, where it is the plan's. */
  advice?: Schemas['AdviceIn'] | null
}

/** The name space of days. */
const DAYS = '5b0b6c34-8a3e-4f0a-9d86-2c7d1f0e9a11'

/** Begin to fish a presentation. Goes on with today's day at the same water, or begins one. */
export async function startFishing(start: Start): Promise<void> {
  const { username } = start
  const before = await store.fishing.get('now')
  const now = new Date()
  // A day is a water and a date there. `at_local` of what is being fished is an instant, so it says which.
  const today = dateAt(start.timeZone, now)
  const sameDay =
    before?.username === username &&
    before.conditions.water_id === start.conditions.water_id &&
    dateAt(start.timeZone, new Date(before.conditions.at_local)) === today
  // Two devices of one person on one day say the same, whether they can ask or not.
  const dayId = sameDay ? before.dayId : uuid(`${username} ${start.conditions.water_id} ${today}`, DAYS)
  const presentationId = crypto.randomUUID()
  const conditions = asOfNow(start, now)
  if (!sameDay) void askToKeep()
  const begun = { username, method: 'PUT', path: `/api/days/${dayId}`, body: conditions } as const
  const fished = {
    username,
    method: 'PUT',
    path: `${begun.path}/presentations/${presentationId}`,
    body: {
      rig: start.rig,
      action: start.action,
      conditions,
      started_at: now.toISOString(),
      long_leader_ok: start.longLeaderOk,
      ...(start.advice ? { advice: start.advice } : {}),
    },
  } as const
  const rows = await written(() =>
    store.transaction('rw', store.outbox, async () => {
      const first = sameDay ? [] : [await queue(begun)]
      return [...first, await queue(fished)]
    }),
  )
  await flush(username)
  const refused = (await store.outbox.bulkGet(rows)).find((row) => row?.refused)
  if (refused) {
    await store.outbox.bulkDelete(rows)
    throw new Refusal(422, 'refused', refused.refused ?? 'Refused.', {})
  }
  const fishing: Fishing = {
    key: 'now',
    username,
    dayId,
    presentationId,
    conditions,
    run: start.run,
    rig: start.rig,
    rough: start.rough ?? false,
    doing: start.doing,
    picture: start.picture,
    castAt: null,
    landing: null,
  }
  await written(() =>
    store.transaction('rw', store.fishing, store.fished, async () => {
      await store.fishing.put(fishing)
      await store.fished.put({
        id: presentationId,
        dayId,
        at: now.getTime(),
        key: start.key ?? null,
        line: start.doing.line.name,
        action: start.action,
        run: start.run,
        ...start.beside,
      })
    }),
  )
  if (start.search && start.asked) await handOver(start.search, start.asked)
}

/** Give what is being fished the table that the search thinks with; a day that has one keeps its own. */
export async function handOver(search: Schemas['SearchOut'], asked: Schemas['ChoicesIn']): Promise<void> {
  await written(() =>
    store.transaction('rw', store.fishing, store.fished, store.searches, async () => {
      const dayId = (await store.fishing.get('now'))?.dayId
      if (dayId === undefined || (await store.searches.get(dayId))) return
      const [first] = await store.fished.where('dayId').equals(dayId).sortBy('at')
      await store.searches.put({
        dayId,
        begunAt: first?.at ?? Date.now(),
        ...search,
        asked,
        refused: [],
        school: 'best',
        heard: [],
      })
    }),
  )
}

/** The conditions as they stand now, their readings as of when they were taken, if that was today. */
function asOfNow({ conditions, timeZone }: Start, now: Date): Conditions {
  const readAt = conditions.read_at_local ?? conditions.at_local
  // Clock time there, or the instant at which an earlier presentation of the day was begun.
  const at = /(Z|[+-]\d\d:\d\d)$/.test(readAt) ? new Date(readAt).getTime() : instantOf(timeZone, readAt)
  const today = dateAt(timeZone, new Date(at)) === dateAt(timeZone, now) && at <= now.getTime()
  return { ...conditions, at_local: now.toISOString(), read_at_local: today ? readAt : null }
}

/** What the device has of a day, in order. */
export const entriesOf = (dayId: string) => store.entries.where('dayId').equals(dayId).sortBy('order')

/** What is said of a fish, of where a cast went, or of what was seen. */
export interface Said {
  species?: string
  lengthM?: number | null
  weightKg?: number | null
  kept?: boolean | null
  playedS?: number | null
  /** Of the fish, in base64. */
  image?: string | null
  spot?: Spot | null
  depthM?: number | null
  /** Which fly it came to, and when in the cast. */
  fly?: number | null
  phase?: CastPhase | null
  /** Of another's fly. */
  flyClass?: number | null
  colour?: string
  hookSize?: number | null
  pace?: TheirPace | null
}

/** Log what happened, once: on the device at once, and with it what is so `after`; on the server when it can be reached. */
export async function log(
  fishing: Fishing,
  kind: Kind,
  at: number,
  elapsedS: number | null,
  after: Partial<Pick<Fishing, 'castAt' | 'landing' | 'holding' | 'spot'>>,
  said: Said = {},
): Promise<void> {
  const { username } = fishing
  const entry: LoggedEntry = {
    id: crypto.randomUUID(),
    dayId: fishing.dayId,
    presentationId: fishing.presentationId,
    kind,
    at,
    order: at,
    elapsedS,
    lengthM: said.lengthM ?? null,
    undone: 0,
    depthM: said.depthM ?? null,
    ...(said.fly === undefined ? {} : { fly: said.fly }),
    phase: said.phase ?? null,
    flyClass: said.flyClass ?? null,
    colour: said.colour ?? '',
    hookSize: said.hookSize ?? null,
    pace: said.pace ?? null,
    kept: said.kept ?? null,
    spot: said.spot ?? null,
  }
  const body: Schemas['EntryIn'] = {
    presentation_id: fishing.presentationId,
    kind,
    at: new Date(at).toISOString(),
    cast_elapsed_s: elapsedS,
    species: said.species ?? '',
    length_m: said.lengthM ?? null,
    weight_kg: said.weightKg ?? null,
    kept: said.kept ?? null,
    played_s: said.playedS ?? null,
    toward: said.spot?.toward ?? null,
    far: said.spot?.far ?? null,
    depth_m: said.depthM ?? null,
    fly: said.fly ?? null,
    phase: said.phase ?? null,
    fly_class: said.flyClass ?? null,
    colour: said.colour ?? '',
    hook_size: said.hookSize ?? null,
    pace: said.pace ?? null,
  }
  await written(() =>
    store.transaction('rw', store.entries, store.outbox, store.fishing, async () => {
      const last = (await entriesOf(entry.dayId)).at(-1)
      if (last) entry.order = Math.max(at, last.order + 1)
      await store.entries.add(entry)
      await store.fishing.update('now', after)
      const path = `/api/days/${fishing.dayId}/entries/${entry.id}`
      await queue({ username, method: 'PUT', path, body })
      if (said.image)
        await queue({ username, method: 'PUT', path: `${path}/photo`, body: { image: said.image } })
    }),
  )
  void flush(username)
}

/** Say afterwards which fly it came to, or when in the cast. */
export async function tell(
  fishing: Fishing,
  entry: LoggedEntry,
  said: { fly?: number | null; phase?: CastPhase },
): Promise<void> {
  const { username, dayId } = fishing
  await written(() =>
    store.transaction('rw', store.entries, store.outbox, async () => {
      await store.entries.update(entry.id, said)
      const path = `/api/days/${dayId}/entries/${entry.id}`
      await queue({ username, method: 'PATCH', path, body: said })
    }),
  )
  void flush(username)
}

/** When the cast landed that is still in the water after these; null where one came to an end. */
export function castOpenIn(live: readonly LoggedEntry[]): Moment | null {
  const last = live.findLast((e) => e.kind === 'cast' || isSo(e.kind, 'endsCast'))
  return last?.kind === 'cast' ? { wall: last.at, page: 0, ran: 0 } : null
}

/** Take the last entry back; the cast it ended goes on. */
export async function undoLast(fishing: Fishing): Promise<void> {
  const { username } = fishing
  await written(() =>
    store.transaction('rw', store.entries, store.outbox, store.fishing, async () => {
      const entries = await entriesOf(fishing.dayId)
      const last = entries.filter((e) => !e.undone).at(-1)
      if (!last) return
      await store.entries.update(last.id, { undone: 1 })
      await queue({
        username,
        method: 'DELETE',
        path: `/api/days/${fishing.dayId}/entries/${last.id}`,
        body: null,
      })
      if (!isSo(last.kind, 'ofCast')) return
      const here = entries.filter(
        (e) => !e.undone && e !== last && e.presentationId === fishing.presentationId,
      )
      const open = castOpenIn(here)
      const now = await store.fishing.get('now')
      // The clock of a cast that goes on is better than when it was logged.
      if (!open || !now?.castAt) await store.fishing.update('now', { castAt: open })
    }),
  )
  void flush(username)
}
