/** Send what was done on practice days that were taken along, act by act: apart from the log, which never waits for play. */
import { send } from './sender'
import { store, written, type Taken } from './store'

let sending: Promise<void> | null = null

/** Send all that waits for this person; stops quietly where there is no connection. One sender at a time. */
export function sendPractised(username: string): Promise<void> {
  sending ??= sendAll(username).finally(() => {
    sending = null
  })
  return sending
}

async function sendAll(username: string): Promise<void> {
  const rows = await store.taken.where('username').equals(username).toArray()
  for (const { dayId } of rows) if (!(await sendDay(dayId))) return
}

/** How much of a day still waits: that it was dealt here, and what was done. */
export const waiting = ({ acts, sent, dealt }: Taken) => acts.length - sent + (dealt ? 0 : 1)

function next({ dayId, pack, acts, sent, dealt, like }: Taken): { path: string; body: unknown } {
  const day = `/api/practice-days/${dayId}`
  const { level, seed } = pack.name
  return dealt
    ? { path: `${day}/acts/${pack.log.length + sent}`, body: acts[sent] }
    : { path: day, body: { level, seed, like } }
}

/** Send a day as far as it was played; false where the rest has to wait. */
async function sendDay(dayId: string): Promise<boolean> {
  for (;;) {
    const row = await store.taken.get(dayId)
    if (!row || row.refused !== null || waiting(row) <= 0) return true
    const letter = { username: row.username, method: 'PUT' as const, ...next(row) }
    const outcome = await send(letter, () => void sendPractised(row.username))
    if ('waits' in outcome) return false
    const done = 'refused' in outcome ? outcome : row.dealt ? { sent: row.sent + 1 } : { dealt: true }
    await written(() => store.taken.update(dayId, done))
  }
}
