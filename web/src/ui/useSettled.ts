import { useEffect, useRef, useState } from 'react'

export const sameContent = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** The value once it has held still for `ms`; compared by content, so a new object with the same content is no change. */
export function useSettled<T>(value: T, ms: number): T {
  const [settled, setSettled] = useState(value)
  const content = JSON.stringify(value)
  const latest = useRef(value)
  useEffect(() => {
    latest.current = value
  })
  useEffect(() => {
    const timer = setTimeout(() => setSettled(latest.current), ms)
    return () => clearTimeout(timer)
  }, [content, ms])
  return settled
}
