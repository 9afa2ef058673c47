import { describe, expect, it } from 'vitest'
import { inMps } from './speeds'

describe('speeds of an earlier build', () => {
  it('get their names of now wherever they are kept', () => {
    const kept = {
      conditions: { wind_speed_ms: 4, assumed: ['wind_speed_ms', 'secchi_m'] },
      doing: { action: { kind: 'tow', tow_ms: 0.3 }, own: { towMs: 0.4 } },
      said: [
        { text: 'A wind of {wind_ms} bows the line after {fishes_s}.', values: { wind_ms: 7, fishes_s: 9 } },
      ],
    }
    expect(inMps(kept)).toEqual({
      conditions: { wind_speed_mps: 4, assumed: ['wind_speed_mps', 'secchi_m'] },
      doing: { action: { kind: 'tow', tow_mps: 0.3 }, own: { towMps: 0.4 } },
      said: [
        {
          text: 'A wind of {wind_mps} bows the line after {fishes_s}.',
          values: { wind_mps: 7, fishes_s: 9 },
        },
      ],
    })
  })

  it.each([
    null,
    3,
    'wind_speed_ms',
    [],
    {},
    [null, { retrieve_mps: 0.1 }],
    { notes: 'a {wind_ms} of mine' },
  ])('and %j stays as it is', (value) => {
    expect(inMps(value)).toEqual(value)
  })
})
