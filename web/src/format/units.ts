/** Words for quantities: SI in, the person's own units out, with sensible rounding; and back again for forms. */
import type { Phrase, Preferences } from '../api/client'

export type Units = Preferences

export const DEFAULT_UNITS: Units = {
  depth_unit: 'm',
  temperature_unit: 'C',
  line_speed_unit: 'cm/s',
  wind_unit: 'm/s',
  fish_length_unit: 'cm',
  mass_unit: 'kg',
  theme: 'light',
  sound_on: true,
  beat_on: false,
  left_handed: false,
  uses_log: true,
}

export type Quantity = 'depth' | 'stretch' | 'temperature' | 'lineSpeed' | 'wind' | 'fishLength' | 'mass'

interface Scale {
  label: string
  /** Shown value = SI x factor + offset. */
  factor: number
  offset: number
  digits: number
  /** Step of a form control, in the shown unit. */
  step: number
}

const SCALES: Record<Quantity, Record<string, Scale>> = {
  depth: {
    m: { label: 'm', factor: 1, offset: 0, digits: 1, step: 0.1 },
    ft: { label: 'ft', factor: 1 / 0.3048, offset: 0, digits: 0, step: 0.5 },
  },
  stretch: {
    m: { label: 'km', factor: 0.001, offset: 0, digits: 1, step: 0.1 },
    ft: { label: 'mi', factor: 1 / 1609.34, offset: 0, digits: 1, step: 0.1 },
  },
  temperature: {
    C: { label: '°C', factor: 1, offset: 0, digits: 1, step: 0.1 },
    F: { label: '°F', factor: 1.8, offset: 32, digits: 0, step: 0.5 },
  },
  lineSpeed: {
    'cm/s': { label: 'cm/s', factor: 100, offset: 0, digits: 0, step: 1 },
    'in/s': { label: 'in/s', factor: 1 / 0.0254, offset: 0, digits: 1, step: 0.25 },
  },
  wind: {
    'm/s': { label: 'm/s', factor: 1, offset: 0, digits: 0, step: 0.5 },
    mph: { label: 'mph', factor: 2.23694, offset: 0, digits: 0, step: 1 },
    kn: { label: 'kn', factor: 1.94384, offset: 0, digits: 0, step: 1 },
    Bft: { label: 'Bft', factor: 1, offset: 0, digits: 0, step: 1 },
  },
  fishLength: {
    cm: { label: 'cm', factor: 100, offset: 0, digits: 0, step: 1 },
    in: { label: 'in', factor: 1 / 0.0254, offset: 0, digits: 1, step: 0.5 },
  },
  mass: {
    kg: { label: 'kg', factor: 1, offset: 0, digits: 2, step: 0.05 },
    lb: { label: 'lb', factor: 2.20462, offset: 0, digits: 1, step: 0.1 },
  },
}

const PREFERENCE: Record<Quantity, keyof Units> = {
  depth: 'depth_unit',
  stretch: 'depth_unit',
  temperature: 'temperature_unit',
  lineSpeed: 'line_speed_unit',
  wind: 'wind_unit',
  fishLength: 'fish_length_unit',
  mass: 'mass_unit',
}

/** Lower edge of each Beaufort force [m/s]: WMO Manual on Codes, table 1100. */
const BEAUFORT_MPS = [0, 0.3, 1.6, 3.4, 5.5, 8, 10.8, 13.9, 17.2, 20.8, 24.5, 28.5, 32.7]

export function scaleOf(quantity: Quantity, units: Units): Scale {
  const scale = SCALES[quantity][String(units[PREFERENCE[quantity]])]
  if (!scale) throw new Error(`No unit for ${quantity}`)
  return scale
}

/** How many metres a unit of the person's depths is: what a ruler counts in. */
export const depthUnitM = (units: Units): number => 1 / scaleOf('depth', units).factor

/** The number shown for an SI value. */
export function toShown(quantity: Quantity, si: number, units: Units): number {
  if (quantity === 'wind' && units.wind_unit === 'Bft')
    return BEAUFORT_MPS.filter((edge) => si >= edge).length - 1
  const { factor, offset } = scaleOf(quantity, units)
  return si * factor + offset
}

/** The SI value of a number in the person's unit; a Beaufort force becomes the middle of its range. */
export function fromShown(quantity: Quantity, shown: number, units: Units): number {
  if (quantity === 'wind' && units.wind_unit === 'Bft') {
    const force = Math.min(Math.max(Math.round(shown), 0), 12)
    const low = BEAUFORT_MPS[force] ?? 0
    return force === 0 ? 0 : (low + (BEAUFORT_MPS[force + 1] ?? low + 4)) / 2
  }
  const { factor, offset } = scaleOf(quantity, units)
  return (shown - offset) / factor
}

/** A number as people say it: one digit more for small feet and slow lines, never a false one. */
export function number(quantity: Quantity, si: number, units: Units): string {
  const shown = toShown(quantity, si, units)
  let { digits } = scaleOf(quantity, units)
  if (quantity === 'depth' && units.depth_unit === 'ft' && Math.abs(shown) < 9.95) digits = 1
  if (quantity === 'lineSpeed' && units.line_speed_unit === 'cm/s' && Math.abs(shown) < 9.95) digits = 1
  if (quantity === 'depth' && Math.abs(shown) >= 99.5) digits = 0
  const text = shown.toFixed(digits)
  return /^-0(\.0+)?$/.test(text) ? text.slice(1) : text
}

export function format(quantity: Quantity, si: number, units: Units): string {
  const { label } = scaleOf(quantity, units)
  return label === 'Bft' ? `force ${number(quantity, si, units)}` : `${number(quantity, si, units)} ${label}`
}

/** A rod's length, which is spoken of in feet everywhere: `10 ft`, `9.6 ft`. */
export const inFeet = (m: number): string => `${(m / 0.3048).toFixed(1).replace('.0', '')} ft`

/** A length to cut, to the centimetre or the inch: rounded up, since what is short can't be tied. */
export function cutLength(m: number, units: Units): string {
  if (units.depth_unit === 'ft') {
    const inches = Math.ceil(m / 0.0254 - 0.05)
    return [[Math.floor(inches / 12), 'ft'] as const, [inches % 12, 'in'] as const]
      .filter(([n]) => n > 0)
      .map(([n, unit]) => `${n} ${unit}`)
      .join(' ')
  }
  const cm = Math.ceil(100 * m - 0.05)
  return cm < 100 ? `${cm} cm` : `${(cm / 100).toFixed(2)} m`
}

/** A way over the water: yards and miles for those who count depth in feet. */
export function distance(m: number, units: Units): string {
  const [short, long, perLong, label, longLabel] =
    units.depth_unit === 'ft' ? [m * 1.0936, m / 1609.34, 1760, 'yd', 'mi'] : [m, m / 1000, 1000, 'm', 'km']
  if (short >= perLong) return `${long.toFixed(1)} ${longLabel}`
  return `${short < 100 ? Math.round(short) : Math.round(short / 10) * 10} ${label}`
}

export function range(quantity: Quantity, low: number, high: number, units: Units): string {
  const [a, b] = [number(quantity, low, units), number(quantity, high, units)]
  const { label } = scaleOf(quantity, units)
  return a === b ? `${a} ${label}` : `${a}–${b} ${label}`
}

/** A chance as people say it. */
export function chances(share: number): string {
  const tenths = Math.round(10 * share)
  return tenths < 1 ? 'less than 1 chance in 10' : `${tenths} ${tenths === 1 ? 'chance' : 'chances'} in 10`
}

export function seconds(s: number): string {
  if (s < 100) return `${Math.round(s)} s`
  if (s >= 3600)
    return `${Math.floor(s / 3600)} h ${String(Math.round((s % 3600) / 60)).padStart(2, '0')} min`
  if (s >= 1200) return `${Math.round(s / 60)} min`
  const whole = Math.round(s)
  return `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, '0')} s`
}

function smallHeight(cm: number, units: Units): string {
  return units.depth_unit === 'ft' ? `${Math.round(cm / 2.54)} in` : `${Math.round(cm)} cm`
}

const BY_SUFFIX: Record<string, Quantity> = { m: 'depth', c: 'temperature', mps: 'lineSpeed' }

/** The core's sentence with its SI numbers in the person's units; the last part of a placeholder is its unit, and `wind_mps` a wind. */
export function words(phrase: Phrase, units: Units): string {
  return phrase.text.replace(/\{(\w+)\}/g, (whole, name: string) => {
    const value = phrase.values[name]
    if (value === undefined) return whole
    const suffix = name.split('_').at(-1) ?? ''
    const quantity = name.endsWith('wind_mps') ? 'wind' : BY_SUFFIX[suffix]
    if (quantity) return format(quantity, value, units)
    if (suffix === 's') return seconds(value)
    if (suffix === 'cm') return smallHeight(value, units)
    if (suffix === 'mgl') return `${value.toFixed(1)} mg/L`
    if (suffix === 'km') return `${value < 10 ? value.toFixed(1) : Math.round(value)} km`
    if (suffix === 'n') return String(Math.round(value))
    if (suffix === 'n1' || suffix === 'n2') return value.toFixed(suffix === 'n1' ? 1 : 2)
    if (suffix === 'min') return `${Math.round(value)} min`
    return suffix === 'pct' ? `${Math.round(value)} %` : String(value)
  })
}

const POINTS = [
  'N',
  'NNE',
  'NE',
  'ENE',
  'E',
  'ESE',
  'SE',
  'SSE',
  'S',
  'SSW',
  'SW',
  'WSW',
  'W',
  'WNW',
  'NW',
  'NNW',
]

export const COMPASS = POINTS.map((name, i) => ({ name, deg: i * 22.5 }))

export function compass(deg: number): string {
  return POINTS[Math.round(deg / 22.5) % 16] ?? 'N'
}

export function sky(cloudFraction: number): string {
  if (cloudFraction < 0.15) return 'clear'
  if (cloudFraction < 0.45) return 'some cloud'
  return cloudFraction < 0.8 ? 'broken cloud' : 'overcast'
}

/** How many of something, in its singular where it is one. */
export function counted(count: number, one: string, more: string): string {
  return `${count} ${count === 1 ? one : more}`
}
