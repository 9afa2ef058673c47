/** What another device of the same person logged on this day: it is the same day, and the thinking counts it. */
import { useEffect } from 'react'
import { answer, client, everyPage, NoConnection, Refusal } from '../api/client'
import { store, written, type Fished, type LoggedEntry } from './store'

const ASK_AGAIN_MS = 60_000

/** Take over what the server has of a day and this device has not; and drop what was taken back elsewhere. */
async function takeOver(dayId: string): Promise<void> {
  const path = { day_id: dayId }
  const [fished, entries] = await Promise.all([
    everyPage((query) => answer(client.GET('/api/days/{day_id}/presentations', { params: { path, query } }))),
    everyPage((query) => answer(client.GET('/api/days/{day_id}/entries', { params: { path, query } }))),
  ])
  await written(() =>
    store.transaction('rw', store.fished, store.entries, async () => {
      const here = new Set(await store.fished.where('dayId').equals(dayId).primaryKeys())
      const own = await store.entries.where('dayId').equals(dayId).toArray()
      const known = new Set(own.map((e) => e.id))
      const listed = new Set(entries.map((e) => e.id))
      await store.fished.bulkPut(
        fished
          .filter(({ id }) => !here.has(id))
          .map((one): Fished => ({
            id: one.id,
            dayId,
            at: Date.parse(one.started_at),
            key: null,
            line: one.rig.line.name,
            action: one.action,
            run: one.path,
          })),
      )
      await store.entries.bulkPut(
        entries
          .filter(({ id }) => !known.has(id))
          .map((e): LoggedEntry => ({
            id: e.id,
            dayId,
            presentationId: e.presentation_id,
            kind: e.kind,
            at: Date.parse(e.at),
            order: Date.parse(e.at),
            elapsedS: e.cast_elapsed_s ?? null,
            lengthM: e.length_m ?? null,
            undone: 0,
            depthM: e.depth_m ?? null,
            flyClass: e.fly_class ?? null,
            kept: e.kept ?? null,
            spot: e.toward != null ? { toward: e.toward, far: e.far ?? false } : null,
            elsewhere: 1,
          })),
      )
      const gone = own.filter((e) => e.elsewhere && !e.undone && !listed.has(e.id))
      for (const e of gone) await store.entries.update(e.id, { undone: 1 })
    }),
  )
}

/** Keep the day of this device the day of all of them, as long as it is looked at. */
export function useElsewhere(dayId: string) {
  useEffect(() => {
    const ask = () =>
      void takeOver(dayId).catch((error: unknown) => {
        // The day may not have arrived yet, or there is no signal: later.
        if (!(error instanceof NoConnection || error instanceof Refusal)) console.warn('elsewhere', error)
      })
    ask()
    const timer = setInterval(ask, ASK_AGAIN_MS)
    window.addEventListener('online', ask)
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', ask)
    }
  }, [dayId])
}
