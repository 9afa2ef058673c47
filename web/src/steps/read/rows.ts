/** Readings as they are typed, row by row, in the angler's units, and as they are sent. */
import type { Schemas } from '../../api/client'
import { RANGES } from '../../api/ranges'
import { fromShown, toShown, type Units } from '../../format/units'

export type Reading = Schemas['ReadingIn']
export type Oxygen = Schemas['OxygenReadingIn']

export interface Row {
  depth: string
  temperature: string
  oxygen: string
}
export const EMPTY: Row = { depth: '', temperature: '', oxygen: '' }

export function rowsOf(readings: readonly Reading[], oxygen: readonly Oxygen[], units: Units): Row[] {
  const text = (n: number) => String(Math.round(n * 10) / 10)
  const depths = [...new Set([...readings, ...oxygen].map((r) => r.depth_m))].sort((a, b) => a - b)
  return depths.map((depth_m) => {
    const reading = readings.find((r) => r.depth_m === depth_m)
    const breath = oxygen.find((r) => r.depth_m === depth_m)
    return {
      depth: text(toShown('depth', depth_m, units)),
      temperature: reading ? text(toShown('temperature', reading.water_c, units)) : '',
      oxygen: breath ? text(breath.oxygen_mgl) : '',
    }
  })
}

interface Typed {
  readings: Reading[]
  oxygen: Oxygen[]
  message: string | null
}

/** Read the rows as SI; stops at the first that is no reading and says why. Rows still being typed are passed over. */
export function readRows(
  rows: readonly Row[],
  before: readonly Reading[],
  units: Units,
  breathed: readonly Oxygen[] = [],
): Typed {
  const readings: Reading[] = []
  const oxygen: Oxygen[] = []
  let last = -1
  for (const [i, row] of rows.entries()) {
    const [depth, temperature, breath] = [row.depth, row.temperature, row.oxygen].map((t) =>
      t.trim() ? Number(t.replace(',', '.')) : null,
    )
    if (depth == null || (temperature == null && breath == null)) continue
    const refuse = (why: string) => ({ readings, oxygen, message: `Row ${i + 1}: ${why}` })
    if ([depth, temperature, breath].some(Number.isNaN)) return refuse('type numbers.')
    const depth_m = fromShown('depth', depth, units)
    if (outside(depth_m, RANGES.ReadingIn.depth_m))
      return refuse('that depth is above the surface, or below 100 m.')
    if (depth_m <= last) return refuse('list depths from the surface down.')
    last = depth_m
    if (temperature != null) {
      const water_c = fromShown('temperature', temperature, units)
      if (depth_m === 0) return refuse('the temperature at the top stands above.')
      if (outside(water_c, RANGES.ReadingIn.water_c)) return refuse('water is between −1 and 40 °C.')
      const trusted = before.some(
        (r) => r.trusted && r.depth_m === depth_m && Math.abs(r.water_c - water_c) < 0.05,
      )
      readings.push({ depth_m, water_c, trusted })
    }
    if (breath != null) {
      if (outside(breath, RANGES.OxygenReadingIn.oxygen_mgl))
        return refuse('oxygen is between 0 and 25 mg/L.')
      const trusted = breathed.some((r) => r.trusted && r.depth_m === depth_m && r.oxygen_mgl === breath)
      oxygen.push({ depth_m, oxygen_mgl: breath, trusted })
    }
  }
  return { readings, oxygen, message: null }
}

function outside(value: number, [least, most]: readonly [number, number]): boolean {
  return value < least || value > most
}
