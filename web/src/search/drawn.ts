/** The run of a way that nobody has run: its flies by the path the search drew, all else as in the run that it was drawn from. */
import type { Drawn, Schemas } from '../api/client'
import { interpolate } from '../column/geometry'

type Path = Drawn['flies'][number]

export function drawnFrom(run: Drawn, one: Schemas['PresentationIO']): Drawn {
  const end = one.time_s.at(-1) ?? 1
  const ran = run.time_s.at(-1) ?? 1
  // The moment of the old run that is as far into it.
  const then = one.time_s.map((t) => (t / end) * ran)
  const frames = then.map((t) => nearest(run.time_s, t))
  const at = (values: readonly number[]) => then.map((t) => interpolate(run.time_s, values, t))
  const flies = one.flies.map((fly, i): Path => {
    const like = run.flies[Math.min(i, run.flies.length - 1)] as Path
    const depths = one.depth_m[i] ?? []
    const sorted = [...depths].sort((a, b) => a - b)
    return {
      ...like,
      name: fly.name,
      depth_m: depths,
      shallow_m: depths,
      deep_m: depths,
      distance_m: at(like.distance_m),
      speed_mps: at(like.speed_mps),
      across_m: at(like.across_m),
      deepest_m: sorted.at(-1) ?? 0,
      end_depth_m: depths.at(-1) ?? 0,
      low_m: sorted[Math.floor(0.1 * sorted.length)] ?? 0,
      high_m: sorted[Math.floor(0.9 * sorted.length)] ?? 0,
    }
  })
  return {
    ...run,
    time_s: one.time_s,
    phase: frames.map((i) => run.phase[i] ?? 'retrieve'),
    flies,
    thread_distance_m: frames.map((i) => run.thread_distance_m[i] ?? []),
    thread_depth_m: frames.map((i) => run.thread_depth_m[i] ?? []),
    thread_across_m: frames.map((i) => run.thread_across_m[i] ?? []),
    side: null,
  }
}

function nearest(times: readonly number[], t: number): number {
  const after = times.findIndex((one) => one >= t)
  if (after <= 0) return after === 0 ? 0 : times.length - 1
  return t - (times[after - 1] ?? 0) < (times[after] ?? 0) - t ? after - 1 : after
}
