/** One's own account: password, where one is signed in, tokens for scripts, and the way out for good. */
import { NavLink } from 'react-router'
import { useAccount } from './useAccount'
import { Trouble, Waiting } from '../ui/Notice'
import { Email, Password } from './Password'
import { Removal } from './Removal'
import { SignIns } from './SignIns'
import { Tokens } from './Tokens'

export function YouPage() {
  const account = useAccount()
  if (account.isError && !account.data) return <Trouble error={account.error} />
  if (!account.data) return <Waiting what="Opening your account…" />
  const { username, is_demo, mails } = account.data
  return (
    <div className="mx-auto max-w-[1100px] px-4 py-4 lg:px-6">
      <YouNav />
      <h1 className="plate mt-2 text-3xl font-bold">{username}</h1>
      {is_demo && (
        <p className="mt-1 border-l-[6px] border-rule bg-care px-4 py-2">
          The demo angler is everybody’s: its password, sign-ins and account stay as they are.
        </p>
      )}
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-12 gap-y-8 lg:grid-cols-2">
        <div className="space-y-8">
          {!is_demo && <Password />}
          {!is_demo && <Email account={account.data} mails={mails} />}
          <SignIns fixed={is_demo} />
        </div>
        <div className="space-y-8">
          <Tokens />
          {!is_demo && <Removal username={username} />}
        </div>
      </div>
    </div>
  )
}

const ROOMS = [
  { to: '/you', text: 'Account' },
  { to: '/you/log', text: 'Your log, out and in' },
] as const

export function YouNav() {
  return (
    <nav aria-label="You" className="-mx-1 flex flex-wrap gap-x-4">
      {ROOMS.map((room) => (
        <NavLink
          key={room.to}
          to={room.to}
          end
          className={({ isActive }) =>
            `flex min-h-11 items-center border-b-4 px-1 font-semibold ${isActive ? 'border-hot' : 'border-transparent text-soft'}`
          }
        >
          {room.text}
        </NavLink>
      ))}
    </nav>
  )
}
