/** Which days are looked back at: kept in the address, so that it can be sent, reloaded and gone back to. */
import { useNavigate, useSearchParams } from 'react-router'
import type { DaysQuery } from '../../queries/lookback'

const NUMBERS = ['water_id', 'least_c', 'most_c', 'least_wind_mps', 'most_wind_mps'] as const
const TEXTS = ['text', 'from_date', 'to_date'] as const

type Said = string | number | null | undefined | number[]

export function useAsked(): [DaysQuery, (changes: DaysQuery) => void, URLSearchParams] {
  const [params] = useSearchParams()
  const navigate = useNavigate()
  const asked: DaysQuery = {}
  for (const name of NUMBERS) {
    const value = params.get(name)
    if (value !== null && value !== '' && Number.isFinite(Number(value))) asked[name] = Number(value)
  }
  for (const name of TEXTS) {
    const value = params.get(name)
    if (value) asked[name] = value
  }
  const months = params
    .getAll('months')
    .map(Number)
    .filter((month) => month >= 1 && month <= 12)
  if (months.length > 0) asked.months = months
  const change = (changes: DaysQuery) => {
    // The address and not the page drawn: the next page may still be on its way.
    const { pathname, search } = window.location
    const next = new URLSearchParams(search)
    for (const [name, value] of Object.entries(changes) as [string, Said][]) {
      next.delete(name)
      const values = Array.isArray(value) ? value : [value]
      for (const one of values) if (one != null && one !== '') next.append(name, String(one))
    }
    void navigate({ pathname, search: next.toString() }, { replace: true })
  }
  return [asked, change, params]
}

/** How many things are asked beside the water. */
export const narrowed = (asked: DaysQuery): number =>
  Object.keys(asked).filter((name) => name !== 'water_id').length
