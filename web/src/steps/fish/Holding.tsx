/** A released fish in the hands: how long it is to be held, until it swims off. */
import { useEffect, useState } from 'react'
import { store, written, type Fishing } from '../../offline/store'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { clock } from './Landing'
import { signalIn } from './signal'

const USUAL_HOLD_S = 30

export function Holding({ fishing, since }: { fishing: Fishing; since: number }) {
  const units = useUnits()
  const [now, setNow] = useState(since)
  const holdS = fishing.picture?.handling.hold_s ?? USUAL_HOLD_S
  const sound = units.sound_on
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), 500)
    return () => clearInterval(timer)
  }, [])
  useEffect(() => signalIn(holdS - (Date.now() - since) / 1000, sound), [since, holdS, sound])
  const heldS = Math.max(0, (now - since) / 1000)
  const left = holdS - heldS
  return (
    <section
      aria-label="Holding"
      role="timer"
      className="flex items-center gap-3 border-2 border-ink bg-sheet p-2"
    >
      <p className="plate text-4xl leading-none font-extrabold">{clock(left > 0 ? left : heldS)}</p>
      <p className="min-w-0 grow text-sm leading-tight">
        {left > 0
          ? 'Hold it upright, head into the waves, in the water.'
          : 'Long enough, if it pulls: open the hand. Hold on while it tips over.'}
      </p>
      <Button
        className="min-h-14 shrink-0"
        onClick={() => void written(() => store.fishing.update('now', { holding: null }))}
      >
        It swam off
      </Button>
    </section>
  )
}
