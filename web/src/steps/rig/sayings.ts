/** A choice of the plan in words. */
import type { Ranked } from '../../api/client'
import { cutLength, format, type Units } from '../../format/units'

type Named = Pick<Ranked, 'count_s' | 'set_depth_m' | 'indicator' | 'out_m'> & { line: { name: string } }
type Handled = Pick<
  Ranked,
  'set_depth_m' | 'twitch_every_s' | 'tow_ms' | 'retrieve_name' | 'retrieve_mps' | 'retrieve_rhythm'
>

/** Line or float, with count or depth: the headline. */
export function headline(one: Named, units: Units): string {
  if (one.set_depth_m !== null)
    return `${FLOATS[one.indicator ?? 'fixed']} float at ${cutLength(one.set_depth_m, units)}`
  if (one.out_m !== null) return `${one.line.name}, ${format('depth', one.out_m, units)} out`
  return `${one.line.name}, count ${Math.round(one.count_s)}`
}

const FLOATS = { fixed: 'Fixed', 'quick-release': 'Quick-release', sliding: 'Sliding' } as const

/** What the hands do. */
export function handling(one: Handled, units: Units): string {
  if (one.set_depth_m !== null)
    return one.twitch_every_s
      ? `Lift it a little every ${one.twitch_every_s} s, let it drop.`
      : 'Leave it alone; mend, and recast when the line bows.'
  if (one.tow_ms !== null) return `Let the boat go at ${format('lineSpeed', one.tow_ms, units)}.`
  return `${one.retrieve_name ?? ''}, ${format('lineSpeed', one.retrieve_mps ?? 0, units)}: ${one.retrieve_rhythm ?? ''}.`
}

/** Takes an hour with the mood of the day. */
export function takes(one: Ranked): string {
  const round = (n: number) => (n < 10 ? n.toFixed(1) : String(Math.round(n)))
  return `${round(one.takes_low_ph)}–${round(one.takes_high_ph)}`
}
