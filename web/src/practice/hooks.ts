/** Practice days and drills: a day is played by the server, or where it was taken along by this device. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { store, useLive, type Taken } from '../offline/store'
import { api, thrown } from '../queries/api'
import { usePerson } from '../state/person'
import { act, advise, again, bySchool, dayOf, letGo, takeAlong, type Act } from './device'

export type PracticeDay = Schemas['PracticeDayOut']
export type Drill = Schemas['DrillOut']

export const usePracticeDays = () =>
  thrown(api.useQuery('get', '/api/practice-days', {}, { meta: { kept: 'list' } }))
export const useDrills = () =>
  thrown(
    api.useQuery('get', '/api/drills', { params: { query: { limit: 200 } } }, { meta: { kept: 'list' } }),
  )

const at = (dayId: string) => ({ params: { path: { day_id: dayId } } })

/** The days that this device can play with no connection; undefined until it has looked. */
export function useTakenDays(): Taken[] | undefined {
  const { username } = usePerson()
  return useLive(() => store.taken.where('username').equals(username).toArray(), `taken:${username}`)
}

/** A day, from this device if it was taken along on it, else from the server. */
export function usePracticeDay(dayId: string) {
  const rows = useTakenDays()
  const taken = rows?.find((row) => row.dayId === dayId)
  const asked = thrown(
    useQuery({
      ...api.queryOptions('get', '/api/practice-days/{day_id}', at(dayId), { meta: { kept: 'worked' } }),
      enabled: rows !== undefined && !taken,
    }),
  )
  const kept = taken && dayOf(taken)
  return kept ? { day: kept, taken, error: null } : { day: asked.data, taken: undefined, error: asked.error }
}

/** The plan for a day, as it has been read; asked anew once something more is. */
export function usePracticePlan(dayId: string, taken: Taken | undefined) {
  const asked = thrown(
    useQuery({
      ...api.queryOptions('get', '/api/practice-days/{day_id}/plan', at(dayId), { staleTime: Infinity }),
      enabled: !taken,
    }),
  )
  return taken ? { data: taken.pack.plans[taken.plan], error: null, isFetching: false } : asked
}

/** What is done on a day: each answer is the day as it stands then. */
export function usePractise(day: PracticeDay, taken: Taken | undefined) {
  const queries = useQueryClient()
  const { username } = usePerson()
  const done = useMutation({
    networkMode: 'always',
    mutationFn: async (doing: Act) => {
      if (taken) {
        await act(taken.dayId, doing)
        return null
      }
      const params = { path: { day_id: day.id, number: day.acts } }
      return answer(client.PUT('/api/practice-days/{day_id}/acts/{number}', { params, body: doing }))
    },
    onSuccess: async (then, doing) => {
      if (!then) return
      queries.setQueryData(api.queryOptions('get', '/api/practice-days/{day_id}', at(day.id)).queryKey, then)
      void queries.invalidateQueries({ queryKey: ['get', '/api/practice-days'], exact: false })
      if (doing.kind === 'reading')
        await queries.invalidateQueries({
          queryKey: api.queryOptions('get', '/api/practice-days/{day_id}/plan', at(day.id)).queryKey,
        })
    },
  })
  const advice = useMutation({
    networkMode: 'always',
    mutationFn: () =>
      taken ? advise(taken) : answer(client.GET('/api/practice-days/{day_id}/advice', at(day.id))),
  })
  const take = useMutation({ mutationFn: () => takeAlong(username, day) })
  return { done, advice, take }
}

/** Deal another day on a water that this device has, and go there. */
export function useAgain() {
  const navigate = useNavigate()
  return useMutation({
    networkMode: 'always',
    mutationFn: ({ from, level }: { from: Taken; level: PracticeDay['level'] }) => again(from, level),
    onSuccess: (dayId) => void navigate(`/practice/${dayId}`),
  })
}

/** Forget a day, here and at the server. */
export function useForget(dayId: string) {
  const queries = useQueryClient()
  const navigate = useNavigate()
  return useMutation({
    networkMode: 'always',
    mutationFn: async () => {
      try {
        await answer(client.DELETE('/api/practice-days/{day_id}', at(dayId)))
      } catch (error) {
        // One that was dealt here and not sent yet, or forgotten elsewhere: there is nothing left to forget there.
        if (!(error instanceof Refusal && error.status === 404)) throw error
      }
      await letGo(dayId)
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['get', '/api/practice-days'], exact: false })
      void navigate('/practice')
    },
  })
}

/** What the app would have taken by another school, once the day has ended. */
export async function askSchool(
  dayId: string,
  taken: Taken | undefined,
  school: { key: string; name: string },
): Promise<Schemas['SchoolTakesOut']> {
  if (taken) return { name: school.name, takes: await bySchool(taken, school.key) }
  const path = { day_id: dayId, school: school.key }
  return answer(client.GET('/api/practice-days/{day_id}/schools/{school}', { params: { path } }))
}
