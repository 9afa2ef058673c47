/** The day so far as the search reads it, from what the device keeps. */
import { interpolate } from '../column/geometry'
import type { Schemas } from '../api/client'
import type { Fished, LoggedEntry, Search } from '../offline/store'
import type { SearchLog } from './thinker'

/** Lift off, back cast and shoot, in s, where the table does not say how long a cast takes. */
const RECAST_S = 15
const POINTS = 40

type Presentation = Schemas['PresentationIO']

/** What was fished as the search sees it: the table's own where it is one of its presentations, else by its run. */
function presentationOf(fished: Fished, { table }: Search): Presentation {
  const own = table.options.find((one) => one.key === fished.key)
  if (own) return own
  const { run, action } = fished
  const step = Math.max(1, Math.floor(run.time_s.length / POINTS))
  const kept = run.time_s.map((_, i) => i).filter((i) => i % step === 0 || i === run.time_s.length - 1)
  return {
    key: fished.id,
    method: action.kind,
    line: fished.line,
    flies: run.flies.map(({ name }) => ({ name, fly_class: table.flies[name] ?? 1 })),
    minutes: ((run.time_s.at(-1) ?? 60) + RECAST_S) / 60,
    time_s: kept.map((i) => run.time_s[i] ?? 0),
    depth_m: run.flies.map((fly) => kept.map((i) => Math.max(0, fly.depth_m[i] ?? 0))),
    float_m: action.kind === 'hang' ? action.set_depth_m : null,
    words: '',
    values: {},
    share: 1,
    met: {},
  }
}

/** What is so whatever is tied on. */
export const OF_THE_WATER: readonly LoggedEntry['kind'][] = ['follow', 'seen', 'told', 'catching', 'place']

/** What is of the line and says nothing of fish is not for the search. */
const ofFish = (e: LoggedEntry): e is LoggedEntry & { kind: Exclude<LoggedEntry['kind'], 'touched'> } =>
  e.kind !== 'touched'

/** How deep the point fly was so long after it landed, or in the middle of the cast. */
export function depthAt(run: Fished['run'], elapsedS: number | null): number {
  const s = elapsedS ?? (run.time_s.at(-1) ?? 0) / 2
  return Math.max(0, interpolate(run.time_s, run.flies[0]?.depth_m ?? [0], s))
}

export function logOf(
  search: Search,
  fished: readonly Fished[],
  entries: readonly LoggedEntry[],
  now: number,
  tied: string,
): SearchLog {
  const known = new Map(fished.map((one) => [one.id, one]))
  let latest = 0
  // A clock may be set: the log never goes back.
  const minutes = (at: number) => (latest = Math.max(latest, (at - search.begunAt) / 60_000, 0))
  const lines = [
    ...entries
      .filter((e) => !e.undone)
      .filter(ofFish)
      .map((e) => ({ order: e.order, entry: e, heard: null, changed: null })),
    ...search.heard.map((heard) => ({ order: heard.at, entry: null, heard, changed: null })),
    ...(search.changes ?? []).map((changed) => ({ order: changed.at, entry: null, heard: null, changed })),
  ].sort((a, b) => a.order - b.order)
  const happened: SearchLog['happened'] = []
  for (const { entry, heard, changed } of lines) {
    if (heard) {
      happened.push({ kind: heard.kind, at_min: minutes(heard.at), depth_m: heard.depthM })
      continue
    }
    if (changed) {
      const { stated, wanted } = changed
      happened.push({ kind: 'changed', at_min: minutes(changed.at), stated, wanted })
      continue
    }
    if (OF_THE_WATER.includes(entry.kind)) {
      happened.push({
        kind: entry.kind,
        at_min: minutes(entry.at),
        depth_m: entry.depthM ?? null,
        fly_class: entry.flyClass ?? null,
      })
      continue
    }
    const of = known.get(entry.presentationId)
    if (!of) continue
    const event = entry.kind !== 'cast' && entry.kind !== 'nothing'
    happened.push({
      kind: entry.kind,
      at_min: minutes(entry.at),
      fished: entry.presentationId,
      depth_m: event ? depthAt(of.run, entry.elapsedS) : null,
      ...(entry.spot ? entry.spot : {}),
    })
  }
  return {
    fished: Object.fromEntries(fished.map((one) => [one.id, presentationOf(one, search)])),
    happened,
    now_min: minutes(now),
    now: known.has(tied) ? tied : null,
    refused: search.refused,
    school: search.school,
    most_min: search.mostMin ?? null,
    rods: search.rods ?? 1,
  }
}
