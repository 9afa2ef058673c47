/** The outing in hand: what was read and what is tied on. Kept on the device, so that a reload loses nothing. */
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react'
import type { Conditions, Day, Schemas, Water } from '../api/client'
import { clockAt } from '../format/clock'

export interface Chosen {
  line: Schemas['LineIn']
  countS: number
  retrieveKey: string
  retrieveMps: number
}

/** What the angler has changed on one choice of the plan; it holds until anything else is changed. */
export interface OwnChange {
  methodKey: string
  countS?: number
  retrieveMps?: number
  setDepthM?: number
  towMs?: number
}

export interface Outing {
  waterId: number
  /** Of the water: the device may be set to another. */
  timeZone: string
  /** Clock time at the water, `YYYY-MM-DDTHH:MM`. */
  atLocal: string
  surfaceC: number
  /** Readings below the surface, in any order. */
  deeper: Schemas['ReadingIn'][]
  /** The angler has checked a surface reading that looks odd. */
  surfaceTrusted: boolean
  oxygen: Schemas['OxygenReadingIn'][]
  /** Clock time of the readings; `null` is `atLocal`. */
  readAtLocal: string | null
  /** What was read earlier in the day. */
  earlier: Schemas['LoweringIn'][]
  ice: boolean
  /** Where on the chart the angler stands. */
  place: Schemas['PlaceIn'] | null
  windMs: number
  windFromDeg: number
  cloudFraction: number
  secchiM: number
  bottomM: number
  /** Under the end of the cast, where it differs. */
  farBottomM: number | null
  weedM: number
  /** Keys of the food signs that were seen. */
  signs: string[]
  sample: Schemas['SampleIn'] | null
  species: string
  leaderId: number | null
  flyId: number | null
  /** Flies above the point, lowest first. */
  droppers: { flyId: number; aboveM: number }[]
  castM: number
  longLeaderOk: boolean
  rigView: 'method' | 'line'
  /** How the plan is made: rod, boat, school, and what is decided beforehand. */
  rodM: number
  /** The line the rod casts, or null when it is not known. */
  rodNumber: number | null
  boat: boolean
  schoolKey: Schemas['ChoicesIn']['school_key']
  fluorocarbon: Schemas['ChoicesIn']['fluorocarbon']
  pressed: boolean
  pins: { methodKey: string | null; lineName: string | null; flyName: string | null }
  chosen: Chosen | null
  own: OwnChange | null
}

export function conditionsOf(outing: Outing): Conditions {
  return {
    water_id: outing.waterId,
    at_local: outing.atLocal,
    readings: [{ depth_m: 0, water_c: outing.surfaceC, trusted: outing.surfaceTrusted }, ...outing.deeper],
    oxygen: outing.oxygen,
    read_at_local: outing.readAtLocal,
    earlier: outing.earlier,
    ice: outing.ice,
    place: outing.place,
    wind_speed_ms: outing.windMs,
    wind_from_deg: outing.windFromDeg,
    cloud_fraction: outing.cloudFraction,
    secchi_m: outing.secchiM,
    bottom_depth_m: outing.bottomM,
    far_bottom_depth_m: outing.farBottomM,
    weed_m: outing.weedM,
    signs: outing.signs,
    sample: outing.sample,
    species: outing.species,
  }
}

const PLANNING = {
  rigView: 'method' as const,
  rodM: 3.05,
  rodNumber: null,
  boat: false,
  schoolKey: 'best' as const,
  fluorocarbon: 'when-bright' as const,
  pressed: false,
  pins: { methodKey: null, lineName: null, flyName: null },
  own: null,
}
const NOTHING_MORE = {
  surfaceTrusted: false,
  oxygen: [],
  readAtLocal: null,
  earlier: [],
  ice: false,
  place: null,
}

/** What a first look starts from: the water's usual depth and clarity, a mild day. */
export function freshOuting(water: Water, atLocal = clockAt(water.time_zone)): Outing {
  return {
    waterId: water.id,
    timeZone: water.time_zone,
    atLocal,
    surfaceC: 12,
    deeper: [],
    ...NOTHING_MORE,
    windMs: 4,
    windFromDeg: 225,
    cloudFraction: 0.3,
    secchiM: water.usual_secchi_m,
    bottomM: water.usual_bottom_depth_m,
    farBottomM: null,
    weedM: 0,
    signs: [],
    sample: null,
    species: water.species,
    leaderId: null,
    flyId: null,
    droppers: [],
    castM: 18,
    longLeaderOk: false,
    ...PLANNING,
    chosen: null,
  }
}

/** Start from the readings of an earlier day. */
export function outingLikeDay(water: Water, day: Day, atLocal: string): Outing {
  const [surface, ...deeper] = day.readings
  return {
    ...freshOuting(water, atLocal),
    surfaceC: surface?.water_c ?? 12,
    deeper: deeper.map((r) => ({ ...r })),
    surfaceTrusted: surface?.trusted ?? false,
    oxygen: day.oxygen,
    readAtLocal: day.read_at_local,
    earlier: day.earlier,
    place: day.place,
    windMs: day.wind_speed_ms,
    windFromDeg: day.wind_from_deg,
    cloudFraction: day.cloud_fraction,
    secchiM: day.secchi_m,
    bottomM: day.bottom_depth_m,
    farBottomM: day.far_bottom_depth_m,
    weedM: day.weed_m,
    signs: day.signs,
    sample: day.sample,
    species: day.species,
  }
}

interface OutingState {
  outing: Outing | null
  change(changes: Partial<Outing>): void
  replace(outing: Outing): void
}

const Context = createContext<OutingState | null>(null)

function stored(key: string): Outing | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<Outing> | null
    // What an earlier version kept lacks the newer parts.
    return (
      kept &&
      ({
        ...NOTHING_MORE,
        timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
        farBottomM: null,
        weedM: 0,
        droppers: [],
        signs: [],
        sample: null,
        ...PLANNING,
        ...kept,
      } as Outing)
    )
  } catch {
    return null
  }
}

export function OutingProvider({ username, children }: { username: string; children: ReactNode }) {
  const key = `outing:${username}`
  const [outing, setOuting] = useState<Outing | null>(() => stored(key))
  const replace = useCallback(
    (next: Outing) => {
      localStorage.setItem(key, JSON.stringify(next))
      setOuting(next)
    },
    [key],
  )
  const change = useCallback(
    (changes: Partial<Outing>) =>
      setOuting((before) => {
        if (!before) return before
        const own = Object.keys(changes).every((name) => name === 'rigView') ? before.own : null
        const next = { ...before, own, ...changes }
        localStorage.setItem(key, JSON.stringify(next))
        return next
      }),
    [key],
  )
  const value = useMemo(() => ({ outing, change, replace }), [outing, change, replace])
  return <Context.Provider value={value}>{children}</Context.Provider>
}

export function useOuting(): OutingState {
  const state = useContext(Context)
  if (!state) throw new Error('useOuting needs an OutingProvider around it')
  return state
}
