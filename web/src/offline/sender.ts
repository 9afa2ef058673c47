/** Send one thing to the server: how it is signed, when to wait, and what is the angler's to decide. For the log and for play alike. */
import { csrfToken } from '../api/client'
import { ranSince, type Moment } from './moments'
import { shared } from './shared'

/** Why what waits is not on its way: no connection or an unwell server, nobody signed in, or another person. */
export type Held = 'unreached' | 'signed-out' | 'another'
/** What came of it: it is there, it has to wait, or the server will not have it. */
export type Outcome = { sent: true } | { waits: Held; failed?: boolean } | { refused: string }

export interface Letter {
  username: string
  path: string
  method: 'PUT' | 'PATCH' | 'DELETE'
  body: unknown
  /** When it was written, where the server puts its time right by that. */
  written?: Moment
}

const LONGEST_REST_S = 120
/** Less is a watch that is about right, and the way there and back. */
const CLOCK_ERROR_MS = 60_000
/** Too many at once, or not now: it gets better by waiting. */
const LATER = [403, 408, 429]

const clockAhead = shared(0)
/** By how much this device's clock is ahead of the server's, in ms; 0 while it is about right. */
export const useClockAhead = clockAhead.use

/** Until when the server asked to be left alone, by this page's own clock in ms. */
let restUntil = 0
export const resting = () => performance.now() < restUntil

/** Send a letter; where the server asks to be left alone, `again` is called once it may be asked again. */
export async function send(letter: Letter, again: () => void): Promise<Outcome> {
  if (resting()) return { waits: 'unreached' }
  let response: Response
  try {
    response = await fetch(letter.path, {
      method: letter.method,
      credentials: 'same-origin',
      headers: {
        'Content-Type': 'application/json',
        'X-CSRFToken': csrfToken(),
        // Another person may be signed in on this device by now.
        'X-Angler': encodeURIComponent(letter.username),
        ...clocksOf(letter),
      },
      ...(letter.method !== 'DELETE' ? { body: JSON.stringify(letter.body) } : {}),
    })
  } catch {
    return { waits: 'unreached' }
  }
  noteClock(response)
  if (response.ok) return (await isOurs(response, letter)) ? { sent: true } : { waits: 'unreached' }
  const problem = (await response.json().catch(() => null)) as { code?: string; detail?: string } | null
  if (response.status === 401) return { waits: 'signed-out' }
  if (problem?.code === 'another_person') return { waits: 'another' }
  restAsAsked(response, again)
  if (response.status === 500 && problem?.code === 'server') return { waits: 'unreached', failed: true }
  if (LATER.includes(response.status) || response.status >= 500) return { waits: 'unreached' }
  return { refused: problem?.detail ?? `Refused (${response.status}).` }
}

/** Whether it is our server that took it: the page of a portal answers anything with "well", and has stored nothing. */
async function isOurs(response: Response, { path, method }: Letter): Promise<boolean> {
  if (method === 'DELETE') return response.headers.has('X-Request-ID')
  const stored = (await response.json().catch(() => null)) as { id?: unknown } | null
  if (stored === null || typeof stored !== 'object') return false
  // A photo and the preferences have no id of their own.
  if (stored.id === undefined) return response.headers.has('X-Request-ID')
  return typeof stored.id === 'string' && path.includes(stored.id)
}

/** What the device's clocks said as it was written, and say now: the server puts its time right by them. */
function clocksOf({ written }: Letter): Record<string, string> {
  if (!written) return {}
  const ran = ranSince(written)
  return {
    'X-Written-Ms': String(written.wall),
    'X-Now-Ms': String(Date.now()),
    ...(ran !== null && { 'X-Ran-Ms': String(ran) }),
  }
}

/** Wait as long as the server asks, and then go on unasked. */
function restAsAsked(response: Response, again: () => void) {
  const askedS = Number(response.headers.get('Retry-After') ?? 0)
  if (!(askedS > 0)) return
  const restMs = Math.min(askedS, LONGEST_REST_S) * 1000
  restUntil = performance.now() + restMs
  setTimeout(again, restMs + 50)
}

function noteClock(response: Response) {
  const there = Date.parse(response.headers.get('Date') ?? '')
  if (Number.isNaN(there)) return
  const ahead = Date.now() - there
  clockAhead.set(Math.abs(ahead) > CLOCK_ERROR_MS ? Math.round(ahead / 60_000) * 60_000 : 0)
}
