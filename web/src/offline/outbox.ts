/** Send what waits, oldest first. Ids are the device's own, so sending twice stores once. */
import { csrfToken } from '../api/client'
import { store, type Outgoing } from './store'

let sending: Promise<void> | null = null

/** Send all that waits for this person; stops quietly where there is no connection. One sender at a time. */
export function flush(username: string): Promise<void> {
  sending ??= sendAll(username).finally(() => {
    sending = null
  })
  return sending
}

async function sendAll(username: string): Promise<void> {
  for (;;) {
    const next = await store.outbox
      .where('username')
      .equals(username)
      .filter((row) => row.refused === null)
      .first()
    if (!next || !(await send(next))) return
  }
}

/** Send one row; return whether to go on with the next. */
async function send(row: Outgoing): Promise<boolean> {
  let response: Response
  try {
    response = await fetch(row.path, {
      method: row.method,
      credentials: 'same-origin',
      headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
      ...(row.method !== 'DELETE' ? { body: JSON.stringify(row.body) } : {}),
    })
  } catch {
    return false
  }
  if (response.ok) {
    await store.outbox.delete(row.seq)
    return true
  }
  // Signed out, too many, or the server is unwell: wait. Anything else will not get better by waiting.
  if ([401, 403, 408, 429].includes(response.status) || response.status >= 500) return false
  const problem = (await response.json().catch(() => null)) as { detail?: string } | null
  await store.outbox.update(row.seq, { refused: problem?.detail ?? `Refused (${response.status}).` })
  return true
}

export async function queue(row: Omit<Outgoing, 'seq' | 'refused'>): Promise<number> {
  return store.outbox.add({ ...row, refused: null })
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
