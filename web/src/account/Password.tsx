/** Another password, and where a link goes when it is forgotten. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { useAskAgain } from '../queries/api'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { SecretField } from './SecretField'

const RULE = 'Eight characters or more: no common word, not only digits, nothing like your name.'

export function Password() {
  const again = useAskAgain()
  const [password, setPassword] = useState('')
  const [fresh, setFresh] = useState('')
  const change = useMutation({
    mutationFn: () =>
      answer(client.PUT('/api/account/password', { body: { password, new_password: fresh } })),
    onSuccess: () => {
      setPassword('')
      setFresh('')
      return again('/api/sign-ins')
    },
  })
  const refusal = change.error instanceof Refusal ? change.error : null
  return (
    <form
      aria-label="Another password"
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        change.mutate()
      }}
    >
      <h2 className="plate text-xl font-bold">Password</h2>
      <SecretField
        label="Password now"
        value={password}
        error={refusal?.at('password')}
        onValueChange={setPassword}
      />
      <SecretField
        label="New password"
        fresh
        value={fresh}
        error={refusal?.at('new_password')}
        hint={RULE}
        onValueChange={setFresh}
      />
      {change.error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={change.error} />}
      <div className="flex flex-wrap items-center gap-4">
        <Button type="submit" disabled={change.isPending}>
          Change it
        </Button>
        <p role="status" className="text-sm">
          {change.isSuccess
            ? 'Changed. You are signed out everywhere but here, and no token is good any more.'
            : 'Signs you out everywhere but here, and ends your tokens.'}
        </p>
      </div>
    </form>
  )
}

export function Email({ account, mails }: { account: Schemas['AccountOut']; mails: boolean }) {
  const again = useAskAgain()
  const [email, setEmail] = useState(account.email)
  const [password, setPassword] = useState('')
  const keep = useMutation({
    mutationFn: () => answer(client.PATCH('/api/account', { body: { email: email.trim(), password } })),
    onSuccess: () => {
      setPassword('')
      return again('/api/account')
    },
  })
  const refusal = keep.error instanceof Refusal ? keep.error : null
  const hint = mails
    ? 'For a link when the password is forgotten, and nothing else. It may stay empty.'
    : 'This server sends no mail: whoever keeps it gives you a link when the password is forgotten.'
  return (
    <form
      aria-label="Mail"
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        keep.mutate()
      }}
    >
      <Field label="Mail address" error={refusal?.at('email')} hint={hint}>
        {({ id, describedBy, invalid }) => (
          <input
            id={id}
            type="email"
            autoComplete="email"
            className={CONTROL}
            value={email}
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            onChange={(event) => setEmail(event.target.value)}
          />
        )}
      </Field>
      {email.trim() !== account.email && (
        <>
          <SecretField
            label="Your password, to keep it"
            value={password}
            error={refusal?.at('password')}
            onValueChange={setPassword}
          />
          <Button type="submit" disabled={keep.isPending}>
            Keep
          </Button>
        </>
      )}
    </form>
  )
}
