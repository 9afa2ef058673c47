/** What the chart asks of the server. */
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import type { Point } from './view'

const LONG_MS = 5 * 60_000
const at = (water_id: number) => ({ params: { path: { water_id } } })

export function useChart(waterId: number) {
  return useQuery({
    queryKey: ['chart', waterId],
    queryFn: () => answer(client.GET('/api/waters/{water_id}/chart', at(waterId))),
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useShores(waterId: number, wind: Schemas['WindIn'], outlined: boolean) {
  return useQuery({
    queryKey: ['chart', waterId, 'shores', wind],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/waters/{water_id}/shores', { ...at(waterId), body: wind, signal })),
    enabled: outlined,
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useStanding(waterId: number, wind: Schemas['WindIn'], castM: number, place: Point | null) {
  return useQuery({
    queryKey: ['chart', waterId, 'standing', wind, castM, place],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/waters/{water_id}/standings', {
          ...at(waterId),
          body: { ...wind, x_m: place?.x ?? 0, y_m: place?.y ?? 0, cast_m: castM },
          signal,
        }),
      ),
    enabled: place !== null,
    placeholderData: place ? keepPreviousData : undefined,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useSection(waterId: number, wind: Schemas['WindIn'], line: readonly Point[]) {
  const [start, end] = line
  return useQuery({
    queryKey: ['chart', waterId, 'section', wind, start, end],
    queryFn: ({ signal }) =>
      answer(
        client.POST('/api/waters/{water_id}/sections', {
          ...at(waterId),
          body: { ...wind, start: [start?.x ?? 0, start?.y ?? 0], end: [end?.x ?? 0, end?.y ?? 0] },
          signal,
        }),
      ),
    enabled: end !== undefined,
    staleTime: LONG_MS,
    retry: false,
  })
}

export function useStarts(conditions: Schemas['ConditionsIn'] | null) {
  return useQuery({
    queryKey: ['chart', conditions?.water_id, 'starts', conditions],
    queryFn: ({ signal }) =>
      answer(client.POST('/api/starts', { body: conditions as Schemas['ConditionsIn'], signal })),
    enabled: conditions !== null,
    placeholderData: keepPreviousData,
    staleTime: LONG_MS,
    retry: false,
  })
}

interface ChartDone {
  kept(markId: number): void
  removed(): void
  drawn(): void
}

/** What can be changed on a chart; `refresh` asks for all that hangs on it anew. */
export function useChartChanges(waterId: number, done: ChartDone) {
  const queries = useQueryClient()
  const refresh = async () => {
    await queries.invalidateQueries({ queryKey: ['chart', waterId] })
    await queries.invalidateQueries({ queryKey: ['waters'] })
  }
  const keep = useMutation({
    mutationFn: (body: Schemas['MarkIn']) =>
      answer(client.POST('/api/waters/{water_id}/marks', { params: { path: { water_id: waterId } }, body })),
    onSuccess: async (mark) => {
      await refresh()
      done.kept(mark.id)
    },
  })
  const remove = useMutation({
    mutationFn: (mark_id: number) =>
      answer(
        client.DELETE('/api/waters/{water_id}/marks/{mark_id}', {
          params: { path: { water_id: waterId, mark_id } },
        }),
      ),
    onSuccess: async () => {
      done.removed()
      await refresh()
    },
  })
  const draw = useMutation({
    mutationFn: (ring_m: [number, number][]) =>
      answer(
        client.PUT('/api/waters/{water_id}/outline', {
          params: { path: { water_id: waterId } },
          body: { ring_m },
        }),
      ),
    onSuccess: async () => {
      done.drawn()
      await refresh()
    },
  })
  return { refresh, keep, remove, draw }
}
