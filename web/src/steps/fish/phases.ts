/** When in the cast something came: known from the clock, said in the angler's words. */
import { wayOf } from '../../choice/ways'
import type { CastPhase, Fishing } from '../../offline/store'

export const PHASE_WORDS: Record<CastPhase, string> = {
  drop: 'Drop',
  pull: 'Pull',
  stop: 'Stop',
  hang: 'Hang',
  lift: 'Lift',
  rest: 'Still',
}

export const phasesOf = ({ doing }: Pick<Fishing, 'doing'>) => wayOf(doing.action).phases

/** So long after the fly landed; null where nobody timed it. */
export function phaseAt(
  { run, doing }: Pick<Fishing, 'run' | 'doing'>,
  elapsedS: number | null,
): CastPhase | null {
  if (elapsedS === null) return null
  if (phasesOf({ doing }).includes('rest')) {
    const settled = Math.max(...run.flies.map((fly) => fly.settle_s))
    return elapsedS < settled ? 'drop' : 'rest'
  }
  const i = run.time_s.findLastIndex((t) => t <= elapsedS)
  const phase = run.phase[Math.max(i, 0)]
  if (elapsedS > (run.time_s.at(-1) ?? 0)) return 'hang'
  return phase === 'count' ? 'drop' : phase === 'lift' ? 'lift' : phase === 'hang' ? 'hang' : 'pull'
}
