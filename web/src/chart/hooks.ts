/** What the chart asks of the server. */
import { keepPreviousData, useMutation } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import { api, thrown, useAskAgain } from '../queries/api'
import type { Point } from '../map/view'

const WORKED = { staleTime: 5 * 60_000, retry: false } as const
const STAYS = { ...WORKED, placeholderData: keepPreviousData } as const
const at = (water_id: number) => ({ params: { path: { water_id } } })

export function useShores(waterId: number, wind: Schemas['WindIn'], outlined: boolean) {
  const asked = { ...at(waterId), body: wind }
  return thrown(api.useQuery('post', '/api/waters/{water_id}/shores', asked, { ...STAYS, enabled: outlined }))
}

export function useStanding(waterId: number, wind: Schemas['WindIn'], castM: number, place: Point | null) {
  const body = { ...wind, x_m: place?.x ?? 0, y_m: place?.y ?? 0, cast_m: castM }
  return thrown(
    api.useQuery(
      'post',
      '/api/waters/{water_id}/standings',
      { ...at(waterId), body },
      { ...(place ? STAYS : WORKED), enabled: place !== null },
    ),
  )
}

export function useSection(waterId: number, wind: Schemas['WindIn'], line: readonly Point[]) {
  const [start, end] = line
  const corner = (point: Point | undefined): [number, number] => [point?.x ?? 0, point?.y ?? 0]
  const asked = { ...at(waterId), body: { ...wind, start: corner(start), end: corner(end) } }
  const enabled = end !== undefined
  return thrown(api.useQuery('post', '/api/waters/{water_id}/sections', asked, { ...WORKED, enabled }))
}

export function useStarts(body: Schemas['ConditionsIn']) {
  return thrown(api.useQuery('post', '/api/starts', { body }, STAYS))
}

interface ChartDone {
  kept(markId: number): void
  removed(): void
  drawn(): void
}

/** What can be changed on a chart; `refresh` asks for all that hangs on it anew. */
export function useChartChanges(waterId: number, done: ChartDone) {
  const again = useAskAgain()
  const refresh = () =>
    again(
      '/api/waters',
      '/api/waters/{water_id}/chart',
      '/api/waters/{water_id}/shores',
      '/api/waters/{water_id}/standings',
      '/api/waters/{water_id}/sections',
      '/api/starts',
    )
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
