/** The device's own Python, of which there is one: started when it is first asked, and asked by whoever needs the core. */
import { wrap, type Remote } from 'comlink'
import { shared } from '../offline/shared'
import type { Call, Python } from './worker'

/** Whether the device thinks: not yet asked, waking up, up, or it cannot. */
const state = shared<'asleep' | 'waking' | 'up' | 'cannot'>('asleep')
export const useThinking = state.use
export const cannotThink = () => state.get() === 'cannot'

interface Running {
  python: Remote<Python>
  /** Never resolves, and rejects once the worker has failed: what it was asked meanwhile is answered so. */
  failed: Promise<never>
  sent: Partial<Record<Call, string>>
}

let running: Running | null = null

/** Start Python, if it is not started. */
function wake(): Running {
  if (running) return running
  state.set('waking')
  const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module', name: 'python' })
  const failed = new Promise<never>((_, reject) => {
    worker.addEventListener('error', () => reject(new Error('the worker did not start')))
  })
  const started: Running = { python: wrap<Python>(worker), failed, sent: {} }
  running = started
  Promise.race([started.python.up(), failed]).then(
    () => state.set('up'),
    (error: unknown) => {
      console.warn('this device cannot think', error)
      worker.terminate()
      running = null
      state.set('cannot')
    },
  )
  return started
}

/** Ask the core, text in and text out; `long` is what stays the same from question to question. Rejects where it cannot. */
export function ask(call: Call, long: string, asked: string): Promise<string> {
  const { python, failed, sent } = wake()
  const fresh = sent[call] === long ? null : long
  sent[call] = long
  return Promise.race([python.ask(call, fresh, asked), failed])
}
