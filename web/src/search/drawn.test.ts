import { describe, expect, it } from 'vitest'
import type { Drawn, Schemas } from '../api/client'
import { drawnFrom } from './drawn'

const fly = (name: string) => ({
  name,
  depth_m: [0, 2, 1],
  distance_m: [18, 12, 3],
  speed_mps: [0, 0.1, 0.1],
  across_m: [0, 0, 0],
})
const run = {
  time_s: [0, 20, 60],
  phase: ['count', 'retrieve', 'lift'],
  flies: [fly('black nymph')],
  thread_distance_m: [
    [0, 18],
    [0, 12],
    [0, 3],
  ],
  thread_depth_m: [
    [0, 0],
    [0, 2],
    [0, 1],
  ],
  thread_across_m: [
    [0, 0],
    [0, 0],
    [0, 0],
  ],
  side: {},
} as unknown as Drawn
const one = {
  key: 'step',
  method: 'tip',
  time_s: [0, 30, 90],
  depth_m: [[0, 3, 1.5]],
  flies: [{ name: 'olive nymph', fly_class: 2 }],
} as unknown as Schemas['PresentationIO']

describe('a run that nobody has run', () => {
  it('has the depths that the search drew and all else of the run that it was drawn from', () => {
    const drawn = drawnFrom(run, one)
    expect(drawn.time_s).toEqual([0, 30, 90])
    expect(drawn.flies[0]).toMatchObject({
      name: 'olive nymph',
      depth_m: [0, 3, 1.5],
      deepest_m: 3,
      end_depth_m: 1.5,
    })
    expect(drawn.flies[0]?.distance_m).toEqual([18, 12, 3])
    expect(drawn.phase).toEqual(['count', 'retrieve', 'lift'])
    expect(drawn.thread_depth_m).toEqual(run.thread_depth_m)
    expect(drawn.side).toBeNull()
  })
})
