import { describe, expect, it } from 'vitest'
import type { LoggedEntry } from '../../offline/store'
import { castOpenIn } from './logging'

const logged = (...kinds: string[]) => kinds.map((kind, i) => ({ kind, at: 1000 * i }) as LoggedEntry)

describe('which cast is still in the water', () => {
  it('is the last, until something ends it', () => {
    expect(castOpenIn(logged('cast', 'knock', 'follow'))).toMatchObject({ wall: 0 })
    expect(castOpenIn(logged('cast', 'nothing', 'cast'))).toMatchObject({ wall: 2000 })
    for (const end of ['nothing', 'take', 'lost', 'landed'])
      expect(castOpenIn(logged('cast', end))).toBeNull()
    expect(castOpenIn(logged())).toBeNull()
  })

  it('stays over when only the end of its fish is taken back', () => {
    // Of cast, take, lost: what is left once "lost" is undone.
    expect(castOpenIn(logged('cast', 'take'))).toBeNull()
  })
})
