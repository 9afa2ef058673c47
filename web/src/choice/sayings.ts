/** A choice of the plan in words. */
import type { Action, Ranked } from '../api/client'
import type { Units } from '../format/units'
import { wayOf } from './ways'

/** Line or float, with count or depth: the headline. */
export const headline = (
  { line, action }: { line: { name: string }; action: Action },
  units: Units,
): string => wayOf(action).headline(line.name, action, units)

/** What the hands do. */
export const handling = (action: Action, units: Units): string => wayOf(action).handling(action, units)

/** Takes an hour with the mood of the day. */
export function takes(one: Ranked): string {
  const round = (n: number) => (n < 10 ? n.toFixed(1) : String(Math.round(n)))
  return `${round(one.takes_low_ph)}–${round(one.takes_high_ph)}`
}
