/** A moment by the device's two clocks: the wall's, which may be set, and the page's own, which sleeps when the device does. */
export interface Moment {
  /** In ms since 1970. */
  wall: number
  /** Which page's own clock: when it was opened. */
  page: number
  /** That clock, in ms. */
  ran: number
}

export const moment = (): Moment => ({
  wall: Date.now(),
  page: performance.timeOrigin,
  ran: performance.now(),
})

/** How long the page's own clock ran since then, in ms; null where the page was opened anew. */
export function ranSince(then: Moment): number | null {
  return then.page === performance.timeOrigin ? Math.round(performance.now() - then.ran) : null
}

/** How long ago that was, in seconds. A wall clock that was set back meanwhile shows, for it went on by less than the page's own. */
export function secondsSince(then: Moment): number {
  return Math.max(0, Date.now() - then.wall, ranSince(then) ?? 0) / 1000
}
