/** Questions about the log: which days, what came of them, and what a line really does. */
import { keepPreviousData, useInfiniteQuery } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import type { paths } from '../api/schema'
import { api, thrown } from './api'

/** Which days are asked about. */
export type DaysQuery = Omit<
  NonNullable<paths['/api/days']['get']['parameters']['query']>,
  'limit' | 'offset'
>

/** Of days that came all at once, some are still worked out: it is asked again until none is left. */
const AGAIN_MS = 400
const STAYS = { placeholderData: keepPreviousData, retry: false } as const
const untilDone = ({ state }: { state: { data: { untallied?: number } | undefined } }) =>
  state.data?.untallied ? AGAIN_MS : false

export const useInShort = (query: DaysQuery) =>
  thrown(
    api.useQuery('get', '/api/in-short', { params: { query } }, { ...STAYS, refetchInterval: untilDone }),
  )

export const useRates = (by: Schemas['RatesOut']['by'], of: Schemas['RatesOut']['of'], query: DaysQuery) =>
  thrown(
    api.useQuery(
      'get',
      '/api/rates',
      { params: { query: { by, of, ...query } } },
      { ...STAYS, refetchInterval: untilDone },
    ),
  )

export const useAudit = (query: DaysQuery) =>
  thrown(api.useQuery('get', '/api/audit', { params: { query } }, { ...STAYS, refetchInterval: untilDone }))

export const useYear = (waterId: number) =>
  thrown(
    api.useQuery(
      'get',
      '/api/waters/{water_id}/year',
      { params: { path: { water_id: waterId } } },
      { ...STAYS, refetchInterval: untilDone },
    ),
  )

export const useAlike = (conditions: Schemas['ConditionsIn'], ask: boolean) =>
  thrown(api.useQuery('post', '/api/alike', { body: conditions }, { ...STAYS, enabled: ask }))

export const useLineRate = (lineId: number) =>
  thrown(api.useQuery('get', '/api/lines/{line_id}/rate', { params: { path: { line_id: lineId } } }, STAYS))

const PAGE = 40

/** Days that a query is about, newest first, a page at a time. */
export function useDaysFound(query: DaysQuery) {
  return useInfiniteQuery({
    queryKey: ['days found', query],
    queryFn: ({ pageParam }) =>
      answer(client.GET('/api/days', { params: { query: { ...query, limit: PAGE, offset: pageParam } } })),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => {
      const known = pages.reduce((sum, page) => sum + page.items.length, 0)
      return known < last.count ? known : undefined
    },
    placeholderData: keepPreviousData,
    retry: false,
  })
}
