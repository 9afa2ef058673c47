/** What the plan is asked, and what of its answer is drawn. */
import { useEffect, useMemo } from 'react'
import { useQueryClient, type QueryClient } from '@tanstack/react-query'
import type { Drawn, Ranked, Schemas } from '../../api/client'
import { choicesQuery, searchQuery, useChoices, useFloats } from '../../queries/hooks'
import type { Outing } from '../../state/outing'
import { logBefore } from '../../search/log'
import type { Ahead } from '../../search/useWhenNothing'
import { handOver } from '../fish/logging'

export type IndicatorKind = Schemas['FloatItemIn']['kind']

export function choicesBody(outing: Outing, indicators: IndicatorKind[]): Schemas['ChoicesIn'] {
  return {
    conditions: outing.conditions,
    cast_m: outing.castM,
    rod_m: outing.rodM,
    rod_number: outing.rodNumber,
    boat: outing.boat,
    indicators,
    school_key: outing.schoolKey,
    fluorocarbon: outing.fluorocarbon,
    pressed: outing.pressed,
    thorough: true,
    pins: {
      method_key: outing.pins.methodKey,
      line_name: outing.pins.lineName,
      fly_name: outing.pins.flyName,
    },
  }
}

const EVERY_KIND: IndicatorKind[] = ['fixed', 'quick-release', 'sliding']

/** The kinds of indicator in the box; a box that lists none says nothing against any. */
export function useIndicatorKinds(): IndicatorKind[] {
  const floats = useFloats()
  return useMemo(() => {
    const owned = new Set((floats.data?.items ?? []).map((item) => item.kind))
    return owned.size > 0 ? EVERY_KIND.filter((kind) => owned.has(kind)) : EVERY_KIND
  }, [floats.data])
}

const AHEAD_MS = 500

/** Ask for the plan's first answer while the water is still being looked at, so that it is there when it is wanted. */
export function useChoicesAhead(outing: Outing, ready: boolean) {
  const queries = useQueryClient()
  const kinds = useIndicatorKinds()
  const body = choicesBody(outing, kinds)
  const asked = ready && outing.rigView === 'method' ? JSON.stringify(body) : null
  useEffect(() => {
    if (asked === null) return
    const first = { ...(JSON.parse(asked) as Schemas['ChoicesIn']), thorough: false }
    const timer = setTimeout(() => void queries.query(choicesQuery(first)).catch(() => undefined), AHEAD_MS)
    return () => clearTimeout(timer)
  }, [asked, queries])
}

/** Ask for the table of the search where the day has begun without it; it reaches the day when it comes. */
export function handOverLater(queries: QueryClient, body: Schemas['ChoicesIn']) {
  queries
    .query(searchQuery(body))
    .then((found) => handOver(found, body))
    .catch((error: unknown) => console.info('fished without a table', error))
}

/** The plan as far as it has come: a first answer from a few of the ways, then the thorough one in its place. */
export function usePlan(body: Schemas['ChoicesIn']) {
  const first = useChoices({ ...body, thorough: false })
  // On two cores the whole plan would slow the first answer down: it waits.
  const whole = useChoices(body, !first.isFetching || first.isError)
  const choices = whole.data && !whole.isPlaceholderData ? whole : first.data ? first : whole
  return { choices, error: whole.error, refining: whole.isFetching && choices === first }
}

/** The run of a choice with the bottom that it goes over: what the Column draws. */
export function drawnOf(one: Ranked, choices: Schemas['ChoicesOut'] | undefined): Drawn {
  return { ...one.run, ...(choices ? { bottom: choices.water.bottom } : {}) }
}

/** Without a moment chosen, show the fly at work: some way into the retrieve or drift. */
export function momentToShow(run: Drawn | undefined): number {
  if (!run) return 0
  const start = run.phase.indexOf('retrieve')
  const end = run.phase.lastIndexOf('retrieve')
  return run.time_s[Math.round(start + (end - start) * 0.4)] ?? 0
}

/** Which of the search's ways a choice is; null where it is none. */
export function keyOf(search: Schemas['SearchOut'] | undefined, one: Ranked): string | null {
  const own = search?.table.options.find((option) => option.method === one.method.key)
  const names = JSON.stringify(one.flies.map((placed) => placed.fly.name))
  const same = own?.line === one.line.name && JSON.stringify(own.flies.map((fly) => fly.name)) === names
  return same ? own.key : null
}

/** What the search is asked of a choice before the first cast. */
export function aheadOf(
  search: Schemas['SearchOut'] | undefined,
  one: Ranked | undefined,
  run: Drawn | undefined,
  changed: boolean,
  school: Outing['schoolKey'],
): Ahead | null {
  if (!search || !one || !run) return null
  const key = changed ? null : keyOf(search, one)
  const tied = { key, line: one.line.name, action: one.action, run }
  const of = JSON.stringify([
    search.table.options.length,
    school,
    one.method.key,
    one.line,
    one.action,
    one.flies,
  ])
  return { of, table: search.table, log: () => logBefore(tied, school) }
}
