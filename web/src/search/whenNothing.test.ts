import { describe, expect, it } from 'vitest'
import { logBefore } from './log'
import { stepsOf } from './useWhenNothing'

const phrase = (text: string) => ({ text, values: {} })

describe('when nothing comes', () => {
  it('gives each step the minutes until the next, and the last none', () => {
    const rung = (text: string, minutes: number) => ({
      casts: 5,
      minutes,
      changes: 'way' as const,
      words: phrase(text),
      presentation: {},
    })
    expect(stepsOf(phrase('begin'), [rung('deeper', 12), rung('darker', 9)])).toEqual([
      { minutes: 12, words: phrase('begin') },
      { minutes: 9, words: phrase('deeper') },
      { minutes: null, words: phrase('darker') },
    ])
    expect(stepsOf(phrase('begin'), [])).toEqual([{ minutes: null, words: phrase('begin') }])
  })

  it('asks before the first cast with what is tied on and nothing logged', () => {
    const action = { kind: 'hang', set_depth_m: 2.5, drift_s: 180 }
    const run = { time_s: [0, 180], flies: [] }
    const log = logBefore({ key: 'a', line: 'floating', action, run } as never, 'fly-first')
    expect(log).toMatchObject({
      entries: [],
      now: 'now',
      school: 'fly-first',
      fished: { now: { set_depth_m: 2.5 } },
    })
  })
})
