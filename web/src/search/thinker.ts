/** Ask the device what the log so far means: one question at a time, and of those that came meanwhile only the newest. */
import type { Schemas } from '../api/client'
import { ask, cannotThink } from '../python/client'
import type { Fished, LoggedEntry, Search } from '../offline/store'
import { logOf, type DayLogged } from './log'

export type Moves = Schemas['MovesOut']
export type OwnChange = Schemas['OwnChangeOut']

interface Asked {
  table: string
  log: string
  answer(moves: Moves | null): void
}

let busy = false
let next: Asked | null = null

/** What the log so far means; null where a newer question took its place, or this device cannot think. */
export function think(table: string, log: DayLogged): Promise<Moves | null> {
  return new Promise((answer) => {
    next?.answer(null)
    next = { table, log: JSON.stringify(log), answer }
    if (!busy) void askNext()
  })
}

async function askNext(): Promise<void> {
  busy = true
  while (next) {
    const { table, log, answer } = next
    next = null
    if (cannotThink()) {
      answer(null)
      continue
    }
    try {
      answer(JSON.parse(await ask('think', table, log)) as Moves)
    } catch (error) {
      console.error('search', error)
      answer(null)
    }
  }
  busy = false
}

/** What may be changed by hand from what is tied on; null where this device cannot think. */
export async function ownChanges(
  search: Search,
  fished: readonly Fished[],
  entries: readonly LoggedEntry[],
  tied: string,
): Promise<readonly OwnChange[] | null> {
  if (cannotThink()) return null
  const logged = logOf(search, fished, entries, Date.now(), tied)
  try {
    const told = await ask('own', JSON.stringify(search.table), JSON.stringify(logged))
    return (JSON.parse(told) as Schemas['OwnChangesOut']).changes
  } catch (error) {
    console.error('search', error)
    return null
  }
}

/** What would be proposed after so many casts without anything, and how it would be fished from there. */
export interface RungAhead {
  casts: number
  minutes: number
  changes: 'way' | 'place'
  words: Schemas['PhraseOut']
  presentation: object
}

/** The rung after these; null where nothing more would be changed, or this device cannot think. */
export async function nextRung(
  table: string,
  log: DayLogged,
  rungs: readonly RungAhead[],
): Promise<RungAhead | null> {
  if (cannotThink()) return null
  try {
    return JSON.parse(await ask('ahead', table, JSON.stringify({ log, rungs }))) as RungAhead | null
  } catch (error) {
    console.error('search', error)
    return null
  }
}
