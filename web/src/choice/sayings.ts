/** A choice of the plan in words. */
import type { Action, Ranked } from '../api/client'
import { cutLength, format, type Units } from '../format/units'

/** Line or float, with count or depth: the headline. */
export function headline({ line, action }: { line: { name: string }; action: Action }, units: Units): string {
  if (action.kind === 'hang')
    return `${FLOATS[action.indicator]} float at ${cutLength(action.set_depth_m, units)}`
  if (action.kind === 'tow') return `${line.name}, ${format('depth', action.out_m, units)} out`
  return `${line.name}, count ${Math.round(action.count_s)}`
}

const FLOATS = { fixed: 'Fixed', 'quick-release': 'Quick-release', sliding: 'Sliding' } as const

/** What the hands do. */
export function handling(action: Action, units: Units): string {
  if (action.kind === 'hang')
    return action.twitch_every_s
      ? `Lift it a little every ${action.twitch_every_s} s, let it drop.`
      : 'Leave it alone; mend, and recast when the line bows.'
  if (action.kind === 'tow') return `Let the boat go at ${format('lineSpeed', action.tow_mps, units)}.`
  return `${action.retrieve_name}, ${format('lineSpeed', action.retrieve_mps, units)}: ${action.retrieve_rhythm}.`
}

/** Takes an hour with the mood of the day. */
export function takes(one: Ranked): string {
  const round = (n: number) => (n < 10 ? n.toFixed(1) : String(Math.round(n)))
  return `${round(one.takes_low_ph)}–${round(one.takes_high_ph)}`
}
