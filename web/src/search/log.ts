/** The day so far as the device keeps it, in the shape in which the core reads a log. What it means is the core's to say. */
import type { Fished, LoggedEntry, Search } from '../offline/store'

export interface DayLogged {
  fished: Record<string, object>
  entries: object[]
  now_s: number
  now: string | null
  refused: Search['refused']
  school: Search['school']
  most_min: number | null
  rods: number
}

const fishedOf = ({ key, line, action, method, share, run }: Fished) => ({
  key,
  line,
  action,
  method: method ?? null,
  share: share ?? null,
  kind: action.kind,
  set_depth_m: 'set_depth_m' in action ? action.set_depth_m : null,
  time_s: run.time_s,
  flies: run.flies,
})

export function logOf(
  search: Search,
  fished: readonly Fished[],
  entries: readonly LoggedEntry[],
  now: number,
  tied: string,
): DayLogged {
  const since = (at: number) => (at - search.begunAt) / 1000
  const lines = [
    ...entries
      .filter((e) => !e.undone)
      .map((e) => ({
        order: e.order,
        said: {
          kind: e.kind,
          at_s: since(e.at),
          fished: e.presentationId,
          elapsed_s: e.elapsedS,
          depth_m: e.depthM ?? null,
          fly: e.fly ?? null,
          phase: e.phase ?? null,
          fly_class: e.flyClass ?? null,
          colour: e.colour ?? null,
          hook_size: e.hookSize ?? null,
          pace: e.pace ?? null,
          ...(e.spot ?? {}),
        },
      })),
    ...search.heard.map(({ kind, at, depthM }) => ({
      order: at,
      said: { kind, at_s: since(at), depth_m: depthM },
    })),
    ...(search.changes ?? []).map(({ at, stated, wanted, centresM, ratePmin }) => ({
      order: at,
      said: {
        kind: 'changed',
        at_s: since(at),
        stated,
        wanted,
        centres_m: centresM ?? null,
        rate_pmin: ratePmin ?? null,
      },
    })),
  ].sort((a, b) => a.order - b.order)
  return {
    fished: Object.fromEntries(fished.map((one) => [one.id, fishedOf(one)])),
    entries: lines.map(({ said }) => said),
    now_s: since(now),
    now: fished.some(({ id }) => id === tied) ? tied : null,
    refused: search.refused,
    school: search.school,
    most_min: search.mostMin ?? null,
    rods: search.rods ?? 1,
  }
}

/** A day on which nothing has happened yet, with this tied on. */
export function logBefore(
  tied: Pick<Fished, 'key' | 'line' | 'action' | 'run'>,
  school: Search['school'],
): DayLogged {
  const fished = { ...tied, id: 'now', dayId: '', at: 0 }
  return {
    fished: { now: fishedOf(fished) },
    entries: [],
    now_s: 0,
    now: 'now',
    refused: [],
    school,
    most_min: null,
    rods: 1,
  }
}
