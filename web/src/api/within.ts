/** What a form may offer: the range that the contract gives a number. */
import { RANGES } from './ranges'

type Ranges = typeof RANGES

export function within<S extends keyof Ranges>(schema: S, field: keyof Ranges[S]) {
  const [least, most] = RANGES[schema][field] as readonly [number, number]
  return { least, most }
}
