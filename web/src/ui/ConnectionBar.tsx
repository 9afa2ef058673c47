/** One line under the header when the server can't be reached, or when a new version waits. */
import { useRegisterSW } from 'virtual:pwa-register/react'
import { useStandsSince } from '../offline/kept'
import { store, useLive } from '../offline/store'
import { Button } from './Button'

/** How often the worker asks whether there is a newer build. */
const LOOK_MS = 3_600_000

export function ConnectionBar() {
  const since = useStandsSince()
  const {
    needRefresh: [waits],
    updateServiceWorker,
  } = useRegisterSW({
    onRegisteredSW: (_, registration) => {
      if (registration) setInterval(() => void registration.update().catch(() => undefined), LOOK_MS)
    },
  })
  const casting = useLive(async () => (await store.fishing.get('now'))?.castAt != null, 'casting')
  // Never while a fly is in the water.
  const newer = waits && casting === false
  if (since === null && !newer) return null
  return (
    <div
      role="status"
      className="screen-only flex min-h-9 items-center gap-3 border-b-2 border-ink bg-care px-3 text-sm font-semibold lg:px-6"
    >
      {since !== null && <span>No connection. What you see is as of {clock(since)}.</span>}
      {newer && (
        <>
          <span>A new version is here.</span>
          <Button onClick={() => void updateServiceWorker(true)}>Take it</Button>
        </>
      )}
    </div>
  )
}

function clock(at: number): string {
  const then = new Date(at)
  const time = then.toTimeString().slice(0, 5)
  return then.toDateString() === new Date().toDateString()
    ? time
    : `${time} on ${then.toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}`
}
