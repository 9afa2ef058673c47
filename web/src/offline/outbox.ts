/** Send what waits of the log, oldest first. Ids are the device's own, so sending twice stores once. */
import { moment } from './moments'
import { resting, send, type Held } from './sender'
import { shared } from './shared'
import { store, type Outgoing } from './store'

const FAILS = 5

let sending: Promise<void> | null = null
const held = shared<Held | null>(null)
export const useHeld = held.use

/** Send all that waits for this person; stops quietly where there is no connection. One sender at a time. */
export function flush(username: string): Promise<void> {
  sending ??= sendAll(username).finally(() => {
    sending = null
  })
  return sending
}

async function sendAll(username: string): Promise<void> {
  for (;;) {
    if (resting()) return
    const next = await store.outbox
      .where('username')
      .equals(username)
      .filter((row) => row.refused === null)
      .first()
    if (!next) {
      held.set(null)
      return
    }
    const outcome = await send(next, () => void flush(username))
    if ('waits' in outcome) {
      const failed = (next.failed ?? 0) + (outcome.failed ? 1 : 0)
      // What the server fails at again and again keeps the rest waiting no longer.
      const refused = failed >= FAILS ? `The server failed at this ${FAILS} times. Tell its keeper.` : null
      if (outcome.failed) await store.outbox.update(next.seq, { failed, refused })
      if (refused) continue
      held.set(outcome.waits)
      return
    }
    if ('sent' in outcome) await store.outbox.delete(next.seq)
    else await store.outbox.update(next.seq, { refused: outcome.refused })
  }
}

/** Try once more what was refused. */
export async function tryAgain(row: Outgoing): Promise<void> {
  await store.outbox.update(row.seq, { refused: null, failed: 0 })
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
