/** Cast: at once, or in its time as at the water, to train the hand. */
import { useEffect, useRef, useState } from 'react'
import type { Action } from '../api/client'
import { Button } from '../ui/Button'
import { wayOf } from '../choice/ways'

export type Pace = 'quick' | 'counted' | 'true'

export interface CastButtonProps {
  text: string
  pace: Pace
  action: Action | undefined
  /** How long the whole cast takes [s], where it is known. */
  lastsS: number
  disabled: boolean
  onCast(): void
}

const TICK_MS = 100

export function CastButton({ text, pace, action, lastsS, disabled, onCast }: CastButtonProps) {
  const [begun, setBegun] = useState<number | null>(null)
  const [gone, setGone] = useState(0)
  const countS = action ? wayOf(action).countS(action) : 0
  const wholeS = pace === 'quick' ? 0 : pace === 'counted' ? countS : Math.max(countS, lastsS)
  const latest = useRef(onCast)
  useEffect(() => {
    latest.current = onCast
  })
  useEffect(() => {
    if (begun === null) return
    const timer = setInterval(() => {
      const seconds = (performance.now() - begun) / 1000
      setGone(seconds)
      if (seconds < wholeS) return
      setBegun(null)
      latest.current()
    }, TICK_MS)
    return () => clearInterval(timer)
  }, [begun, wholeS])
  const cast = () => {
    if (wholeS < 1) onCast()
    else if (begun === null) {
      setGone(0)
      setBegun(performance.now())
    } else if (gone >= countS) {
      // Once it has sunk it may be brought in: what is worked out is the whole cast.
      setBegun(null)
      onCast()
    }
  }
  return (
    <Button
      look="hot"
      size="huge"
      className="w-full"
      disabled={disabled || (begun !== null && gone < countS)}
      onClick={cast}
    >
      {begun === null ? text : doing(action, gone, countS, wholeS)}
    </Button>
  )
}

function doing(action: Action | undefined, gone: number, countS: number, wholeS: number): string {
  if (gone < countS) return `Sinking: ${Math.ceil(countS - gone)}`
  const left = `${Math.max(Math.ceil(wholeS - gone), 0)} s left`
  const rhythm = action && wayOf(action).rhythm(action)
  if (!rhythm) return `Fishing, ${left}`
  const cycle = rhythm.pullS + rhythm.pauseS
  const pulls = rhythm.pauseS <= 0 || (gone - countS) % cycle < rhythm.pullS
  return `${pulls ? 'Pull' : 'Wait'} · ${left}`
}
