/** Where one is signed in: each can be ended from here. */
import { useMutation } from '@tanstack/react-query'
import { answer, client } from '../api/client'
import { ago } from '../format/clock'
import { api, thrown, useAskAgain } from '../queries/api'
import { Button } from '../ui/Button'
import { Trouble, Waiting } from '../ui/Notice'

export function SignIns({ fixed }: { fixed: boolean }) {
  const again = useAskAgain()
  const done = () => again('/api/sign-ins')
  const asked = { params: { query: { limit: 50 } } }
  const found = thrown(api.useQuery('get', '/api/sign-ins', asked))
  const end = useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE('/api/sign-ins/{sign_in_id}', { params: { path: { sign_in_id: id } } })),
    onSettled: done,
  })
  const endOthers = useMutation({
    mutationFn: () => answer(client.DELETE('/api/sign-ins')),
    onSettled: done,
  })
  const items = found.data?.items
  return (
    <section aria-label="Signed in">
      <h2 className="plate text-xl font-bold">Signed in</h2>
      {found.error && <Trouble error={found.error} />}
      {!items && !found.error && <Waiting what="Looking…" />}
      <ul className="mt-2">
        {items?.map((one) => (
          <li key={one.id} className="flex min-h-14 flex-wrap items-center gap-x-4 border-t-2 border-rule">
            <span className="mr-auto">
              <strong>{one.device}</strong>
              <span className="block text-sm text-soft">
                {one.here ? 'Here, now' : `Last seen ${ago(one.seen_at)}`}
              </span>
            </span>
            {!one.here && !fixed && (
              <Button
                aria-label={`Sign out: ${one.device}, last seen ${ago(one.seen_at)}`}
                disabled={end.isPending}
                onClick={() => end.mutate(one.id)}
              >
                Sign out
              </Button>
            )}
          </li>
        ))}
      </ul>
      {(end.error ?? endOthers.error) && <Trouble error={end.error ?? endOthers.error} />}
      {!fixed && (items?.length ?? 0) > 2 && (
        <Button disabled={endOthers.isPending} onClick={() => endOthers.mutate()}>
          Sign out everywhere else
        </Button>
      )}
    </section>
  )
}
