/** Where the flies of a drawing are named, so that names meet neither each other nor the edge. */

export interface Named {
  said: string
  /** The fly [px]. */
  at: number
  depthPx: number
  fontPx: number
}

export interface Place {
  left: number
  right: number
  baseline: number
}

/** How wide a letter is, to its height: a little more than measured, so that none is cut off. */
const LETTER_WIDTH = 0.56
const GAP_PX = 13
const STEP_PX = 20
/** Rows tried above and below a fly before names are let to meet. */
const ROWS = 8

/**
 * Place the names, point fly first. The point fly is named on its far side and the others toward the rod, where they rarely
 * meet; where that side is taken or too narrow, on the other side, else a step and then two under or over the fly.
 */
export function placeNames<T extends Named>(
  flies: readonly T[],
  edges: readonly [number, number],
  /** Surface and bottom [px]. */
  levels: readonly [number, number],
): (T & { place: Place })[] {
  const taken: (Place & { fontPx: number })[] = []
  return flies.map((fly, k) => {
    const tries = candidates(fly, k === 0, edges, levels)
    const free = tries.find((place) => !taken.some((other) => meet({ ...place, fontPx: fly.fontPx }, other)))
    const place = free ?? tries[0] ?? { left: fly.at, right: fly.at, baseline: fly.depthPx }
    taken.push({ ...place, fontPx: fly.fontPx })
    return { ...fly, place }
  })
}

export function widthOf({ said, fontPx }: Pick<Named, 'said' | 'fontPx'>): number {
  return said.length * fontPx * LETTER_WIDTH
}

function candidates(
  fly: Named,
  point: boolean,
  [near, far]: readonly [number, number],
  [surfacePx, floorPx]: readonly [number, number],
): Place[] {
  const width = widthOf(fly)
  const level = Math.max(fly.depthPx + 5, surfacePx + 16)
  const span = (left: number, baseline: number): Place => ({ left, right: left + width, baseline })
  const ahead = span(fly.at + GAP_PX, level)
  const behind = span(fly.at - GAP_PX - width, level)
  const centred = Math.max(Math.min(fly.at - width / 2, far - width), near)
  const nearest = point ? 1 : -1
  const steps = Array.from(
    { length: 2 * ROWS },
    (_, i) => nearest * (i % 2 ? -1 : 1) * STEP_PX * (1 + (i >> 1)),
  )
  const sides = (point ? [ahead, behind] : [behind, ahead]).filter((at) => at.left >= near && at.right <= far)
  const apart = steps
    .map((step) => span(centred, level + step))
    .filter((at) => at.baseline > surfacePx + 12 && at.baseline < floorPx)
  return [...sides, ...apart]
}

function meet(a: Place & { fontPx: number }, b: Place & { fontPx: number }): boolean {
  const apart = a.left > b.right + 4 || b.left > a.right + 4
  return !apart && a.baseline > b.baseline - b.fontPx && b.baseline > a.baseline - a.fontPx
}
