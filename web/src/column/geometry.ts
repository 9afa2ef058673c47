/** Lanes and scales of the Column: every lane shares one depth axis, so that nothing has to cross anything else. */
import { scaleLinear, type ScaleLinear } from 'd3-scale'

interface Lane {
  left: number
  width: number
}

export interface Geometry {
  width: number
  height: number
  top: number
  bottom: number
  ruler: Lane
  temperature: Lane
  section: Lane
  feeding: Lane
  /** Depth [m] to pixels. */
  y: ScaleLinear<number, number>
  /** Depth drawn below the bottom, so that the bed has a body [m]. */
  deepestM: number
}

export const TOP_PX = 46
const BED_PX = 30

/** Lay out the lanes for a drawing of this size; a narrow one drops to what a phone can show. */
export function layOut(width: number, height: number, bottomM: number, withRig: boolean): Geometry {
  const narrow = width < 560
  const ruler = { left: 0, width: narrow ? 34 : 46 }
  const temperatureWidth = narrow ? 74 : withRig ? 120 : 230
  const feedingWidth = narrow ? 84 : withRig ? 150 : 260
  const gap = narrow ? 6 : 10
  const temperature = { left: ruler.width, width: temperatureWidth }
  const feeding = { left: width - feedingWidth, width: feedingWidth }
  const sectionLeft = temperature.left + temperature.width + gap
  const section = { left: sectionLeft, width: feeding.left - gap - sectionLeft }
  const bottom = height - BED_PX
  const y = scaleLinear().domain([0, bottomM]).range([TOP_PX, bottom])
  return {
    width,
    height,
    top: TOP_PX,
    bottom,
    ruler,
    temperature,
    section,
    feeding,
    y,
    deepestM: bottomM,
  }
}

/** Index of the entry nearest to `value` in a rising list. */
export function nearestIndex(values: readonly number[], value: number): number {
  let best = 0
  for (let i = 1; i < values.length; i++) {
    if (Math.abs((values[i] ?? 0) - value) < Math.abs((values[best] ?? 0) - value)) best = i
  }
  return best
}

/** Linear interpolation in rising `xs`, held at the ends. */
export function interpolate(xs: readonly number[], ys: readonly number[], x: number): number {
  const last = xs.length - 1
  if (x <= (xs[0] ?? 0)) return ys[0] ?? 0
  if (x >= (xs[last] ?? 0)) return ys[last] ?? 0
  let i = 1
  while ((xs[i] ?? 0) < x) i++
  const [x0, x1, y0, y1] = [xs[i - 1] ?? 0, xs[i] ?? 1, ys[i - 1] ?? 0, ys[i] ?? 0]
  return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0)
}
