/** Five steps through the demo, each at its own screen; once put away it does not come back. */
import { useState } from 'react'
import { Link, useLocation } from 'react-router'
import { usePerson } from '../state/person'
import { useLeave } from '../state/leave'
import { Button } from '../ui/Button'

const STEPS = [
  { at: '/read', says: 'Today’s water. Change the wind or the hour: the band moves.', to: '/rig', go: 'Rig' },
  { at: '/rig', says: 'What to tie on and how to fish it. Then “Fish this”.', to: '/fish', go: 'Fish' },
  {
    at: '/fish',
    says: 'Tap Cast, then what came. The next move follows from all of them.',
    to: '/log',
    go: 'Look back',
  },
  { at: '/log', says: 'Each day with its depths and takes.', to: '/waters', go: 'Waters' },
  { at: '/waters', says: 'Now a water of your own.', to: null, go: '' },
] as const

export function Tour() {
  const { username, is_demo } = usePerson()
  const key = `tour:${username}`
  const [away, setAway] = useState(() => localStorage.getItem(key) !== null)
  const { pathname } = useLocation()
  const leave = useLeave()
  const n = STEPS.findIndex((step) => pathname.startsWith(step.at))
  const step = STEPS[n]
  if (!is_demo || away || !step) return null
  return (
    <aside
      aria-label="Through the demo in five steps"
      className="screen-only flex items-center gap-x-3 border-b-2 border-ink bg-sheet px-4 text-sm leading-tight lg:px-6"
    >
      <p className="min-w-0 grow">
        <strong className="mr-1.5">
          {n + 1} of {STEPS.length}
        </strong>
        {step.says}
      </p>
      {step.to ? (
        <Link
          to={step.to}
          className="flex min-h-11 shrink-0 items-center font-semibold whitespace-nowrap underline underline-offset-4"
        >
          {step.go}
        </Link>
      ) : (
        <Button className="my-1 px-2!" onClick={() => void leave.now()}>
          Start with my own water
        </Button>
      )}
      <Button
        look="quiet"
        className="min-w-11 shrink-0 px-1!"
        aria-label="Put this hint away"
        onClick={() => {
          localStorage.setItem(key, 'away')
          setAway(true)
        }}
      >
        ×
      </Button>
    </aside>
  )
}
