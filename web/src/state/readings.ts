/** The readings of a lowering: the surface first, then what is deeper. */
import type { Conditions, Schemas } from '../api/client'

type Reading = Schemas['ReadingIn']
type Read = Pick<Conditions, 'readings' | 'assumed'>
export type Assumed = Conditions['assumed'][number]
/** What a first look has not read: whatever stands in their places, the server puts what is usual there. */
export const UNREAD: readonly Assumed[] = [
  'surface_c',
  'wind_speed_mps',
  'wind_from_deg',
  'cloud_fraction',
  'secchi_m',
  'bottom_depth_m',
]

/** The reading at the surface; where there is none, the topmost stands for it. */
export function surfaceOf({ readings }: Pick<Read, 'readings'>): Reading {
  const top = readings.find((r) => r.depth_m === 0) ?? readings[0]
  return { depth_m: 0, water_c: top?.water_c ?? 12, trusted: top?.trusted ?? false }
}

export function deeperOf({ readings }: Pick<Read, 'readings'>): Reading[] {
  return readings.filter((r) => r.depth_m > 0)
}

export function withSurface<C extends Read>(conditions: C, waterC: number): C {
  return {
    ...conditions,
    readings: [{ depth_m: 0, water_c: waterC, trusted: false }, ...deeperOf(conditions)],
    assumed: without(conditions.assumed, 'surface_c'),
  }
}

/** The conditions with something read anew: it is no longer assumed, unless the change says so. */
export function withRead<C extends Conditions>(conditions: C, changes: Partial<Conditions>): C {
  return { ...conditions, assumed: without(conditions.assumed, ...Object.keys(changes)), ...changes }
}

/** The same place on another day: what changes with the day is not read yet, what hardly does stays. */
export function anew(conditions: Conditions, atLocal: string): Partial<Conditions> {
  const stays: readonly Assumed[] = ['secchi_m', 'bottom_depth_m']
  return {
    at_local: atLocal,
    read_at_local: null,
    readings: [surfaceOf(conditions)],
    oxygen: [],
    earlier: [],
    signs: [],
    sample: null,
    ice: false,
    assumed: UNREAD.filter((name) => !stays.includes(name) || conditions.assumed.includes(name)),
  }
}

export function without(assumed: readonly Assumed[], ...names: readonly string[]): Assumed[] {
  return assumed.filter((name) => !names.includes(name))
}

export function withDeeper<C extends Read>(conditions: C, deeper: Reading[]): C {
  return { ...conditions, readings: [surfaceOf(conditions), ...deeper] }
}

/** The reading at a depth trusted, or no longer. */
export function withTrust<C extends Read>(conditions: C, depthM: number, trusted: boolean): C {
  const readings = conditions.readings.map((r) => (r.depth_m === depthM ? { ...r, trusted } : r))
  return { ...conditions, readings }
}

/** The same of an oxygen reading. */
export function withBreathTrusted<C extends Pick<Conditions, 'oxygen'>>(
  conditions: C,
  depthM: number,
  trusted: boolean,
): C {
  const oxygen = conditions.oxygen.map((r) => (r.depth_m === depthM ? { ...r, trusted } : r))
  return { ...conditions, oxygen }
}
