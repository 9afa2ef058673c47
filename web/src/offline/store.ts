/** What the device keeps until the server has it: the session being fished, its entries, and what is still to send. */
import Dexie, { liveQuery, type DexieOptions, type EntityTable } from 'dexie'
import { useEffect, useState } from 'react'
import type { Action, Conditions, Drawn, Picture, Ranked, Schemas } from '../api/client'
import type { EntryKey } from '../format/kinds'
import { shared } from './shared'
import type { Moment } from './moments'
import {
  askedByContract,
  castByTwoClocks,
  inSpace,
  oneAction,
  readAsGiven,
  speedsInMps,
  wasACast,
} from './upgrades'

export type CastPhase = NonNullable<Schemas['EntryIn']['phase']>
export type TheirPace = NonNullable<Schemas['EntryIn']['pace']>
export type Kind = Schemas['EntryIn']['kind']

/** What is being fished, and how: enough to say it, time it and go on from it with no connection. */
export interface Doing {
  action: Action
  line: { name: string }
  fly_names: string[]
  ladder: Ranked['ladder']
}

export interface Fishing {
  key: 'now'
  username: string
  dayId: string
  presentationId: string
  conditions: Conditions
  doing: Doing
  run: Drawn
  /** What is tied on; an earlier build kept none. */
  rig?: Schemas['RigIn']
  /** Its run is drawn from that of another: there was no connection to run it. */
  rough?: boolean
  /** The water as read when it was begun: what the Column draws when there is no connection. */
  picture: Picture | null
  /** When the fly landed, or null between casts. */
  castAt: Moment | null
  /** A fish on the bank whose length is still to be said. */
  landing: { at: number; elapsedS: number | null; playedS?: number | null } | null
  /** A fish that is held until it swims off, since when. */
  holding?: { at: number } | null
  /** Where the next cast goes, if not where the fan says. */
  spot?: Spot | null
}

/** Where a cast goes: -2 hard left to 2 hard right, and whether far. */
export interface Spot {
  toward: number
  far: boolean
}

export interface LoggedEntry {
  id: string
  dayId: string
  presentationId: string
  kind: Kind
  at: number
  /** Its place in the day, as `at` but never going back: the clock may be set. */
  order: number
  elapsedS: number | null
  lengthM: number | null
  undone: 0 | 1
  /** How deep, of what was seen or told. */
  depthM?: number | null
  /** Which fly it came to, the point 0; null where the angler does not know, undefined where he was not asked. */
  fly?: number | null
  /** When in the cast. */
  phase?: CastPhase | null
  flyClass?: number | null
  colour?: string
  hookSize?: number | null
  pace?: TheirPace | null
  kept?: boolean | null
  spot?: Spot | null
  /** Logged on another device of the same person. */
  elsewhere?: 1
}

/** What was fished on a day, for the search: its run and what was tied on. */
export interface Fished {
  id: string
  dayId: string
  at: number
  /** Of the search table, where it is one of its presentations. */
  key: string | null
  line: string
  action: Action
  /** Of what the search proposed beside its table. */
  method?: string
  share?: number
  run: Pick<Drawn, 'time_s'> & { flies: Pick<Drawn['flies'][number], 'name' | 'depth_m'>[] }
}

/** What the search of a day thinks with, and what the angler has told it. */
export interface Search {
  dayId: string
  begunAt: number
  table: Schemas['SearchOut']['table']
  fish: Schemas['SearchOut']['fish']
  /** The flies of the box; a table of an earlier build has none. */
  tie?: Schemas['SearchOut']['tie']
  refused: { key: string; why: string }[]
  school: NonNullable<Schemas['SearchLogIn']['school']>
  /** What an earlier build kept here of what was seen and told: now it stands in the log. */
  heard: { kind: EntryKey; depthM: number | null; at: number }[]
  /** What was asked for the table, so that it can be asked again for water that changed. */
  asked?: Schemas['ChoicesIn'] | null
  /** When the water changed, and what its new reading says, where the server could be asked. */
  changes?: {
    at: number
    what: string
    stated: number[] | null
    /** Of which depths, and how many fish a minute are expected now; an earlier build kept neither. */
    centresM?: number[] | undefined
    ratePmin?: number | null | undefined
    wanted: number[] | null
    /** Why the server would not read it. */
    refused?: string
  }[]
  /** The angler's own clock: minutes without anything before he changes. */
  mostMin?: number | null
  rods?: 1 | 2
  /** When the table was last asked for anew. */
  tableAt?: number
}

/** What was done on a practice day so far, and what came. */
export type Played = Omit<
  Schemas['PracticeDayOut'],
  keyof Schemas['PracticeNameOut'] | keyof Schemas['SeenOut']
>

/** A practice day that was taken along: what may become of it, and what did. */
export interface Taken {
  dayId: string
  username: string
  pack: Schemas['PackOut']
  log: Schemas['PackOut']['log']
  /** Which of the pack's plans stands by now. */
  plan: number
  played: Played
  takenAt: number
  /** The day on whose water this one was dealt here, and whether the server has heard of it. */
  like: string | null
  dealt: boolean
  /** What was done here since it was taken along, and how much of it the server has. */
  acts: Schemas['ReadIn' | 'MoveIn' | 'ShootIn' | 'EndIn'][]
  sent: number
  /** Why the server will not have it. */
  refused: string | null
  /** Casts beyond those of the pack, asked of the server once. */
  shots: { rig: Schemas['RigIn']; action: Schemas['ShotIn']['action']; shot: Schemas['ShotOut'] }[]
}

export interface Outgoing {
  seq: number
  username: string
  path: string
  method: 'PUT' | 'PATCH' | 'DELETE'
  body: unknown
  /** When it was written; an earlier build kept none. */
  written?: Moment
  /** Why the server will not take it; kept for the angler to see. */
  refused: string | null
  /** How often the server failed at it. */
  failed?: number
}

/** An answer of the server, by its question. */
export interface Kept {
  id: string
  /** A list, an answer worked out, or one of the many that a dial passes through. */
  kind: 'list' | 'worked' | 'turned'
  at: number
  answer: unknown
}

type Store = Dexie & {
  fishing: EntityTable<Fishing, 'key'>
  entries: EntityTable<LoggedEntry, 'id'>
  outbox: EntityTable<Outgoing, 'seq'>
  kept: EntityTable<Kept, 'id'>
  fished: EntityTable<Fished, 'id'>
  searches: EntityTable<Search, 'dayId'>
  taken: EntityTable<Taken, 'dayId'>
}

function newStore(options?: DexieOptions): Store {
  const made = new Dexie('still-thread', options) as Store
  made.version(1).stores({ fishing: 'key', entries: 'id, dayId', outbox: '++seq, username' })
  made.version(2).stores({ kept: 'id, kind, [kind+at]' }).upgrade(wasACast)
  made.version(3).stores({}).upgrade(oneAction)
  made.version(4).stores({}).upgrade(askedByContract)
  made.version(5).stores({}).upgrade(castByTwoClocks)
  made.version(6).stores({ fished: 'id, dayId', searches: 'dayId' })
  made.version(7).stores({}).upgrade(readAsGiven)
  made.version(8).stores({}).upgrade(inSpace)
  made.version(9).stores({ taken: 'dayId, username' })
  made.version(10).stores({}).upgrade(speedsInMps)
  return made
}

/** Where what is logged waits: on the device, or, where the device keeps nothing, in this page as long as it is open. */
export let store = newStore()
const place = shared<'device' | 'page'>('device')
export const useKeeping = place.use

/** Open the device's store, or where the browser denies it one in the page. To be awaited before anything is asked of it. */
export async function openStore(): Promise<void> {
  try {
    await store.open()
  } catch (error) {
    console.warn('this device keeps nothing', error)
    await keepInPage()
  }
}

/** Write to the store. Where the device has no room the kept answers make way, and then the page itself keeps what is logged. */
export async function written<T>(write: () => Promise<T>): Promise<T> {
  try {
    return await write()
  } catch (error) {
    if (place.get() === 'page' || !(error instanceof Dexie.DexieError || error instanceof DOMException))
      throw error
    console.warn('no room on this device', error)
  }
  try {
    await store.kept.clear()
    return await write()
  } catch {
    await keepInPage()
    return write()
  }
}

async function keepInPage(): Promise<void> {
  const { indexedDB, IDBKeyRange } = await import('fake-indexeddb')
  const before = store
  const held = newStore({ indexedDB, IDBKeyRange })
  await held.open()
  // What can still be read goes on from where it is.
  for (const table of ['fishing', 'entries', 'outbox', 'fished', 'searches', 'taken'] as const) {
    const rows = await (before[table] as Dexie.Table<unknown>).toArray().catch(() => [])
    await (held[table] as Dexie.Table<unknown>).bulkPut(rows)
  }
  store = held
  place.set('page')
  askBeforeLeaving()
}

/** What waits in the page alone goes with it. */
function askBeforeLeaving() {
  let waiting = 0
  liveQuery(() => store.outbox.count()).subscribe((count) => (waiting = count))
  window.addEventListener('beforeunload', (event) => {
    if (waiting > 0) event.preventDefault()
  })
}

/** Follow a question to the device's store; undefined until first answered. */
export function useLive<T>(question: () => Promise<T>, asked: string): T | undefined {
  const key = `${useKeeping()}:${asked}`
  const [held, setHeld] = useState<{ key: string; value: T } | undefined>()
  useEffect(() => {
    const subscription = liveQuery(question).subscribe({
      next: (value) => setHeld({ key, value }),
      error: (error: unknown) => console.error(error),
    })
    return () => subscription.unsubscribe()
    // The question is a new function each time; `key` says when it really changes.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key])
  return held?.key === key ? held.value : undefined
}
