/** The readings of a lowering: the surface first, then what is deeper. */
import type { Conditions, Schemas } from '../api/client'

type Reading = Schemas['ReadingIn']
type Read = Pick<Conditions, 'readings'>

/** The reading at the surface; where there is none, the topmost stands for it. */
export function surfaceOf({ readings }: Read): Reading {
  const top = readings.find((r) => r.depth_m === 0) ?? readings[0]
  return { depth_m: 0, water_c: top?.water_c ?? 12, trusted: top?.trusted ?? false }
}

export function deeperOf({ readings }: Read): Reading[] {
  return readings.filter((r) => r.depth_m > 0)
}

export function withSurface<C extends Read>(conditions: C, waterC: number): C {
  return {
    ...conditions,
    readings: [{ depth_m: 0, water_c: waterC, trusted: false }, ...deeperOf(conditions)],
  }
}

export function withDeeper<C extends Read>(conditions: C, deeper: Reading[]): C {
  return { ...conditions, readings: [surfaceOf(conditions), ...deeper] }
}

/** The reading at a depth trusted, or no longer. */
export function withTrust<C extends Read>(conditions: C, depthM: number, trusted: boolean): C {
  const readings = conditions.readings.map((r) => (r.depth_m === depthM ? { ...r, trusted } : r))
  return { ...conditions, readings }
}
