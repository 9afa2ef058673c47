import { describe, expect, it } from 'vitest'
import { interpolate, layOut, nearestIndex, TOP_PX } from './geometry'

describe('the lanes of the Column', () => {
  const sizes = [320, 360, 390, 430, 559, 560, 800, 1280].flatMap((width) =>
    [true, false].map((withRig) => [width, withRig] as const),
  )

  it.each(sizes)('lie side by side inside a drawing %i px wide, with a rig: %s', (width, withRig) => {
    const { ruler, temperature, section, feeding } = layOut(width, 420, 9, withRig)
    expect(ruler.left).toBe(0)
    expect(temperature.left).toBe(ruler.width)
    expect(section.left).toBeGreaterThanOrEqual(temperature.left + temperature.width)
    if (withRig) expect(section.width).toBeGreaterThan(60)
    expect(feeding.left).toBeGreaterThanOrEqual(section.left + section.width)
    expect(feeding.left + feeding.width).toBe(width)
  })

  it.each([0.3, 4, 9, 40, 100])(
    'put the surface at the top and a bottom of %d m above the bed',
    (bottomM) => {
      const { y, bottom } = layOut(390, 420, bottomM, true)
      expect(y(0)).toBe(TOP_PX)
      expect(y(bottomM)).toBe(bottom)
      expect(y(bottomM / 2)).toBeCloseTo((TOP_PX + bottom) / 2, 9)
      expect(y.invert(y(bottomM / 3))).toBeCloseTo(bottomM / 3, 9)
    },
  )

  it('are narrower on a phone than on a desk', () => {
    const [phone, desk] = [layOut(390, 400, 9, false), layOut(1280, 400, 9, false)]
    expect(phone.temperature.width).toBeLessThan(desk.temperature.width)
    expect(phone.feeding.width).toBeLessThan(desk.feeding.width)
  })
})

describe('interpolation', () => {
  it.each([
    [-1, 0],
    [0, 0],
    [5, 1],
    [10, 2],
    [15, 1.5],
    [20, 1],
    [99, 1],
  ])('at %d is %d: even between two, held at the ends', (x, y) => {
    expect(interpolate([0, 10, 20], [0, 2, 1], x)).toBeCloseTo(y, 12)
  })

  it('of one point is that point, and of none is nothing', () => {
    expect(interpolate([3], [7], 5)).toBe(7)
    expect(interpolate([], [], 5)).toBe(0)
  })
})

describe('the nearest of a rising list', () => {
  it.each([
    [-5, 0],
    [0.9, 0],
    [1.1, 1],
    [2.6, 2],
    [99, 2],
  ])('to %d is number %i', (value, index) => {
    expect(nearestIndex([0, 2, 3], value)).toBe(index)
  })
})
