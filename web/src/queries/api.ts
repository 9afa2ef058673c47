/** Questions to the server by the contract, and which of their answers the device keeps for when there is no connection. */
import { QueryClient, useQueryClient, type QueryPersister, type UseQueryResult } from '@tanstack/react-query'
import createQueries from 'openapi-react-query'
import { client, NoConnection, Refusal } from '../api/client'
import type { paths } from '../api/schema'
import { kept } from '../offline/kept'
import type { Kept } from '../offline/store'

declare module '@tanstack/react-query' {
  interface Register {
    queryMeta: { kept?: Kept['kind'] }
  }
}

export const api = createQueries(client)

/** Ask first; what was kept is given where there is no connection, not before. */
const orKept = ((ask, context, query) => {
  const kind = query.meta?.kept
  const asked = () => Promise.resolve(ask(context))
  return kind ? kept(query.queryKey, asked, kind) : asked()
}) as QueryPersister

export function newQueries(): QueryClient {
  return new QueryClient({
    defaultOptions: {
      queries: {
        persister: orKept,
        refetchOnWindowFocus: false,
        // With no connection a question is still asked: the answer kept on the device is given.
        networkMode: 'always',
        retry: (tries, error) => !(error instanceof Refusal) && error instanceof NoConnection && tries < 2,
      },
      // A change is tried at once: one that waited for the connection would be lost with the page.
      mutations: { networkMode: 'always' },
    },
  })
}

/** The same answer, its error as it is thrown. */
export function thrown<T>(result: UseQueryResult<T, unknown>): UseQueryResult<T> {
  return result as UseQueryResult<T>
}

/** Have questions asked again, by their paths, whatever they were asked with. */
export function useAskAgain() {
  const queries = useQueryClient()
  return (...asked: (keyof paths)[]) =>
    queries.invalidateQueries({
      predicate: ({ queryKey }) => asked.includes(queryKey[1] as keyof paths),
    })
}
