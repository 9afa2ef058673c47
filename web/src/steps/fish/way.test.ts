import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import type { Fishing, Search } from '../../offline/store'
import { wayTo } from './useChange'

const one = {
  key: 'step',
  method: 'tip',
  time_s: [0, 30, 90],
  depth_m: [[0, 3, 1.5]],
  flies: [{ name: 'olive nymph', fly_class: 2 }],
} as unknown as Schemas['PresentationIO']

describe('how a step is tied', () => {
  const placed = (name: string) => ({ fly: { name }, above_point_m: 0, dropper_m: 0 })
  const rig = { line: { name: 'Type 3' }, leader: {}, flies: [placed('black nymph')] }
  const search = {
    table: { options: [] },
    fish: { now: { rig, action: {} } },
    tie: { 'olive nymph': { name: 'olive nymph' } },
  } as unknown as Search
  const best = {
    key: 'step',
    presentation: one,
    fish: { action: { kind: 'cast' }, like: 'now' },
  } as unknown as Schemas['BestOut']

  it('is the rig that it steps from with the flies it names', () => {
    expect(wayTo(best, search, {} as Fishing)?.rig.flies[0]?.fly.name).toBe('olive nymph')
  })

  it('is from what is tied on, where that is not on the table', () => {
    const own = { rig: { ...rig, line: { name: 'my line' } } } as unknown as Fishing
    const stepped = { ...best, fish: { action: {}, like: 'a1' } } as unknown as Schemas['BestOut']
    expect(wayTo(stepped, search, own)?.rig.line.name).toBe('my line')
  })

  it('is not known without the fly or the rig', () => {
    expect(wayTo(best, { ...search, tie: {} }, {} as Fishing)).toBeNull()
    expect(wayTo({ ...best, fish: null }, search, {} as Fishing)).toBeNull()
    expect(wayTo(best, { ...search, fish: {} }, {} as Fishing)).toBeNull()
  })
})
