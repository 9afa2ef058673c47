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
import { flush, queue } from '../../offline/outbox'
import { askToKeep } from '../../offline/room'
import { store, written, type Doing, type Fishing, type Kind, type LoggedEntry } from '../../offline/store'

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
  /** Of the search table, where it is one of its presentations. */
  key?: string | null
}

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
  const dayId = sameDay ? before.dayId : crypto.randomUUID()
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
    doing: start.doing,
    picture: start.picture,
    castAt: null,
    landing: null,
  }
  await written(() =>
    store.transaction('rw', store.fishing, store.fished, store.searches, async () => {
      await store.fishing.put(fishing)
      await store.fished.put({
        id: presentationId,
        dayId,
        at: now.getTime(),
        key: start.key ?? null,
        line: start.doing.line.name,
        action: start.action,
        run: start.run,
      })
      const there = await store.searches.get(dayId)
      if (start.search && !there)
        await store.searches.put({
          dayId,
          begunAt: now.getTime(),
          ...start.search,
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

/** Log what happened, once: on the device at once, and with it what is so `after`; on the server when it can be reached. */
export async function log(
  fishing: Fishing,
  kind: Kind,
  at: number,
  elapsedS: number | null,
  after: Partial<Pick<Fishing, 'castAt' | 'landing'>>,
  fish: { species: string; lengthM: number | null } | null = null,
) {
  const { username } = fishing
  const entry: LoggedEntry = {
    id: crypto.randomUUID(),
    dayId: fishing.dayId,
    presentationId: fishing.presentationId,
    kind,
    at,
    order: at,
    elapsedS,
    lengthM: fish?.lengthM ?? null,
    undone: 0,
  }
  const body: Schemas['EntryIn'] = {
    presentation_id: fishing.presentationId,
    kind,
    at: new Date(at).toISOString(),
    cast_elapsed_s: elapsedS,
    species: fish?.species ?? '',
    length_m: fish?.lengthM ?? null,
  }
  await written(() =>
    store.transaction('rw', store.entries, store.outbox, store.fishing, async () => {
      const last = (await entriesOf(entry.dayId)).at(-1)
      if (last) entry.order = Math.max(at, last.order + 1)
      await store.entries.add(entry)
      await store.fishing.update('now', after)
      await queue({ username, method: 'PUT', path: `/api/days/${fishing.dayId}/entries/${entry.id}`, body })
    }),
  )
  void flush(username)
}

/** Take the last entry back; the cast it ended goes on. */
export async function undoLast(fishing: Fishing): Promise<void> {
  const { username } = fishing
  await written(() =>
    store.transaction('rw', store.entries, store.outbox, store.fishing, async () => {
      const entries = await store.entries.where('dayId').equals(fishing.dayId).sortBy('at')
      const last = entries.filter((e) => !e.undone).at(-1)
      if (!last) return
      await store.entries.update(last.id, { undone: 1 })
      await queue({
        username,
        method: 'DELETE',
        path: `/api/days/${fishing.dayId}/entries/${last.id}`,
        body: null,
      })
      if (last.kind === 'cast') await store.fishing.update('now', { castAt: null })
      else if (last.elapsedS !== null)
        await store.fishing.update('now', {
          castAt: { wall: last.at - last.elapsedS * 1000, page: 0, ran: 0 },
        })
    }),
  )
  void flush(username)
}
