import { describe, expect, test } from 'vitest'
import { at, brokenPath, runsOf, shadeOf, SHADES_C, type LakeDay } from './lakeYear'

const DEPTH_M = [0.25, 0.75, 1.5, 2.5]

function day(water_c: number[]): LakeDay {
  return {
    on: '2026-07-14',
    ahead: false,
    water_c,
    spread_c: water_c.map(() => 0.5),
    thermocline_m: null,
    oxygen_limit_m: null,
    ice_m: 0,
    ice_share: 0,
    wind_mps: 3,
  }
}

describe('the lake through the year', () => {
  test('a shade holds from its edge to below the next, and the ends hold what lies beyond', () => {
    expect([-1, 0, 3.99, 4, 24.9, 25, 40].map(shadeOf)).toEqual([0, 0, 0, 1, 9, 10, 10])
    expect(shadeOf(SHADES_C[5])).toBe(5)
  })

  test('layers of one shade are one run, and the runs fill the column', () => {
    const runs = runsOf(day([19, 18.2, 11, 6]), DEPTH_M)
    expect(runs.map((run) => [run.top_m, run.bottom_m])).toEqual([
      [0, 1],
      [1, 2],
      [2, 3],
    ])
    expect(runs.map((run) => run.shade)).toEqual([7, 3, 1])
  })

  test('a temperature is read between middles and held at the ends', () => {
    const one = day([20, 18, 12, 8])
    expect(at(one, DEPTH_M, 0)).toBe(20)
    expect(at(one, DEPTH_M, 0.5)).toBeCloseTo(19)
    expect(at(one, DEPTH_M, 2)).toBeCloseTo(10)
    expect(at(one, DEPTH_M, 30)).toBe(8)
  })

  test('a line is broken where there is none', () => {
    const line = brokenPath(
      [1, 2, null, 4],
      (i) => 10 * i,
      (m) => m,
    )
    expect(line).toBe('M0.0 1.0L10.0 2.0M30.0 4.0')
  })
})
