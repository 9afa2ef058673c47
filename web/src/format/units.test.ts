import { describe, expect, it } from 'vitest'
import {
  chances,
  compass,
  counted,
  cutLength,
  DEFAULT_UNITS,
  distance,
  format,
  fromShown,
  range,
  seconds,
  sky,
  toShown,
  words,
  type Quantity,
  type Units,
} from './units'

const SI = DEFAULT_UNITS
const FEET: Units = {
  ...SI,
  depth_unit: 'ft',
  temperature_unit: 'F',
  line_speed_unit: 'in/s',
  wind_unit: 'mph',
  fish_length_unit: 'in',
  mass_unit: 'lb',
}
const with_ = (changes: Partial<Units>): Units => ({ ...SI, ...changes })

describe('a quantity in words', () => {
  // Exact: an inch is 0.0254 m, a foot 0.3048 m, a pound 0.45359237 kg, a mile an hour 0.44704 m/s, a knot 1852 m an hour.
  it.each<[Quantity, number, Units, string]>([
    ['depth', 2.416, SI, '2.4 m'],
    ['depth', 0, SI, '0.0 m'],
    ['depth', -0.01, SI, '0.0 m'],
    ['depth', 120, SI, '120 m'],
    ['depth', 1.524, FEET, '5.0 ft'],
    ['depth', 6.096, FEET, '20 ft'],
    ['stretch', 2500, SI, '2.5 km'],
    ['stretch', 1609.34, FEET, '1.0 mi'],
    ['temperature', 12.34, SI, '12.3 °C'],
    ['temperature', 10, FEET, '50 °F'],
    ['temperature', -1, FEET, '30 °F'],
    ['lineSpeed', 0.0381, SI, '3.8 cm/s'],
    ['lineSpeed', 0.25, SI, '25 cm/s'],
    ['lineSpeed', 0.0381, FEET, '1.5 in/s'],
    ['wind', 7.4, SI, '7 m/s'],
    ['wind', 8.9408, FEET, '20 mph'],
    ['wind', 10.2889, with_({ wind_unit: 'kn' }), '20 kn'],
    ['wind', 0, with_({ wind_unit: 'Bft' }), 'force 0'],
    ['wind', 8, with_({ wind_unit: 'Bft' }), 'force 5'],
    ['wind', 50, with_({ wind_unit: 'Bft' }), 'force 12'],
    ['fishLength', 0.38, SI, '38 cm'],
    ['fishLength', 0.381, FEET, '15.0 in'],
    ['mass', 0.762, SI, '0.76 kg'],
    ['mass', 0.9072, FEET, '2.0 lb'],
  ])('%s of %d is said as it should be', (quantity, si, units, said) => {
    expect(format(quantity, si, units)).toBe(said)
  })

  it.each(['depth', 'temperature', 'lineSpeed', 'wind', 'fishLength', 'mass'] as const)(
    '%s typed in a form comes back as what was typed',
    (quantity) => {
      for (const units of [SI, FEET])
        for (const si of [0, 0.07, 1.3, 12.5])
          expect(fromShown(quantity, toShown(quantity, si, units), units)).toBeCloseTo(si, 9)
    },
  )

  it('a Beaufort force typed is a wind that is of that force', () => {
    const units = with_({ wind_unit: 'Bft' })
    for (let force = 0; force <= 12; force++)
      expect(toShown('wind', fromShown('wind', force, units), units)).toBe(force)
  })

  it('a range whose ends are said alike is said once', () => {
    expect(range('depth', 1.98, 2.03, SI)).toBe('2.0 m')
    expect(range('depth', 1.4, 2.3, SI)).toBe('1.4–2.3 m')
  })
})

describe('lengths to cut', () => {
  it.each([
    [0.42, SI, '42 cm'],
    [0.995, SI, '1.00 m'],
    [3.601, SI, '3.61 m'],
    [0.3048, FEET, '1 ft'],
    [0.66, FEET, '2 ft 2 in'],
    [0.2, FEET, '8 in'],
  ])('%d m is rounded up: what is short cannot be tied', (m, units, said) => {
    expect(cutLength(m, units)).toBe(said)
  })
})

describe('ways over the water', () => {
  it.each([
    [42.4, SI, '42 m'],
    [236, SI, '240 m'],
    [1500, SI, '1.5 km'],
    [100, FEET, '110 yd'],
    [1610, FEET, '1.0 mi'],
  ])('%d m', (m, units, said) => {
    expect(distance(m, units)).toBe(said)
  })
})

describe('times', () => {
  it.each([
    [0, '0 s'],
    [59.6, '60 s'],
    [99.4, '99 s'],
    [100, '1 min 40 s'],
    [180, '3 min 00 s'],
    [179.7, '3 min 00 s'],
    [1200, '20 min'],
    [3660, '1 h 01 min'],
  ])('%d s', (s, said) => {
    expect(seconds(s)).toBe(said)
  })
})

describe('a sentence of the core', () => {
  const said = (text: string, values: Record<string, number>, units = SI) => words({ text, values }, units)

  it('has its numbers in the person’s units, each by the last part of its name', () => {
    expect(said('sinks on to {deepest_m}', { deepest_m: 2.416 })).toBe('sinks on to 2.4 m')
    expect(said('sinks on to {deepest_m}', { deepest_m: 2.416 }, FEET)).toBe('sinks on to 7.9 ft')
    expect(said('{surface_c} at the top', { surface_c: 18 }, FEET)).toBe('64 °F at the top')
    expect(said('{cost_min}, {band_s}', { cost_min: 5.6, band_s: 130 })).toBe('6 min, 2 min 10 s')
    expect(said('{low_cm} to {high_cm}', { low_cm: 10, high_cm: 25.4 }, FEET)).toBe('4 in to 10 in')
    expect(
      said('{a_mgl} {b_km} {c_pct} {d_n1} {e_n2}', { a_mgl: 7, b_km: 1.25, c_pct: 33.4, d_n1: 1, e_n2: 1 }),
    ).toBe('7.0 mg/L 1.3 km 33 % 1.0 1.00')
  })

  it('tells a wind from the speed of a line', () => {
    expect(said('{wind_mps} and {rate_mps}', { wind_mps: 7.5, rate_mps: 0.0762 })).toBe('8 m/s and 7.6 cm/s')
    expect(said('{low_wind_mps}', { low_wind_mps: 10 }, FEET)).toBe('22 mph')
  })

  it('leaves a placeholder that has no value as it is', () => {
    expect(said('{nobody_m}', {})).toBe('{nobody_m}')
  })
})

describe('small words', () => {
  it.each([
    [0.04, 'less than 1 chance in 10'],
    [0.1, '1 chance in 10'],
    [0.36, '4 chances in 10'],
    [1, '10 chances in 10'],
  ])('a share of %d', (share, text) => {
    expect(chances(share)).toBe(text)
  })

  it.each([
    [0, 'N'],
    [359, 'N'],
    [11.2, 'N'],
    [11.3, 'NNE'],
    [225, 'SW'],
    [720, 'N'],
  ])('%d degrees is %s', (deg, point) => {
    expect(compass(deg)).toBe(point)
  })

  it.each([
    [0, 'clear'],
    [0.3, 'some cloud'],
    [0.6, 'broken cloud'],
    [1, 'overcast'],
  ])('a cloud cover of %d is %s', (cloud, text) => {
    expect(sky(cloud)).toBe(text)
  })

  it('one is one', () => {
    expect(counted(1, 'take', 'takes')).toBe('1 take')
    expect(counted(0, 'take', 'takes')).toBe('0 takes')
    expect(counted(2, 'take', 'takes')).toBe('2 takes')
  })
})
