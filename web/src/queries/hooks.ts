/** Remote state, one hook per question asked of the server. */
import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query'
import { Refusal, type Schemas } from '../api/client'
import { api, thrown } from './api'

const LONG_MS = 5 * 60_000
const ALL = { params: { query: { limit: 200 } } } as const
const LIST = { staleTime: LONG_MS, meta: { kept: 'list' } } as const
/** Asked too much at a time, or of a busy server: the same is asked again in a moment, for half a minute at most. */
const whileBusy = (failed: number, error: unknown) =>
  error instanceof Refusal && (error.status === 429 || error.status === 503) && failed < 10
const AGAIN_MS = 3000
/** Worked out by the server from what it is told: the last answer stands while the next is on its way. */
const WORKED = {
  staleTime: LONG_MS,
  retry: whileBusy,
  retryDelay: AGAIN_MS,
  placeholderData: keepPreviousData,
  meta: { kept: 'worked' },
} as const
/** The same of a dial, of which there are many: they push out nothing of the others. */
const TURNED = { ...WORKED, meta: { kept: 'turned' } } as const

export const useWaters = () => thrown(api.useQuery('get', '/api/waters', ALL, LIST))
export const useTrade = () => thrown(api.useQuery('get', '/api/trade', {}, { ...LIST, staleTime: Infinity }))
export const useLines = () => thrown(api.useQuery('get', '/api/lines', ALL, LIST))
export const useLeaders = () => thrown(api.useQuery('get', '/api/leaders', ALL, LIST))
export const useFlies = () => thrown(api.useQuery('get', '/api/flies', ALL, LIST))
export const useRods = () => thrown(api.useQuery('get', '/api/rods', ALL, LIST))
export const useFloats = () => thrown(api.useQuery('get', '/api/floats', ALL, LIST))
export const useSpools = () => thrown(api.useQuery('get', '/api/spools', ALL, LIST))
export const useDays = () => thrown(api.useQuery('get', '/api/days', { params: { query: { limit: 60 } } }))

export function usePicture(conditions: Schemas['ConditionsIn'] | null) {
  const body = conditions as Schemas['ConditionsIn']
  return thrown(api.useQuery('post', '/api/pictures', { body }, { ...WORKED, enabled: conditions !== null }))
}

export function useChart(waterId: number, enabled = true) {
  const params = { path: { water_id: waterId } }
  const asked = { staleTime: LONG_MS, retry: false, enabled }
  return thrown(api.useQuery('get', '/api/waters/{water_id}/chart', { params }, asked))
}

/** What one more thing known would be worth; asked once the picture itself is there. */
export function useWorths(conditions: Schemas['ConditionsIn'], ask: boolean) {
  // Not kept: it would push out what a day without signal needs.
  const asked = { staleTime: LONG_MS, retry: false, placeholderData: keepPreviousData, enabled: ask }
  return thrown(api.useQuery('post', '/api/worths', { body: conditions }, asked))
}

export function useForecast(waterId: number) {
  const params = { path: { water_id: waterId } }
  return thrown(
    api.useQuery('get', '/api/waters/{water_id}/forecast', { params }, { staleTime: LONG_MS, retry: false }),
  )
}

export function useDayStrip(conditions: Schemas['ConditionsIn'], forecast: Schemas['ForecastHourIn'][]) {
  return thrown(api.useQuery('post', '/api/day-strips', { body: { conditions, forecast } }, WORKED))
}

export function choicesQuery(body: Schemas['ChoicesIn']) {
  const { meta, retry, retryDelay, staleTime } = WORKED
  return queryOptions({
    ...api.queryOptions('post', '/api/choices', { body }),
    meta,
    retry,
    retryDelay,
    staleTime,
  })
}

/** `ask` false waits: on two cores the whole plan would slow the first answer down. */
export function useChoices(body: Schemas['ChoicesIn'], ask = true) {
  return thrown(useQuery({ ...choicesQuery(body), enabled: ask, placeholderData: keepPreviousData }))
}

/** What goes to the water with a plan; kept on the device, so that a day may begin without signal. */
export function searchQuery(body: Schemas['ChoicesIn']) {
  const { meta, retry, staleTime } = WORKED
  return queryOptions({ ...api.queryOptions('post', '/api/searches', { body }), meta, retry, staleTime })
}

export function useWeighing(asked: Schemas['WeighingIn'] | null) {
  const body = asked as Schemas['WeighingIn']
  return thrown(api.useQuery('post', '/api/weighings', { body }, { ...TURNED, enabled: asked !== null }))
}

export function useSimulation(asked: Schemas['SimulationIn'] | null) {
  const body = asked as Schemas['SimulationIn']
  return thrown(api.useQuery('post', '/api/simulations', { body }, { ...TURNED, enabled: asked !== null }))
}

export function useRun(asked: Schemas['RunIn'] | null) {
  const body = asked as Schemas['RunIn']
  return thrown(api.useQuery('post', '/api/runs', { body }, { ...TURNED, enabled: asked !== null }))
}
