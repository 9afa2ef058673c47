/** Tokens for scripts of one's own: made here, shown once, revoked here. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { dateHere } from '../format/clock'
import { api, thrown, useAskAgain } from '../queries/api'
import { Button } from '../ui/Button'
import { ChoiceField, CONTROL, Field } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { SecretField } from './SecretField'

type Token = Schemas['TokenOut']

export function Tokens() {
  const again = useAskAgain()
  const asked = { params: { query: { limit: 50 } } }
  const found = thrown(api.useQuery('get', '/api/tokens', asked))
  const revoke = useMutation({
    mutationFn: (id: number) =>
      answer(client.DELETE('/api/tokens/{token_id}', { params: { path: { token_id: id } } })),
    onSettled: () => again('/api/tokens'),
  })
  return (
    <section aria-label="For scripts" className="space-y-3">
      <h2 className="plate text-xl font-bold">For scripts</h2>
      <p>
        A token lets a program of yours ask in your name, without your password. It can never change the
        account. It ends with your password, or when you sign out everywhere else.{' '}
        <a className="underline" href="/api/docs">
          What can be asked
        </a>
      </p>
      {(found.error ?? revoke.error) && <Trouble error={found.error ?? revoke.error} />}
      <ul>
        {found.data?.items.map((token) => (
          <OneToken
            key={token.id}
            token={token}
            busy={revoke.isPending}
            onRevoke={() => revoke.mutate(token.id)}
          />
        ))}
      </ul>
      <NewToken />
    </section>
  )
}

function OneToken({ token, busy, onRevoke }: { token: Token; busy: boolean; onRevoke(): void }) {
  const used = token.used_at ? `last used ${dateHere(token.used_at)}` : 'never used'
  return (
    <li className="flex min-h-14 flex-wrap items-center gap-x-4 border-t-2 border-rule">
      <span className="mr-auto">
        <strong>{token.name}</strong> <code className="text-sm">{token.begins}…</code>
        <span className="block text-sm text-soft">
          {token.scope === 'read' ? 'reads' : 'reads and writes'} · until {dateHere(token.expires_at)} ·{' '}
          {used}
        </span>
      </span>
      <Button aria-label={`Revoke ${token.name}`} disabled={busy} onClick={onRevoke}>
        Revoke
      </Button>
    </li>
  )
}

const LASTS = [
  { value: '30', text: 'A month' },
  { value: '90', text: 'Three months' },
  { value: '366', text: 'A year' },
]

function NewToken() {
  const again = useAskAgain()
  const [name, setName] = useState('')
  const [scope, setScope] = useState<'read' | 'write'>('read')
  const [days, setDays] = useState('90')
  const [password, setPassword] = useState('')
  const make = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/tokens', { body: { password, name: name.trim(), scope, days: Number(days) } }),
      ),
    onSuccess: () => {
      setName('')
      setPassword('')
      return again('/api/tokens')
    },
  })
  const refusal = make.error instanceof Refusal ? make.error : null
  return (
    <form
      aria-label="New token"
      className="space-y-3 border-t-2 border-ink pt-3"
      onSubmit={(event) => {
        event.preventDefault()
        make.mutate()
      }}
    >
      <Field label="What it is for" error={refusal?.at('name')}>
        {({ id, describedBy, invalid }) => (
          <input
            id={id}
            className={CONTROL}
            required
            maxLength={80}
            value={name}
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            onChange={(event) => setName(event.target.value)}
          />
        )}
      </Field>
      <Segments
        label="It may"
        value={scope}
        options={[
          { value: 'read', text: 'read' },
          { value: 'write', text: 'read and write' },
        ]}
        onValueChange={(value) => setScope(value === 'write' ? 'write' : 'read')}
      />
      <ChoiceField label="For" value={days} options={LASTS} onValueChange={setDays} />
      <SecretField
        label="Your password"
        value={password}
        error={refusal?.at('password')}
        onValueChange={setPassword}
      />
      {make.error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={make.error} />}
      <Button type="submit" disabled={make.isPending}>
        Make a token
      </Button>
      {make.data && (
        <div role="status" className="border-l-[6px] border-hot bg-care px-4 py-2.5">
          <p className="font-semibold">Copy it now: it is not shown again.</p>
          <code className="block [overflow-wrap:anywhere] select-all">{make.data.token}</code>
        </div>
      )}
    </form>
  )
}
