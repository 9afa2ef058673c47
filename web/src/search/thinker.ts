/** Ask the worker: one question at a time, and of those that came meanwhile only the newest. */
import type { Schemas } from '../api/client'
import { shared } from '../offline/shared'
import type { DayLogged } from './log'
import type { Question, Reply } from './worker'

export type Moves = Schemas['MovesOut']

/** Whether the device thinks: not yet asked, waking up, up, or it cannot. */
const state = shared<'asleep' | 'waking' | 'up' | 'cannot'>('asleep')
export const useThinking = state.use

interface Asked {
  table: string
  log: string
  answer(moves: Moves | null): void
}

let worker: Worker | null = null
let sentTable: string | null = null
let running: (Asked & { id: number }) | null = null
let next: Asked | null = null
let ids = 0

/** Start Python on the device, if it is not started. */
export function wake() {
  if (state.get() !== 'asleep') return
  state.set('waking')
  worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'search' })
  worker.addEventListener('message', ({ data }: MessageEvent<Reply>) => hear(data))
  worker.addEventListener('error', () => fail('the worker did not start'))
}

/** What the log so far means; null where a newer question took its place, or this device cannot think. */
export function think(table: string, log: DayLogged): Promise<Moves | null> {
  wake()
  if (state.get() === 'cannot') return Promise.resolve(null)
  return new Promise((answer) => {
    next?.answer(null)
    next = { table, log: JSON.stringify(log), answer }
    if (!running) ask()
  })
}

function ask() {
  if (!next || !worker) return
  running = { ...next, id: ++ids }
  next = null
  const question: Question = { id: running.id, call: 'think', asked: running.log }
  if (running.table !== sentTable) question.given = running.table
  sentTable = running.table
  worker.postMessage(question)
}

function hear(told: Reply) {
  if ('up' in told) {
    state.set('up')
    return
  }
  if ('failed' in told) {
    console.error('search', told.failed)
    if (told.id === 0) {
      fail(told.failed)
      return
    }
  }
  if (running?.id !== told.id) return
  running.answer('answer' in told ? (JSON.parse(told.answer) as Moves) : null)
  running = null
  ask()
}

function fail(why: string) {
  console.warn('this device cannot think', why)
  state.set('cannot')
  running?.answer(null)
  next?.answer(null)
  running = next = null
}
