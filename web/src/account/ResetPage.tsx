/** Where a link for a forgotten password leads. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal } from '../api/client'
import { Button } from '../ui/Button'
import { Trouble } from '../ui/Notice'
import { SecretField } from './SecretField'

/** The two parts of a link's address, where this is one. */
export function resetAsked(pathname: string): { uid: string; token: string } | null {
  const [, uid, token] = /^\/reset\/([^/]+)\/([^/]+)\/?$/.exec(pathname) ?? []
  return uid && token ? { uid, token } : null
}

export function ResetPage({ uid, token }: { uid: string; token: string }) {
  const [password, setPassword] = useState('')
  const set = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/password-resets/{uid}/{token}', {
          params: { path: { uid, token } },
          body: { password },
        }),
      ),
  })
  const refusal = set.error instanceof Refusal ? set.error : null
  return (
    <main className="mx-auto max-w-[34rem] space-y-4 px-5 py-10">
      <h1 className="plate text-3xl font-bold">A new password</h1>
      {set.isSuccess ? (
        <>
          <p role="status">It is set, and every sign-in of before has ended.</p>
          <a className="font-semibold underline" href="/">
            Sign in
          </a>
        </>
      ) : (
        <form
          aria-label="A new password"
          className="space-y-4"
          onSubmit={(event) => {
            event.preventDefault()
            set.mutate()
          }}
        >
          <SecretField
            label="New password"
            fresh
            value={password}
            error={refusal?.at('password')}
            hint="Eight characters or more: no common word, not only digits, nothing like your name."
            onValueChange={setPassword}
          />
          {set.error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={set.error} />}
          <Button type="submit" look="hot" size="large" disabled={set.isPending}>
            Set it
          </Button>
        </form>
      )}
    </main>
  )
}
