/** What the device keeps until the server has it: the session being fished, its entries, and what is still to send. */
import Dexie, { liveQuery, type EntityTable } from 'dexie'
import { useEffect, useState } from 'react'
import type { Conditions, Schemas, Simulation } from '../api/client'

export type Kind = Schemas['EntryIn']['kind']

export interface Fishing {
  key: 'now'
  username: string
  dayId: string
  presentationId: string
  conditions: Conditions
  simulation: Simulation
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
  method: 'PUT' | 'DELETE'
  body: unknown
  /** Why the server will not take it; kept for the angler to see. */
  refused: string | null
}

export const store = new Dexie('still-thread') as Dexie & {
  fishing: EntityTable<Fishing, 'key'>
  entries: EntityTable<LoggedEntry, 'id'>
  outbox: EntityTable<Outgoing, 'seq'>
}
store.version(1).stores({ fishing: 'key', entries: 'id, dayId', outbox: '++seq, username' })

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
