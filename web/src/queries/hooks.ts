/** Remote state, one hook per question asked of the server. */
import { keepPreviousData, queryOptions, useQuery } from '@tanstack/react-query'
import { kept } from '../offline/kept'
import { answer, client, type Schemas } from '../api/client'

const LONG_MS = 5 * 60_000

export function useWaters() {
  return useQuery({
    queryKey: ['waters'],
    queryFn: () =>
      kept(
        ['waters'],
        () => answer(client.GET('/api/waters', { params: { query: { limit: 200 } } })),
        'list',
      ),
    staleTime: LONG_MS,
  })
}

export function useTrade() {
  return useQuery({
    queryKey: ['trade'],
    queryFn: () => kept(['trade'], () => answer(client.GET('/api/trade')), 'list'),
    staleTime: Infinity,
  })
}

export function useLines() {
  return useQuery({
    queryKey: ['lines'],
    queryFn: () =>
      kept(['lines'], () => answer(client.GET('/api/lines', { params: { query: { limit: 200 } } })), 'list'),
    staleTime: LONG_MS,
  })
}

export function useLeaders() {
  return useQuery({
    queryKey: ['leaders'],
    queryFn: () =>
      kept(
        ['leaders'],
        () => answer(client.GET('/api/leaders', { params: { query: { limit: 200 } } })),
        'list',
      ),
    staleTime: LONG_MS,
  })
}

export function useFlies() {
  return useQuery({
    queryKey: ['flies'],
    queryFn: () =>
      kept(['flies'], () => answer(client.GET('/api/flies', { params: { query: { limit: 200 } } })), 'list'),
    staleTime: LONG_MS,
  })
}

export function useRods() {
  return useQuery({
    queryKey: ['rods'],
    queryFn: () =>
      kept(['rods'], () => answer(client.GET('/api/rods', { params: { query: { limit: 200 } } })), 'list'),
    staleTime: LONG_MS,
  })
}

export function useFloats() {
  return useQuery({
    queryKey: ['floats'],
    queryFn: () =>
      kept(
        ['floats'],
        () => answer(client.GET('/api/floats', { params: { query: { limit: 200 } } })),
        'list',
      ),
    staleTime: LONG_MS,
  })
}

export function useSpools() {
  return useQuery({
    queryKey: ['spools'],
    queryFn: () =>
      kept(
        ['spools'],
        () => answer(client.GET('/api/spools', { params: { query: { limit: 200 } } })),
        'list',
      ),
    staleTime: LONG_MS,
  })
}

export function usePicture(conditions: Schemas['ConditionsIn'] | null) {
  return useQuery({
    queryKey: ['picture', conditions],
    queryFn: ({ signal }) =>
      kept(['picture', conditions], () =>
        answer(client.POST('/api/pictures', { body: conditions as Schemas['ConditionsIn'], signal })),
      ),
    enabled: conditions !== null,
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useForecast(waterId: number) {
  return useQuery({
    queryKey: ['forecast', waterId],
    queryFn: () =>
      answer(client.GET('/api/waters/{water_id}/forecast', { params: { path: { water_id: waterId } } })),
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useDayStrip(conditions: Schemas['ConditionsIn'], forecast: Schemas['ForecastHourIn'][]) {
  return useQuery({
    queryKey: ['day-strip', conditions, forecast],
    queryFn: ({ signal }) =>
      kept(['day-strip', conditions, forecast], () =>
        answer(client.POST('/api/day-strips', { body: { conditions, forecast }, signal })),
      ),
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

/** `ask` false waits: on two cores the whole plan would slow the first answer down. */
export function choicesQuery(body: Schemas['ChoicesIn']) {
  return queryOptions({
    queryKey: ['choices', body],
    queryFn: ({ signal }) =>
      kept(['choices', body], () => answer(client.POST('/api/choices', { body, signal }))),
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useChoices(body: Schemas['ChoicesIn'], ask = true) {
  return useQuery({ ...choicesQuery(body), enabled: ask, placeholderData: keepPreviousData })
}

export function useWeighing(body: Schemas['WeighingIn'] | null) {
  return useQuery({
    queryKey: ['weighing', body],
    queryFn: ({ signal }) =>
      kept(
        ['weighing', body],
        () => answer(client.POST('/api/weighings', { body: body as Schemas['WeighingIn'], signal })),
        'turned',
      ),
    enabled: body !== null,
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useSimulation(body: Schemas['SimulationIn'] | null) {
  return useQuery({
    queryKey: ['simulation', body],
    queryFn: ({ signal }) =>
      kept(
        ['simulation', body],
        () => answer(client.POST('/api/simulations', { body: body as Schemas['SimulationIn'], signal })),
        'turned',
      ),
    enabled: body !== null,
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useRun(body: Schemas['RunIn'] | null) {
  return useQuery({
    queryKey: ['run', body],
    queryFn: ({ signal }) =>
      kept(
        ['run', body],
        () => answer(client.POST('/api/runs', { body: body as Schemas['RunIn'], signal })),
        'turned',
      ),
    enabled: body !== null,
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useDays() {
  return useQuery({
    queryKey: ['days'],
    queryFn: () => answer(client.GET('/api/days', { params: { query: { limit: 60 } } })),
  })
}
