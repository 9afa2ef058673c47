import { describe, expect, it } from 'vitest'
import type { Fished, LoggedEntry, Search } from '../offline/store'
import { logOf } from './log'

const RUN = { time_s: [0, 60], flies: [{ name: 'black pupa', depth_m: [0, 2] }] }
const fished = (id: string, action: object, key: string | null = null) =>
  ({ id, dayId: 'd', at: 0, key, line: 'Type 3', action, run: RUN }) as unknown as Fished
const entry = (kind: string, at: number, more: object = {}) =>
  ({
    id: `${kind}${at}`,
    kind,
    at,
    order: at,
    presentationId: 'a',
    elapsedS: null,
    undone: 0,
    ...more,
  }) as unknown as LoggedEntry
const search = (more: Partial<Search> = {}) =>
  ({
    dayId: 'd',
    begunAt: 1000,
    refused: [],
    school: 'best',
    heard: [],
    changes: [],
    ...more,
  }) as unknown as Search

describe('the day that the core is told', () => {
  const casts = [fished('a', { kind: 'cast' }), fished('b', { kind: 'hang', set_depth_m: 3 }, 'planned')]

  it('has what was fished by its run, and a float with its depth', () => {
    const { fished: told } = logOf(search(), casts, [], 1000, 'a')
    expect(told.a).toMatchObject({
      key: null,
      kind: 'cast',
      line: 'Type 3',
      set_depth_m: null,
      time_s: [0, 60],
    })
    expect(told.b).toMatchObject({ key: 'planned', kind: 'hang', set_depth_m: 3 })
  })

  it('has every entry since it began, but what was undone, in the order in which it was logged', () => {
    const told = logOf(
      search({
        heard: [{ kind: 'seen', depthM: 1.5, at: 4000 }],
        changes: [{ at: 6000, what: 'wind', stated: [1], wanted: [1], centresM: [2], ratePmin: 0.1 }],
      }),
      casts,
      [
        entry('cast', 2000, { spot: { toward: 1, far: true } }),
        entry('knock', 5000, { elapsedS: 3 }),
        entry('take', 3000, { undone: 1 }),
      ],
      9000,
      'a',
    )
    expect(told.entries).toMatchObject([
      { kind: 'cast', at_s: 1, fished: 'a', toward: 1, far: true },
      { kind: 'seen', at_s: 3, depth_m: 1.5 },
      { kind: 'knock', at_s: 4, elapsed_s: 3 },
      { kind: 'changed', at_s: 5, stated: [1], wanted: [1], centres_m: [2], rate_pmin: 0.1 },
    ])
    expect(told.now_s).toBe(8)
  })

  it('asks as the angler wants to be answered, and names what is tied on only where it is known', () => {
    const told = logOf(search({ school: 'stay', mostMin: 8, rods: 2 }), casts, [], 1000, 'elsewhere')
    expect(told).toMatchObject({ school: 'stay', most_min: 8, rods: 2, now: null })
    expect(logOf(search(), casts, [], 1000, 'b')).toMatchObject({ now: 'b', most_min: null, rods: 1 })
  })
})
