/** An outing as it was kept before its conditions were those of the contract: a name of its own for each. */
import type { Conditions, Schemas } from '../api/client'

interface Flat {
  waterId: number
  timeZone?: string
  atLocal: string
  surfaceC: number
  deeper: Schemas['ReadingIn'][]
  surfaceTrusted?: boolean
  oxygen?: Schemas['OxygenReadingIn'][]
  readAtLocal?: string | null
  earlier?: Schemas['LoweringIn'][]
  ice?: boolean
  place?: Schemas['PlaceIn'] | null
  windMs: number
  windFromDeg: number
  cloudFraction: number
  secchiM: number
  bottomM: number
  farBottomM?: number | null
  weedM?: number
  signs?: string[]
  sample?: Schemas['SampleIn'] | null
  species: string
}

export function keptFlat(kept: object): kept is Flat {
  return !('conditions' in kept)
}

/** The same with its conditions as one; the rest was called then what it is now. */
export function readFromFlat(kept: Flat) {
  const {
    waterId,
    timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone,
    atLocal,
    surfaceC,
    deeper,
    surfaceTrusted = false,
    oxygen = [],
    readAtLocal = null,
    earlier = [],
    ice = false,
    place = null,
    windMs,
    windFromDeg,
    cloudFraction,
    secchiM,
    bottomM,
    farBottomM = null,
    weedM = 0,
    signs = [],
    sample = null,
    species,
    ...rest
  } = kept
  const conditions: Conditions = {
    water_id: waterId,
    at_local: atLocal,
    readings: [{ depth_m: 0, water_c: surfaceC, trusted: surfaceTrusted }, ...deeper],
    oxygen,
    read_at_local: readAtLocal,
    earlier,
    ice,
    place,
    wind_speed_mps: windMs,
    wind_from_deg: windFromDeg,
    cloud_fraction: cloudFraction,
    secchi_m: secchiM,
    bottom_depth_m: bottomM,
    far_bottom_depth_m: farBottomM,
    weed_m: weedM,
    signs,
    sample,
    species,
    assumed: [],
  }
  return {
    droppers: [],
    ...rest,
    timeZone,
    conditions,
  }
}
