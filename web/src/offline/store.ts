/** What the device keeps until the server has it: the session being fished, its entries, and what is still to send. */
import Dexie, { liveQuery, type EntityTable } from 'dexie'
import { useEffect, useState } from 'react'
import type { Action, Conditions, Drawn, Picture, Ranked, Schemas } from '../api/client'
import { askedByContract, oneAction, wasACast } from './upgrades'

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
  /** The water as read when it was begun: what the Column draws when there is no connection. */
  picture: Picture | null
  /** When the fly landed, in ms since 1970, or null between casts. */
  castAt: number | null
  /** A fish on the bank whose length is still to be said. */
  landing: { at: number; elapsedS: number | null } | null
}

export interface LoggedEntry {
  id: string
  dayId: string
  presentationId: string
  kind: Kind
  at: number
  elapsedS: number | null
  lengthM: number | null
  undone: 0 | 1
}

export interface Outgoing {
  seq: number
  username: string
  path: string
  method: 'PUT' | 'PATCH' | 'DELETE'
  body: unknown
  /** Why the server will not take it; kept for the angler to see. */
  refused: string | null
}

/** An answer of the server, by its question. */
export interface Kept {
  id: string
  /** A list, an answer worked out, or one of the many that a dial passes through. */
  kind: 'list' | 'worked' | 'turned'
  at: number
  answer: unknown
}

export const store = new Dexie('still-thread') as Dexie & {
  fishing: EntityTable<Fishing, 'key'>
  entries: EntityTable<LoggedEntry, 'id'>
  outbox: EntityTable<Outgoing, 'seq'>
  kept: EntityTable<Kept, 'id'>
}
store.version(1).stores({ fishing: 'key', entries: 'id, dayId', outbox: '++seq, username' })
store.version(2).stores({ kept: 'id, kind, [kind+at]' }).upgrade(wasACast)
store.version(3).stores({}).upgrade(oneAction)
store.version(4).stores({}).upgrade(askedByContract)

/** Follow a question to the device's store; undefined until first answered. */
export function useLive<T>(question: () => Promise<T>, key: string): T | undefined {
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
