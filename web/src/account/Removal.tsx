/** The way out for good: the archive first, then the password. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal } from '../api/client'
import { keepSession } from '../offline/kept'
import { Button } from '../ui/Button'
import { Trouble } from '../ui/Notice'
import { SecretField } from './SecretField'

export function Removal({ username }: { username: string }) {
  const [open, setOpen] = useState(false)
  const [password, setPassword] = useState('')
  const remove = useMutation({
    mutationFn: () => answer(client.POST('/api/account/removal', { body: { password } })),
    onSuccess: async () => {
      await keepSession({ username: null, demo: false, is_demo: false, preferences: null })
      window.location.assign('/')
    },
  })
  const refusal = remove.error instanceof Refusal ? remove.error : null
  return (
    <section aria-label="Leave for good" className="border-t-2 border-ink pt-3">
      <h2 className="plate text-xl font-bold">Leave for good</h2>
      <p className="mt-1">
        Deletes the account and every day, fish and picture in it. Nothing brings it back.
      </p>
      {open ? (
        <form
          aria-label="Delete the account"
          className="mt-3 space-y-3"
          onSubmit={(event) => {
            event.preventDefault()
            remove.mutate()
          }}
        >
          <p>
            <a className="underline" href="/api/archive.zip" download>
              Save your log first
            </a>
          </p>
          <SecretField
            label={`Password of ${username}`}
            value={password}
            error={refusal?.at('password')}
            onValueChange={setPassword}
          />
          {remove.error && Object.keys(refusal?.fields ?? {}).length === 0 && (
            <Trouble error={remove.error} />
          )}
          <div className="flex gap-3">
            <Button type="submit" look="hot" disabled={remove.isPending}>
              Delete it all
            </Button>
            <Button onClick={() => setOpen(false)}>Stay</Button>
          </div>
        </form>
      ) : (
        <Button className="mt-3" onClick={() => setOpen(true)}>
          Delete the account…
        </Button>
      )}
    </section>
  )
}
