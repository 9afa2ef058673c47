/** The outing in hand: what was read and what is tied on. Kept on the device, so that a reload loses nothing. */
import { createContext, useCallback, useContext, useMemo, useState, type ReactNode } from 'react'
import type { Conditions, Day, Schemas, Water } from '../api/client'
import { clockAt } from '../format/clock'
import { inMps } from '../offline/speeds'
import { keptFlat, readFromFlat } from './flatOuting'
import { deeperOf, UNREAD, withDeeper, withRead } from './readings'
import { USUAL } from '../api/trade'

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
  towMps?: number
}

export interface Outing {
  /** Of the water: the device may be set to another. */
  timeZone: string
  /** What was read, as the server is asked. */
  conditions: Conditions
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

/** What a first look starts from: nothing is read yet, and what stands here is what the server assumes too. */
export function freshOuting(water: Water, atLocal = clockAt(water.time_zone)): Outing {
  return {
    timeZone: water.time_zone,
    conditions: {
      water_id: water.id,
      at_local: atLocal,
      readings: [{ depth_m: 0, water_c: 12, trusted: false }],
      oxygen: [],
      read_at_local: null,
      earlier: [],
      ice: false,
      place: null,
      wind_speed_mps: 4,
      wind_from_deg: 270,
      cloud_fraction: 0.6,
      secchi_m: water.usual_secchi_m,
      bottom_depth_m: water.usual_bottom_depth_m,
      far_bottom_depth_m: null,
      weed_m: 0,
      signs: [],
      sample: null,
      species: water.species,
      assumed: [...UNREAD],
    },
    leaderId: null,
    flyId: null,
    droppers: [],
    castM: USUAL.usualCastM,
    longLeaderOk: false,
    ...PLANNING,
    chosen: null,
  }
}

/** Start from the readings of an earlier day, at another time. */
export function outingLikeDay(water: Water, day: Day, atLocal: string): Outing {
  const conditions = { ...day.conditions, at_local: atLocal }
  return { ...freshOuting(water), conditions: withDeeper(conditions, deeperOf(conditions)) }
}

interface OutingState {
  outing: Outing | null
  change(changes: Partial<Outing>): void
  /** Something was read anew. */
  observe(changes: Partial<Conditions>): void
  replace(outing: Outing): void
  forget(): void
}

const Context = createContext<OutingState | null>(null)

function stored(key: string): Outing | null {
  try {
    const kept = inMps(JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<Outing> | null)
    // What an earlier version kept lacks the newer parts.
    if (!kept) return null
    const outing = { ...PLANNING, ...((keptFlat(kept) ? readFromFlat(kept) : kept) as Outing) }
    // In its old place where it is there: an answer is kept under its question as it is written.
    const { assumed = [] } = outing.conditions as Partial<Conditions>
    return { ...outing, conditions: { ...outing.conditions, assumed } }
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
  const observe = useCallback(
    (changes: Partial<Conditions>) =>
      setOuting((before) => {
        if (!before) return before
        const next = { ...before, own: null, conditions: withRead(before.conditions, changes) }
        localStorage.setItem(key, JSON.stringify(next))
        return next
      }),
    [key],
  )
  const forget = useCallback(() => {
    localStorage.removeItem(key)
    setOuting(null)
  }, [key])
  const value = useMemo(
    () => ({ outing, change, observe, replace, forget }),
    [outing, change, observe, replace, forget],
  )
  return <Context.Provider value={value}>{children}</Context.Provider>
}

export function useOuting(): OutingState {
  const state = useContext(Context)
  if (!state) throw new Error('useOuting needs an OutingProvider around it')
  return state
}
