/** Who is signed in, and their units. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, useContext, type ReactNode } from 'react'
import { answer, client, NoConnection, type Preferences, type Session } from '../api/client'
import { keepSession, keptSession } from '../offline/kept'
import { queue, withWaiting } from '../offline/outbox'
import { DEFAULT_UNITS, type Units } from '../format/units'

const Context = createContext<Session | null>(null)
export const SESSION_KEY = ['session']
const PREFERENCES = '/api/preferences'

export function useSession() {
  return useQuery({
    queryKey: SESSION_KEY,
    queryFn: async () => {
      const told = await keptSession(() => answer(client.GET('/api/session')))
      if (!told.username || !told.preferences) return told
      return { ...told, preferences: await withWaiting(told.username, PREFERENCES, told.preferences) }
    },
    staleTime: Infinity,
  })
}

export function PersonProvider({ session, children }: { session: Session; children: ReactNode }) {
  return <Context.Provider value={session}>{children}</Context.Provider>
}

export function usePerson(): Session & { username: string } {
  const session = useContext(Context)
  if (!session?.username) throw new Error('usePerson needs a PersonProvider with someone signed in')
  return session as Session & { username: string }
}

export function useUnits(): Units {
  return useContext(Context)?.preferences ?? DEFAULT_UNITS
}

/** Change preferences at once on screen, then on the server; with no connection they are kept here and sent later. */
export function useChangePreferences() {
  const queries = useQueryClient()
  const { username } = usePerson()
  return useMutation({
    mutationFn: async (body: Partial<Preferences>) => {
      try {
        await answer(client.PATCH(PREFERENCES, { body }))
      } catch (error) {
        if (!(error instanceof NoConnection)) throw error
        await queue({ username, path: PREFERENCES, method: 'PATCH', body })
      }
      const session = queries.getQueryData<Session>(SESSION_KEY)
      if (session) await keepSession(session)
    },
    onMutate: (changes) =>
      queries.setQueryData<Session>(SESSION_KEY, (before) =>
        before
          ? { ...before, preferences: { ...(before.preferences ?? DEFAULT_UNITS), ...changes } }
          : before,
      ),
    onError: () => queries.invalidateQueries({ queryKey: SESSION_KEY }),
  })
}
