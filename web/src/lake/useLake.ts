/** A water's lake: brought up to date once, then asked for. */
import { useEffect, useRef } from 'react'
import { api, thrown, useAskAgain } from '../queries/api'

const MINUTES_MS = 300_000

/** Have the lake carried on to now: the server asks for weather once an hour, and does nothing where nothing is new. */
export function useBroughtUp(waterId: number, enabled = true) {
  const params = { path: { water_id: waterId } }
  const asked = { staleTime: MINUTES_MS, gcTime: MINUTES_MS, retry: false, enabled }
  return thrown(api.useQuery('post', '/api/waters/{water_id}/lake', { params }, asked))
}

/** The same behind Read: whoever reads a water before its lake was carried on sees the picture drawn anew with it. */
export function useLakeBehind(waterId: number) {
  const brought = useBroughtUp(waterId)
  const again = useAskAgain()
  const seen = useRef(brought.dataUpdatedAt)
  const { dataUpdatedAt, data } = brought
  useEffect(() => {
    if (dataUpdatedAt === seen.current || data?.state !== 'fresh') return
    seen.current = dataUpdatedAt
    void again('/api/pictures', '/api/worths')
  }, [dataUpdatedAt, data, again])
}

export function useLakeYear(waterId: number, enabled: boolean) {
  const params = { path: { water_id: waterId } }
  return thrown(
    api.useQuery(
      'get',
      '/api/waters/{water_id}/lake-year',
      { params },
      { staleTime: 60_000, retry: false, enabled },
    ),
  )
}
