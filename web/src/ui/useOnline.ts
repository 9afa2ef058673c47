import { useSyncExternalStore } from 'react'

function follow(heard: () => void) {
  window.addEventListener('online', heard)
  window.addEventListener('offline', heard)
  return () => {
    window.removeEventListener('online', heard)
    window.removeEventListener('offline', heard)
  }
}

/** Whether the device has a network at all; that the server is reached by it is another question. */
export const useOnline = () => useSyncExternalStore(follow, () => navigator.onLine)
