/** Ask the device what the log so far means: one question at a time, and of those that came meanwhile only the newest. */
import type { Schemas } from '../api/client'
import { ask, cannotThink } from '../python/client'
import type { DayLogged } from './log'

export type Moves = Schemas['MovesOut']

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
