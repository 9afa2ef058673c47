/** From metres east and north on the chart to pixels, and back. */
import type { Chart } from '../api/client'

export interface Point {
  x: number
  y: number
}

/** What of the chart is in sight. */
export interface Frame {
  /** Middle of the drawing [m]. */
  middle: Point
  pxPerM: number
}

export interface View extends Frame {
  width: number
  height: number
  left(xM: number): number
  top(yM: number): number
  place(leftPx: number, topPx: number): Point
}

export function viewOf(middle: Point, pxPerM: number, width: number, height: number): View {
  return {
    middle,
    pxPerM,
    width,
    height,
    left: (xM) => width / 2 + (xM - middle.x) * pxPerM,
    top: (yM) => height / 2 - (yM - middle.y) * pxPerM,
    place: (leftPx, topPx) => ({
      x: middle.x + (leftPx - width / 2) / pxPerM,
      y: middle.y - (topPx - height / 2) / pxPerM,
    }),
  }
}

/** The frame so many times as large, a place staying where it is. */
export function zoomed({ middle, pxPerM }: Frame, factor: number, about: Point): Frame {
  const larger = Math.min(Math.max(pxPerM * factor, 0.002), 20)
  const share = pxPerM / larger
  return {
    pxPerM: larger,
    middle: { x: about.x + (middle.x - about.x) * share, y: about.y + (middle.y - about.y) * share },
  }
}

const MARGIN_PX = 34
const EMPTY_M = 1500

/** The whole lake in sight, or an empty sheet about the water's place. */
export function fit(chart: Chart, width: number, height: number): Frame {
  const points: (readonly number[])[] = [...chart.rings.flat(), ...chart.marks.map((m) => [m.x_m, m.y_m])]
  if (chart.rings.length === 0 && chart.grid) {
    const { x_m, y_m, step_m, columns, depth_dm } = chart.grid
    points.push(
      [x_m, y_m],
      [x_m + columns * step_m, y_m + (Math.floor(depth_dm.length / columns) * step_m || step_m)],
    )
  }
  if (points.length < 2) return { middle: { x: 0, y: 0 }, pxPerM: Math.min(width, height) / EMPTY_M }
  const xs = points.map(([x = 0]) => x)
  const ys = points.map(([, y = 0]) => y)
  const [west, east, south, north] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)]
  return {
    middle: { x: (west + east) / 2, y: (south + north) / 2 },
    pxPerM: Math.min(
      (width - 2 * MARGIN_PX) / Math.max(east - west, 50),
      (height - 2 * MARGIN_PX) / Math.max(north - south, 50),
    ),
  }
}

export function pathOf(points: readonly (readonly number[])[], view: View, closed: boolean): string {
  if (points.length === 0) return ''
  const text = points
    .map(([x = 0, y = 0]) => `${view.left(x).toFixed(1)} ${view.top(y).toFixed(1)}`)
    .join('L')
  return `M${text}${closed ? 'Z' : ''}`
}

/** A point so many metres from another along a bearing. */
export function along(from: Point, bearingDeg: number, metres: number): Point {
  const angle = (bearingDeg * Math.PI) / 180
  return { x: from.x + metres * Math.sin(angle), y: from.y + metres * Math.cos(angle) }
}
