/** Clocks of places. */
import { clockAt } from './clock'

/** What the clock says there now, or null where no such zone is known. */
export function clockThere(timeZone: string): string | null {
  try {
    return clockAt(timeZone).slice(11, 16)
  } catch {
    return null
  }
}

export const ZONES: readonly string[] = Intl.supportedValuesOf('timeZone')
