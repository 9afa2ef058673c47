/** A value that many parts of the page follow, and that is changed from outside of them. */
import { useSyncExternalStore } from 'react'

export function shared<T>(first: T) {
  let now = first
  const listeners = new Set<() => void>()
  const listen = (heard: () => void) => {
    listeners.add(heard)
    return () => listeners.delete(heard)
  }
  const get = () => now
  return {
    get,
    set(next: T) {
      if (next === now) return
      now = next
      listeners.forEach((heard) => heard())
    },
    use: () => useSyncExternalStore(listen, get),
  }
}
