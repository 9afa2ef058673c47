/** Who is signed in, and their units. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { createContext, useContext, type ReactNode } from 'react'
import { answer, client, type Preferences, type Session } from '../api/client'
import { keptSession } from '../offline/kept'
import { DEFAULT_UNITS, type Units } from '../format/units'

const Context = createContext<Session | null>(null)
export const SESSION_KEY = ['session']

export function useSession() {
  return useQuery({
    queryKey: SESSION_KEY,
    queryFn: () => keptSession(() => answer(client.GET('/api/session'))),
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

/** Change preferences at once on screen, then on the server. */
export function useChangePreferences() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Partial<Preferences>) => answer(client.PATCH('/api/preferences', { body })),
    onMutate: (changes) =>
      queries.setQueryData<Session>(SESSION_KEY, (before) =>
        before
          ? { ...before, preferences: { ...(before.preferences ?? DEFAULT_UNITS), ...changes } }
          : before,
      ),
    onError: () => queries.invalidateQueries({ queryKey: SESSION_KEY }),
  })
}
