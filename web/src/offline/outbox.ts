/** Send what waits, oldest first. Ids are the device's own, so sending twice stores once. */
import { csrfToken } from '../api/client'
import { shared } from './shared'
import { moment, ranSince } from './moments'
import { store, type Outgoing } from './store'

/** Why what waits is not on its way: no connection or an unwell server, nobody signed in, or another person. */
export type Held = 'unreached' | 'signed-out' | 'another'

let sending: Promise<void> | null = null
const held = shared<Held | null>(null)
export const useHeld = held.use

const LONGEST_REST_S = 120
/** Less is a watch that is about right, and the way there and back. */
const CLOCK_ERROR_MS = 60_000
const clockAhead = shared(0)

/** By how much this device's clock is ahead of the server's, in ms; 0 while it is about right. */
export const useClockAhead = clockAhead.use

/** Send all that waits for this person; stops quietly where there is no connection. One sender at a time. */
export function flush(username: string): Promise<void> {
  sending ??= sendAll(username).finally(() => {
    sending = null
  })
  return sending
}

/** Until when the server asked to be left alone, by this page's own clock in ms. */
let restUntil = 0

async function sendAll(username: string): Promise<void> {
  for (;;) {
    if (performance.now() < restUntil) return
    const next = await store.outbox
      .where('username')
      .equals(username)
      .filter((row) => row.refused === null)
      .first()
    if (!next) {
      held.set(null)
      return
    }
    const why = await send(next)
    if (why !== null) {
      held.set(why)
      return
    }
  }
}

/** Send one row; return why it has to wait, or null to go on with the next. */
async function send(row: Outgoing): Promise<Held | null> {
  let response: Response
  try {
    response = await fetch(row.path, {
      method: row.method,
      credentials: 'same-origin',
      headers: {
        'Content-Type': 'application/json',
        'X-CSRFToken': csrfToken(),
        // Another person may be signed in on this device by now.
        'X-Angler': encodeURIComponent(row.username),
        ...clocksOf(row),
      },
      ...(row.method !== 'DELETE' ? { body: JSON.stringify(row.body) } : {}),
    })
  } catch {
    return 'unreached'
  }
  noteClock(response)
  if (response.ok) {
    await store.outbox.delete(row.seq)
    return null
  }
  const problem = (await response.json().catch(() => null)) as { code?: string; detail?: string } | null
  if (response.status === 401) return 'signed-out'
  if (problem?.code === 'another_person') return 'another'
  restAsAsked(response, row.username)
  // Too many, or the server is unwell: wait. Anything else does not get better by waiting, and is the angler's to decide.
  if ([403, 408, 429].includes(response.status) || response.status >= 500) return 'unreached'
  await store.outbox.update(row.seq, { refused: problem?.detail ?? `Refused (${response.status}).` })
  return null
}

/** What the device's clocks said as it was written, and say now: the server puts its time right by them. */
function clocksOf({ written }: Outgoing): Record<string, string> {
  if (!written) return {}
  const ran = ranSince(written)
  return {
    'X-Written-Ms': String(written.wall),
    'X-Now-Ms': String(Date.now()),
    ...(ran !== null && { 'X-Ran-Ms': String(ran) }),
  }
}

/** Wait as long as the server asks, and then go on unasked. */
function restAsAsked(response: Response, username: string) {
  const askedS = Number(response.headers.get('Retry-After') ?? 0)
  if (!(askedS > 0)) return
  const restMs = Math.min(askedS, LONGEST_REST_S) * 1000
  restUntil = performance.now() + restMs
  setTimeout(() => void flush(username), restMs + 50)
}

function noteClock(response: Response) {
  const there = Date.parse(response.headers.get('Date') ?? '')
  if (Number.isNaN(there)) return
  const ahead = Date.now() - there
  clockAhead.set(Math.abs(ahead) > CLOCK_ERROR_MS ? Math.round(ahead / 60_000) * 60_000 : 0)
}

/** Try once more what was refused. */
export async function tryAgain(row: Outgoing): Promise<void> {
  await store.outbox.update(row.seq, { refused: null })
  await flush(row.username)
}

export async function queue(row: Omit<Outgoing, 'seq' | 'refused' | 'written'>): Promise<number> {
  return store.outbox.add({ ...row, refused: null, written: moment() })
}

/** What of one thing still waits to be changed, the newest last, laid over what the server says of it. */
export async function withWaiting<T extends object>(username: string, path: string, told: T): Promise<T> {
  const waiting = await store.outbox
    .where('username')
    .equals(username)
    .filter((row) => row.path === path && row.method === 'PATCH' && row.refused === null)
    .sortBy('seq')
  return waiting.reduce<T>((now, row) => ({ ...now, ...(row.body as Partial<T>) }), told)
}
