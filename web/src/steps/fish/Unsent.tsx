/** What is still to be sent, why it waits, and what the server would not take: nothing of it goes without a word. */
import { tryAgain, useHeld } from '../../offline/outbox'
import { store, useLive, type Outgoing } from '../../offline/store'
import { usePerson } from '../../state/person'

export function Unsent() {
  const { username } = usePerson()
  const rows =
    useLive(() => store.outbox.where('username').equals(username).toArray(), `outbox:${username}`) ?? []
  const refused = rows.filter((row) => row.refused)
  const pending = rows.length - refused.length
  return (
    <>
      <span className="text-soft" role="status">
        {pending > 0 ? (
          <Pending count={pending} username={username} />
        ) : refused.length > 0 ? (
          `${refused.length} not stored`
        ) : (
          'all sent'
        )}
      </span>
      {refused.map((row) => (
        <p
          key={row.seq}
          role="alert"
          className="mt-1 border-l-[6px] border-hot bg-care px-3 py-1.5 font-semibold"
        >
          Not stored: {row.refused}
          <span className="mt-1 flex gap-5">
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
        </p>
      ))}
    </>
  )
}

function Pending({ count, username }: { count: number; username: string }) {
  const held = useHeld()
  if (held === 'signed-out')
    return (
      <a href="/" className="font-semibold text-ink underline underline-offset-4">
        Sign in to send {count}
      </a>
    )
  if (held === 'another') return `${count} kept here for ${username}: another person is signed in`
  return `${count} kept here, sent when there is a connection`
}

/** What waits, as it would be sent, for one who would rather have it in hand. */
function save(rows: readonly Outgoing[]) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([JSON.stringify(rows, null, 1)], { type: 'application/json' }))
  link.download = 'not-sent.json'
  link.click()
  URL.revokeObjectURL(link.href)
}
