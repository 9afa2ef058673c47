/** Practice days and drills, asked of the server; nothing of them is kept for a day without signal. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../api/client'
import { api, thrown } from '../queries/api'

export type PracticeDay = Schemas['PracticeDayOut']
export type Drill = Schemas['DrillOut']

export const usePracticeDays = () => thrown(api.useQuery('get', '/api/practice-days', {}))
export const useDrills = () =>
  thrown(api.useQuery('get', '/api/drills', { params: { query: { limit: 200 } } }))

const at = (dayId: string) => ({ params: { path: { day_id: dayId } } })

export const usePracticeDay = (dayId: string) =>
  thrown(api.useQuery('get', '/api/practice-days/{day_id}', at(dayId)))

/** The plan for a day, as it has been read; asked anew once something more is. */
export const usePracticePlan = (dayId: string) =>
  thrown(api.useQuery('get', '/api/practice-days/{day_id}/plan', at(dayId), { staleTime: Infinity }))

/** What is done on a day: each answer is the day as it stands then. */
export function usePractise(dayId: string) {
  const queries = useQueryClient()
  const stands = (day: PracticeDay) => {
    queries.setQueryData(api.queryOptions('get', '/api/practice-days/{day_id}', at(dayId)).queryKey, day)
    void queries.invalidateQueries({ queryKey: ['get', '/api/practice-days'], exact: false })
  }
  const planned = () =>
    queries.invalidateQueries({
      queryKey: api.queryOptions('get', '/api/practice-days/{day_id}/plan', at(dayId)).queryKey,
    })
  const read = useMutation({
    mutationFn: (reading: Schemas['PracticeReadingIn']['reading']) =>
      answer(client.POST('/api/practice-days/{day_id}/readings', { ...at(dayId), body: { reading } })),
    onSuccess: (day) => {
      stands(day)
      return planned()
    },
  })
  const move = useMutation({
    mutationFn: () => answer(client.POST('/api/practice-days/{day_id}/moves', at(dayId))),
    onSuccess: stands,
  })
  const cast = useMutation({
    mutationFn: (body: Schemas['PracticeCastIn']) =>
      answer(client.POST('/api/practice-days/{day_id}/casts', { ...at(dayId), body })),
    onSuccess: stands,
  })
  const end = useMutation({
    mutationFn: () => answer(client.POST('/api/practice-days/{day_id}/end', at(dayId))),
    onSuccess: stands,
  })
  const advise = useMutation({
    mutationFn: () => answer(client.GET('/api/practice-days/{day_id}/advice', at(dayId))),
  })
  return { read, move, cast, end, advise }
}
