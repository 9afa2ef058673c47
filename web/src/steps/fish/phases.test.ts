import { describe, expect, it } from 'vitest'
import type { Fishing } from '../../offline/store'
import { phaseAt, phasesOf } from './phases'

const cast = {
  doing: { action: { kind: 'cast' } },
  run: {
    time_s: [0, 10, 20, 40, 42, 47],
    phase: ['count', 'count', 'retrieve', 'lift', 'hang', 'hang'],
    flies: [],
  },
} as unknown as Fishing
const float = {
  doing: { action: { kind: 'hang' } },
  run: { time_s: [0, 90], phase: ['count', 'count'], flies: [{ settle_s: 25 }, { settle_s: 12 }] },
} as unknown as Fishing

describe('when in the cast something came', () => {
  it('is told by the clock of the cast', () => {
    expect([0, 12, 20, 30, 41, 45].map((s) => phaseAt(cast, s))).toEqual([
      'drop',
      'drop',
      'pull',
      'pull',
      'lift',
      'hang',
    ])
  })

  it('is the hang once the cast is over, and unknown where nobody timed it', () => {
    expect(phaseAt(cast, 300)).toBe('hang')
    expect(phaseAt(cast, null)).toBeNull()
  })

  it('is the drop under a float until its slowest fly has settled', () => {
    expect([5, 24, 26].map((s) => phaseAt(float, s))).toEqual(['drop', 'drop', 'rest'])
    expect(phasesOf(float)).not.toContain('pull')
    expect(phasesOf(cast)).toContain('stop')
  })
})
