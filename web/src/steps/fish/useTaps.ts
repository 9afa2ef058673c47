/** What a tap writes down: with the time, where in the cast it was, and which fly it came to as far as that is known. */
import { useState } from 'react'
import { interpolate } from '../../column/geometry'
import { fishOn, isSo } from '../../format/kinds'
import { moment, secondsSince, type Moment } from '../../offline/moments'
import { store, written, type Fishing, type Kind, type LoggedEntry, type Spot } from '../../offline/store'
import { log, type Said } from './logging'
import { phaseAt } from './phases'

/** Whether the fly is still in the water after it; of a fish that is landed, until it has been measured. */
const goesOn = (kind: Kind) => kind !== 'cast' && (kind === 'landed' || !isSo(kind, 'endsCast'))
/** Two taps closer than this are one tap of a cold finger. */
const DOUBLE_TAP_MS = 450
/** The log keeps times into a cast up to an hour: a fly left lying longer is where it was. */
const LONGEST_S = 3600
const LONGEST_FIGHT_MS = 30 * 60_000

interface Taps {
  fishing: Fishing
  /** What was logged and not taken back. */
  live: readonly LoggedEntry[]
  castAt: Moment | null
  setCastAt(castAt: Moment | null): void
  spot: Spot | null
}

export function useTaps({ fishing, live, castAt, setCastAt, spot }: Taps) {
  const { doing, landing } = fishing
  const [lastTap, setLastTap] = useState({ kind: '', at: 0 })
  async function tap(kind: Kind) {
    const at = Date.now()
    if (lastTap.kind === kind && at - lastTap.at < DOUBLE_TAP_MS) return
    setLastTap({ kind, at })
    const began = kind === 'cast' ? moment() : null
    if (!goesOn(kind)) setCastAt(began)
    const elapsedS = castAt && Math.min(Math.round(secondsSince(castAt) * 10) / 10, LONGEST_S)
    if (kind === 'landed') {
      const took = fishOn(live)
      const playedS = took && playedFor(took, at)
      await written(() =>
        store.fishing.update('now', {
          landing: { at, elapsedS: took ? took.elapsedS : elapsedS, playedS },
        }),
      )
      return
    }
    // A new cast says that the one before it came to nothing.
    if (kind === 'cast' && castAt !== null) await log(fishing, 'nothing', at - 1, elapsedS, { castAt: null })
    if (kind === 'cast') {
      await log(fishing, kind, at, null, { castAt: began, holding: null, spot: null }, { spot })
      return
    }
    const took = kind === 'lost' ? fishOn(live) : null
    const into = took ? took.elapsedS : elapsedS
    await log(fishing, kind, at, into, goesOn(kind) ? {} : { castAt: null }, cameAs(kind, took, into))
  }
  /** Which fly, where it can only be one or was said of the take, and when in the cast. */
  function cameAs(kind: Kind, took: LoggedEntry | null, intoS: number | null): Said {
    if (!isSo(kind, 'felt') && !isSo(kind, 'cameNear')) return {}
    if (took) return { fly: took.fly ?? null, phase: took.phase ?? null }
    return { ...usualFly(live, doing), phase: phaseAt(fishing, intoS) }
  }
  /** A fish that came to the fly and turned away: the cast goes on. */
  async function near(kind: 'follow' | 'refused') {
    const intoS = castAt && Math.min(Math.round(secondsSince(castAt) * 10) / 10, LONGEST_S)
    const point = fishing.run.flies[0]
    const depthM = point
      ? interpolate(fishing.run.time_s, point.depth_m, intoS ?? 0.5 * (fishing.run.time_s.at(-1) ?? 0))
      : 1
    await log(fishing, kind, Date.now(), intoS, {}, { depthM, ...cameAs(kind, null, intoS) })
  }
  async function land(said: Said) {
    if (!landing) return
    setLastTap({ kind: '', at: 0 })
    const holding = said.kept === false ? { at: Date.now() } : null
    const came = cameAs('landed', fishOn(live), landing.elapsedS)
    setCastAt(null)
    await log(
      fishing,
      'landed',
      landing.at,
      landing.elapsedS,
      { landing: null, castAt: null, holding },
      { ...came, ...said },
    )
  }
  return { tap, near, land }
}

/** Which fly it came to: the only one, or the one that every fish of this rig came to so far, two at least. */
function usualFly(entries: readonly LoggedEntry[], doing: Fishing['doing']): { fly?: number } {
  if (doing.fly_names.length === 1) return { fly: 0 }
  const told = entries
    .filter((e) => isSo(e.kind, 'felt') && typeof e.fly === 'number')
    .map((e) => e.fly as number)
  const [first] = told
  return first !== undefined && told.length > 1 && told.every((fly) => fly === first) ? { fly: first } : {}
}

/** How long it was on, in s; null where the tap of the take is too long ago to be of this fish's fight. */
function playedFor(took: LoggedEntry, at: number): number | null {
  if (at < took.at || at - took.at > LONGEST_FIGHT_MS) return null
  return Math.round((at - took.at) / 1000)
}
