/** The way out: the session is ended on the server, then here. */
import { useState } from 'react'
import { answer, client, Refusal } from '../api/client'
import { keepSession } from '../offline/kept'

export function useLeave(): { trouble: unknown; now(): Promise<void> } {
  const [trouble, setTrouble] = useState<unknown>(null)
  return {
    trouble,
    now: async () => {
      setTrouble(null)
      try {
        await answer(client.DELETE('/api/session'))
      } catch (error) {
        // A session that has ended already is as good as left; without a connection nobody can be told.
        if (!(error instanceof Refusal && error.status === 401)) {
          setTrouble(error)
          return
        }
      }
      await keepSession({ username: null, demo: false, is_demo: false, preferences: null })
      window.location.assign('/')
    },
  }
}
