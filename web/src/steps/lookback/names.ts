/** What a way is called: a range in the person's units, short; else its words. */
import type { Schemas } from '../../api/client'
import { scaleOf, toShown, words, type Quantity, type Units } from '../../format/units'

type Chart = Schemas['RatesOut']

const QUANTITIES: Partial<Record<Chart['by'], Quantity>> = {
  depth: 'depth',
  above_bottom: 'depth',
  temperature: 'temperature',
  wind: 'wind',
}

export function nameOf(by: Chart['by'], way: Schemas['RateOut'], units: Units): string {
  const { low, high } = way
  const quantity = QUANTITIES[by]
  if (by === 'hour' && low !== null) return `${clock(low)}–${clock(low + 1)} h`
  if (!quantity || low === null || high === null) return words(way.name, units)
  const short = (si: number) => String(Math.round(toShown(quantity, si, units)))
  const [a, b] = [short(low), short(high)]
  const { label } = scaleOf(quantity, units)
  return `${a === b ? a : `${a}–${b}`} ${label === 'Bft' ? 'Bft' : label}`
}

const clock = (hour: number) => String(hour % 24).padStart(2, '0')
