import { describe, expect, it } from 'vitest'
import { fishOf, fishOn, isSo, KIND_WORDS, kindsThat, type EntryKey } from './kinds'

const log = (...kinds: EntryKey[]) => kinds.map((kind, i) => ({ kind, i }))
const fish = (...kinds: EntryKey[]) => fishOf(log(...kinds)).length

describe('fish in a log', () => {
  // The same lists as in the core's own test of which entries are one fish.
  it.each<[EntryKey[], number]>([
    [['cast', 'take', 'landed', 'cast', 'lost', 'cast', 'take'], 3],
    [['cast', 'take', 'seen', 'landed'], 1],
    [['cast', 'take', 'touched', 'lost'], 1],
    [['cast', 'take', 'cast', 'landed'], 2],
    [['cast', 'take', 'nothing', 'landed'], 2],
    [['cast', 'landed', 'landed'], 2],
    [['cast', 'knock', 'nothing', 'follow'], 0],
    [[], 0],
  ])('%j are %i', (kinds, many) => {
    expect(fish(...kinds)).toBe(many)
  })

  it('one that took is on until it is lost, landed or cast for again', () => {
    expect(fishOn(log('cast', 'take'))?.i).toBe(1)
    expect(fishOn(log('cast', 'take', 'seen', 'catching'))?.i).toBe(1)
    expect(fishOn(log('cast', 'take', 'lost'))).toBeNull()
    expect(fishOn(log('cast', 'take', 'landed'))).toBeNull()
    expect(fishOn(log('cast', 'take', 'cast'))).toBeNull()
    expect(fishOn([])).toBeNull()
  })
})

describe('the table of kinds', () => {
  it('has words for each, and every kind is of a cast, the water or the line', () => {
    for (const [kind, said] of Object.entries(KIND_WORDS)) {
      expect(said).not.toBe('')
      const key = kind as EntryKey
      expect([isSo(key, 'ofCast'), isSo(key, 'ofWater'), isSo(key, 'ofLine')].filter(Boolean)).toHaveLength(1)
    }
  })

  it('offers what can come of a cast in the order of its buttons', () => {
    expect(kindsThat('outcome')).toEqual(['nothing', 'knock', 'take', 'lost', 'landed'])
  })
})
