/** What is still to be sent, why it waits, and what the server would not take: nothing of it goes without a word. */
import { tryAgain, useHeld } from '../../offline/outbox'
import { useClockAhead } from '../../offline/sender'
import { isTight, useRoom } from '../../offline/room'
import { store, useKeeping, useLive, type Outgoing } from '../../offline/store'
import { usePerson } from '../../state/person'
import { saveAs } from '../../ui/saveAs'

function useOutbox() {
  const { username } = usePerson()
  const known = useLive(() => store.outbox.where('username').equals(username).toArray(), `outbox:${username}`)
  const rows = known ?? []
  return { username, rows, read: known !== undefined, refused: rows.filter((row) => row.refused) }
}

/** One line: how much waits, and for what. */
export function Waits() {
  const { username, rows, read, refused } = useOutbox()
  const pending = rows.length - refused.length
  return (
    <span className="text-soft" role="status">
      {pending > 0 ? (
        <Pending count={pending} username={username} />
      ) : refused.length > 0 ? (
        `${refused.length} not stored`
      ) : (
        // Before the store is read nobody knows.
        read && 'all sent'
      )}
    </span>
  )
}

function Pending({ count, username }: { count: number; username: string }) {
  const held = useHeld()
  const where = useKeeping() === 'page' ? 'in this page' : 'here'
  if (held === 'signed-out')
    return (
      <a href="/" className="font-semibold text-ink underline underline-offset-4">
        Sign in to send {count}
      </a>
    )
  if (held === 'another') return `${count} kept ${where} for ${username}: another person is signed in`
  return `${count} kept ${where}, sent when there is a connection`
}

const AGAINST = 'mt-1 border-l-[6px] border-hot bg-care px-3 py-1.5 font-semibold'

/** What stands in the way of the log being kept, and what the angler can do about it. */
export function Troubles() {
  const { rows, refused } = useOutbox()
  const inPage = useKeeping() === 'page'
  const tight = isTight(useRoom())
  const ahead = useClockAhead()
  return (
    <>
      {inPage && (
        <p role="alert" className={AGAINST}>
          This device keeps nothing: no room, or the browser forbids it. What you tap is sent at once; leave
          this page open until all is sent.
        </p>
      )}
      {!inPage && tight && (
        <p role="alert" className={AGAINST}>
          This device is nearly full. Make room before the next long day.
        </p>
      )}
      {ahead !== 0 && (
        <p role="status" className="mt-1 text-soft">
          This device’s clock is {howFar(Math.abs(ahead))} {ahead > 0 ? 'ahead' : 'behind'}. The log’s times
          are put right.
        </p>
      )}
      {refused.map((row) => (
        <div key={row.seq} role="alert" className={AGAINST}>
          Not stored: {row.refused}
          <span className="mt-1 grid grid-cols-3 gap-2">
            <button type="button" className="min-h-11 underline" onClick={() => void tryAgain(row)}>
              Try again
            </button>
            <button type="button" className="min-h-11 underline" onClick={() => save(rows)}>
              Save as a file
            </button>
            <button
              type="button"
              className="min-h-11 underline"
              onClick={() => void store.outbox.delete(row.seq)}
            >
              Dismiss
            </button>
          </span>
        </div>
      ))}
    </>
  )
}

function howFar(ms: number): string {
  const minutes = Math.round(ms / 60_000)
  if (minutes < 100) return `${minutes} min`
  const hours = Math.round(minutes / 60)
  return hours < 72 ? `${hours} hours` : `${Math.round(hours / 24)} days`
}

/** What waits, as it would be sent, for one who would rather have it in hand. */
function save(rows: readonly Outgoing[]) {
  saveAs('not-sent.json', new Blob([JSON.stringify(rows, null, 1)], { type: 'application/json' }))
}
