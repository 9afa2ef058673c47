/** What the plan is asked, and one option of it as what the simulator and the log are asked. */
import { useEffect, useMemo } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import { USUAL_HANDLING, type Drawn, type Ranked, type Schemas } from '../../api/client'
import { choicesQuery, useFloats, useRun, useSimulation } from '../../api/hooks'
import { conditionsOf, type Outing } from '../../state/outing'
import type { Start } from '../fish/outbox'

export type IndicatorKind = Schemas['FloatItemIn']['kind']

export function choicesBody(outing: Outing, indicators: IndicatorKind[]): Schemas['ChoicesIn'] {
  return {
    conditions: conditionsOf(outing),
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
    const timer = setTimeout(() => void queries.prefetchQuery(choicesQuery(first)), AHEAD_MS)
    return () => clearTimeout(timer)
  }, [asked, queries])
}

interface DrawnState {
  run: Drawn | undefined
  /** Whether it is this option's run, and not the last one's still on show. */
  own: boolean
  error: Error | null
}

/** Simulate an option in the water of the plan. */
export function useDrawn(
  outing: Outing,
  one: Ranked | undefined,
  water: Schemas['PlanWaterOut'] | undefined,
): DrawnState {
  const cast = useSimulation(one?.retrieve_key ? simulationOf(outing, one, one.retrieve_key) : null)
  const other = useRun(one && water && !one.retrieve_key ? runOf(one, water, outing.windMs) : null)
  const asked = one?.retrieve_key ? cast : other
  return { run: asked.data, own: asked.isSuccess && !asked.isPlaceholderData, error: asked.error }
}

function simulationOf(outing: Outing, one: Ranked, retrieveKey: string): Schemas['SimulationIn'] {
  return {
    conditions: conditionsOf(outing),
    presentation: {
      rig: { line: one.line, leader: one.leader, flies: one.flies },
      cast_m: one.cast_m,
      count_s: one.count_s,
      retrieve_key: retrieveKey,
      retrieve_mps: one.retrieve_mps,
      ...USUAL_HANDLING,
      tip_ms: one.tip_ms,
    },
    long_leader_ok: true,
  }
}

/** How an option is done, as the log keeps it. */
export function howOf(one: Ranked): Start['how'] {
  const how = { cast_m: one.cast_m, count_s: one.count_s, ...USUAL_HANDLING, tip_ms: one.tip_ms }
  if (one.retrieve_key) return { ...how, retrieve_key: one.retrieve_key, retrieve_mps: one.retrieve_mps }
  const hang = one.set_depth_m !== null && {
    set_depth_m: one.set_depth_m,
    indicator: one.indicator ?? ('fixed' as const),
    drift_s: one.drift_s ?? 120,
    twitch_every_s: one.twitch_every_s,
  }
  if (hang) return { ...how, retrieve_key: 'static', hang }
  return { ...how, retrieve_key: 'static', tow: { out_m: one.out_m ?? 20, speed_ms: one.tow_ms ?? 0.3 } }
}

function runOf(one: Ranked, water: Schemas['PlanWaterOut'], windMs: number): Schemas['RunIn'] {
  if (one.set_depth_m !== null)
    return {
      ...water,
      drift: {
        leader: one.leader,
        flies: one.flies,
        set_depth_m: one.set_depth_m,
        indicator: { kind: one.indicator ?? 'fixed', diameter_m: 0.019 },
        for_s: one.drift_s ?? 180,
        wind_speed_ms: windMs,
        twitch_every_s: one.twitch_every_s,
        distance_m: 10,
        slack_m: 2,
      },
    }
  return {
    ...water,
    troll: {
      rig: { line: one.line, leader: one.leader, flies: one.flies },
      out_m: one.out_m ?? 20,
      speed_ms: one.tow_ms ?? 0.3,
      for_s: 180,
      count_s: 0,
    },
  }
}

/** Without a moment chosen, show the fly at work: some way into the retrieve or drift. */
export function momentToShow(run: Drawn | undefined): number {
  if (!run) return 0
  const start = run.phase.indexOf('retrieve')
  const end = run.phase.lastIndexOf('retrieve')
  return run.time_s[Math.round(start + (end - start) * 0.4)] ?? 0
}
