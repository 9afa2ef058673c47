/** The door: sign in, sign up, or look around as the demo angler. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, Refusal, type Session } from '../api/client'
import { keepSession } from '../offline/kept'
import { SESSION_KEY } from '../state/person'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { Trouble } from '../ui/Notice'

export function WelcomePage({ session }: { session: Session }) {
  const queries = useQueryClient()
  const [username, setUsername] = useState('')
  const [password, setPassword] = useState('')
  const enter = useMutation({
    mutationFn: (how: 'in' | 'up' | 'demo') => {
      if (how === 'demo') return answer(client.POST('/api/demo-sessions'))
      const body = { username: username.trim(), password }
      return how === 'in'
        ? answer(client.POST('/api/session', { body }))
        : answer(client.POST('/api/people', { body }))
    },
    onSuccess: (next) => {
      queries.removeQueries({ predicate: (query) => query.queryKey[0] !== SESSION_KEY[0] })
      queries.setQueryData(SESSION_KEY, next)
      void keepSession(next)
    },
  })
  const refusal = enter.error instanceof Refusal ? enter.error : null
  return (
    <main className="mx-auto grid min-h-full max-w-[1180px] content-center gap-10 px-5 py-8 lg:grid-cols-[1.25fr_1fr] lg:gap-16">
      <div>
        <h1 className="plate text-6xl leading-none font-extrabold">Still Thread</h1>
        <p className="mt-4 max-w-[34rem] text-xl">
          You count a line down and hope. Still Thread works out where in the water the trout are likely to
          feed, and where your fly really goes.
        </p>
        <DoorDrawing />
      </div>
      <form
        aria-label="Sign in"
        className="space-y-3 self-center"
        onSubmit={(event) => {
          event.preventDefault()
          enter.mutate('in')
        }}
      >
        {session.demo && (
          <div className="mb-6">
            <Button
              look="hot"
              size="large"
              className="w-full"
              disabled={enter.isPending}
              onClick={() => enter.mutate('demo')}
            >
              Enter as the demo angler
            </Button>
            <p className="mt-1 text-sm text-soft">Two invented waters and a season of 25 invented days.</p>
          </div>
        )}
        <Field label="Name" error={refusal?.at('username')}>
          {({ id, describedBy, invalid }) => (
            <input
              id={id}
              className={CONTROL}
              autoComplete="username"
              required
              value={username}
              aria-invalid={invalid || undefined}
              aria-describedby={describedBy}
              onChange={(event) => setUsername(event.target.value)}
            />
          )}
        </Field>
        <Field label="Password" error={refusal?.at('password')}>
          {({ id, describedBy, invalid }) => (
            <input
              id={id}
              type="password"
              className={CONTROL}
              autoComplete="current-password"
              required
              value={password}
              aria-invalid={invalid || undefined}
              aria-describedby={describedBy}
              onChange={(event) => setPassword(event.target.value)}
            />
          )}
        </Field>
        {enter.error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={enter.error} />}
        <div className="grid grid-cols-2 gap-3">
          <Button type="submit" size="large" disabled={enter.isPending}>
            Sign in
          </Button>
          <Button
            size="large"
            disabled={enter.isPending}
            onClick={({ currentTarget }) => {
              if (currentTarget.form?.reportValidity()) enter.mutate('up')
            }}
          >
            Sign up
          </Button>
        </div>
        <Forgotten username={username.trim()} />
        <p className="text-sm">
          New here? Choose any name, and a password of eight characters or more: no common word, not only
          digits, nothing like your name.
        </p>
        <p className="text-sm text-soft">
          It advises on fishing, not on whether it is safe to go. Local rules, licences, forecasts and people
          on the spot come first.
        </p>
      </form>
    </main>
  )
}

/** A forgotten password: nothing tells whether there is such a person. */
function Forgotten({ username }: { username: string }) {
  const ask = useMutation({
    mutationFn: () => answer(client.POST('/api/password-resets', { body: { username } })),
  })
  if (ask.isSuccess)
    return (
      <p role="status" className="text-sm font-semibold">
        If {username} has a mail address here, a link is on its way. If not, ask whoever keeps this server:
        they can give you one.
      </p>
    )
  return (
    <>
      <button
        type="button"
        className="min-h-11 text-sm underline disabled:no-underline disabled:opacity-60"
        disabled={!username || ask.isPending}
        onClick={() => ask.mutate()}
      >
        {username ? 'Forgotten the password?' : 'Forgotten the password? Type your name first.'}
      </button>
      {ask.error && <Trouble error={ask.error} />}
    </>
  )
}

/** A count going wrong: the sum's depth, and where the fly is. */
function DoorDrawing() {
  return (
    <svg
      viewBox="0 0 560 230"
      className="mt-8 w-full max-w-[560px]"
      role="img"
      aria-label="A sinking line seen from the side: the fly hangs above the depth that the sum promises."
    >
      <rect y="40" width="560" height="164" fill="var(--water-light)" />
      <rect y="204" width="560" height="26" fill="var(--bed)" />
      <path d="M0 40H560" stroke="var(--ink)" strokeWidth="2.5" />
      <path d="M22 8L66 38" stroke="var(--ink)" strokeWidth="4" strokeLinecap="round" />
      <path
        d="M66 40C120 116 196 148 300 150C372 150 420 136 452 112"
        fill="none"
        stroke="var(--hot)"
        strokeWidth="3.5"
      />
      <circle cx="452" cy="112" r="8" fill="var(--hot)" stroke="var(--sheet)" strokeWidth="2.5" />
      <path d="M330 160H530" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="6 5" />
      <text x="530" y="178" textAnchor="end" fontSize="16" fill="var(--ink)">
        the sum says here
      </text>
      <text x="468" y="108" fontSize="16" fontWeight="700" fill="var(--ink)">
        the fly
      </text>
    </svg>
  )
}
