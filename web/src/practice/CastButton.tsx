/** Cast: at once, or counted down as at the water, to train the hand. */
import { useEffect, useRef, useState } from 'react'
import { Button } from '../ui/Button'

export interface CastButtonProps {
  text: string
  /** Counted so long before the retrieve begins [s]; 0 casts at once. */
  countS: number
  disabled: boolean
  onCast(): void
}

export function CastButton({ text, countS, disabled, onCast }: CastButtonProps) {
  const [left, setLeft] = useState<number | null>(null)
  const latest = useRef(onCast)
  useEffect(() => {
    latest.current = onCast
  })
  useEffect(() => {
    if (left === null) return
    const timer = setTimeout(() => {
      if (left > 1) setLeft(left - 1)
      else {
        setLeft(null)
        latest.current()
      }
    }, 1000)
    return () => clearTimeout(timer)
  }, [left])
  return (
    <Button
      look="hot"
      size="huge"
      className="w-full"
      disabled={disabled || left !== null}
      onClick={() => (countS >= 1 ? setLeft(Math.round(countS)) : onCast())}
    >
      {left === null ? text : `Sinking: ${left}`}
    </Button>
  )
}
