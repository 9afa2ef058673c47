import { describe, expect, it } from 'vitest'
import type { Action } from '../api/client'
import { DEFAULT_UNITS } from '../format/units'
import { sameAction, wayOf } from './ways'

const CAST = {
  kind: 'cast',
  count_s: 20,
  retrieve_name: 'Slow twist',
  retrieve_mps: 0.05,
  retrieve_rhythm: 'an inch at a time',
  pull_s: 1,
  pause_s: 2,
  mends_s: [15],
} as unknown as Action
const HANG = {
  kind: 'hang',
  set_depth_m: 3,
  indicator: 'sliding',
  drift_s: 180,
  mends_s: [60],
} as unknown as Action
const TOW = { kind: 'tow', out_m: 25, tow_mps: 0.3, for_s: 180 } as unknown as Action
const EVERY = [CAST, HANG, TOW]
const run = (recastAtS: number | null) =>
  ({ side: recastAtS === null ? null : { recast_at_s: recastAtS } }) as never

describe('what is done with a rig', () => {
  it.each([
    [CAST, 'Type 3, count 20', 'Slow twist, 5.0 cm/s: an inch at a time.'],
    [HANG, 'Sliding float at 3.00 m', 'Leave it alone; mend, and recast when the line bows.'],
    [TOW, 'Type 3, 25.0 m out', 'Let the boat go at 30 cm/s.'],
  ])('says itself: %#', (action, headline, hands) => {
    expect(wayOf(action).headline('Type 3', action, DEFAULT_UNITS)).toBe(headline)
    expect(wayOf(action).handling(action, DEFAULT_UNITS)).toBe(hands)
  })

  it('calls the hands at its count, when a float is dragged, and never of a tow', () => {
    expect(EVERY.map((one) => wayOf(one).signalS(one, run(null)))).toEqual([20, 180, null])
    expect(wayOf(HANG).signalS(HANG, run(95))).toBe(95)
    expect(EVERY.map((one) => wayOf(one).mendsS(one))).toEqual([[15], [60], []])
    expect(EVERY.map((one) => wayOf(one).rhythm(one)?.pullS ?? null)).toEqual([1, null, null])
  })

  it('is turned by seconds or tenths of a metre, and no further than it goes', () => {
    expect(wayOf(CAST).turned(CAST, 5)).toMatchObject({ count_s: 25 })
    expect(wayOf(CAST).turned(CAST, -50)).toMatchObject({ count_s: 0 })
    expect(wayOf(HANG).turned(HANG, -5)).toMatchObject({ set_depth_m: 2.5 })
    expect(wayOf(HANG).turned(HANG, -99)).toMatchObject({ set_depth_m: 0.4 })
    expect(wayOf(TOW).turned(TOW, 5)).toBe(TOW)
  })

  it('takes what the angler turned of it and leaves the rest', () => {
    const own = { methodKey: 'x', countS: 9, setDepthM: 2, towMps: 0.5 }
    expect(wayOf(CAST).withOwn(CAST, own)).toMatchObject({ count_s: 9, retrieve_mps: 0.05 })
    expect(wayOf(HANG).withOwn(HANG, own)).toMatchObject({ set_depth_m: 2 })
    expect(wayOf(TOW).withOwn(TOW, own)).toMatchObject({ tow_mps: 0.5, out_m: 25 })
  })

  it('is the same to a hand within what a hand tells apart', () => {
    expect(sameAction(CAST, { ...CAST, count_s: 20.01 } as Action)).toBe(true)
    expect(sameAction(CAST, { ...CAST, count_s: 21 } as Action)).toBe(false)
    expect(sameAction(CAST, { ...CAST, retrieve_mps: 0.1 } as Action)).toBe(false)
    expect(sameAction(HANG, { ...HANG, set_depth_m: 3.1 } as Action)).toBe(false)
    expect(sameAction(HANG, CAST)).toBe(false)
    expect(sameAction(TOW, TOW)).toBe(true)
  })
})
