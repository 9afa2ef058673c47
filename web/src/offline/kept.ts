/** What the server last answered, kept on the device: with no connection the page shows it, and says since when it stands. */
import { NoConnection, type Session } from '../api/client'
import { shared } from './shared'
import { waiting } from './practised'
import { store, type Kept } from './store'

/** How many answers of a kind are kept, so that a turned dial pushes out no plan; lists stay as long as the person does. */
const MOST = { list: Infinity, worked: 80, turned: 40 } as const

const standsSince = shared<number | null>(null)

/** When the oldest answer on show was given, in ms since 1970, or null while the server answers. */
export const useStandsSince = standsSince.use

/** Ask, and keep the answer; with no connection give the one that was kept for the same question. */
export function kept<T>(
  question: readonly unknown[],
  ask: () => Promise<T>,
  kind: Kept['kind'] = 'worked',
): Promise<T> {
  const id = JSON.stringify(question)
  return askOrRecall(id, ask, (answer) => keep({ id, kind, at: Date.now(), answer }))
}

async function askOrRecall<T>(
  id: string,
  ask: () => Promise<T>,
  put: (answer: T) => Promise<void>,
): Promise<T> {
  try {
    const answer = await ask()
    standsSince.set(null)
    // A device that cannot keep it shows it all the same.
    void put(answer).catch((error: unknown) => console.warn('not kept on this device', error))
    return answer
  } catch (error) {
    if (!(error instanceof NoConnection)) throw error
    const row = await store.kept.get(id)
    if (!row) throw error
    standsSince.set(Math.min(standsSince.get() ?? row.at, row.at))
    return row.answer as T
  }
}

async function keep(row: Kept): Promise<void> {
  await store.transaction('rw', store.kept, async () => {
    await store.kept.put(row)
    const most = MOST[row.kind]
    const there = await store.kept.where('kind').equals(row.kind).count()
    if (there <= most) return
    const old = await store.kept.where('[kind+at]').between([row.kind, 0], [row.kind, Infinity]).primaryKeys()
    await store.kept.bulkDelete(old.slice(0, there - most))
  })
}

const SESSION = JSON.stringify(['session'])

/** Who is here, as the server says or, with no connection, as it last said. */
export function keptSession(ask: () => Promise<Session>): Promise<Session> {
  return askOrRecall(SESSION, ask, keepSession)
}

/** Keep who is here. Another person finds nothing of the last one's; what waits to be sent stays. */
export async function keepSession(session: Session): Promise<void> {
  await store.transaction('rw', store.kept, store.taken, async () => {
    const before = (await store.kept.get(SESSION))?.answer as Session | undefined
    if (before?.username !== session.username) {
      await store.kept.clear()
      // A practice day of which something is still to be sent waits for its owner.
      await store.taken.filter((row) => row.username !== session.username && waiting(row) === 0).delete()
    }
    await store.kept.put({ id: SESSION, kind: 'list', at: Date.now(), answer: session })
  })
  who.postMessage(session.username)
}

const who = new BroadcastChannel('still-thread:who')

/** Hear in this tab that another has signed in or out, and who is here by now. */
export function hearWho(heard: (username: string | null) => void): () => void {
  const listen = (message: MessageEvent) => heard(message.data as string | null)
  who.addEventListener('message', listen)
  return () => who.removeEventListener('message', listen)
}
