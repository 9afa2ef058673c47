/** A choice of the plan with the angler's own count, pace, depth or boat speed: weighed anew by the server. */
import type { Ranked, Schemas } from '../../api/client'
import { wayOf } from '../../choice/ways'
import { useWeighing } from '../../queries/hooks'
import type { Outing, OwnChange } from '../../state/outing'
import { useSettled } from '../../ui/useSettled'

const WHAT_IF_MS = 40

interface OwnChoice {
  one: Ranked | undefined
  /** Whether it is the angler's own by now, and not the plan's. */
  changed: boolean
  /** Whether it is what the dials say, and not still being weighed. */
  settled: boolean
  error: Error | null
}

/** The choice as it stands: the plan's, or once it is weighed the angler's own. */
export function useOwnChoice(
  outing: Outing,
  planned: Ranked | undefined,
  choices: Schemas['ChoicesIn'],
): OwnChoice {
  const own = planned && outing.own?.methodKey === planned.method.key ? outing.own : null
  const settled = useSettled(own, WHAT_IF_MS)
  const asked = own && settled && planned && settled.methodKey === planned.method.key ? settled : null
  const weighed = useWeighing(asked && planned ? weighingOf(planned, asked, choices) : null)
  const answer = own && weighed.data?.method.key === own.methodKey ? weighed.data : undefined
  if (!planned || !answer)
    return { one: planned, changed: false, settled: own === null, error: own ? weighed.error : null }
  return {
    one: { ...answer, ladder: joined(answer, planned) },
    changed: true,
    settled: settled === own && !weighed.isPlaceholderData,
    error: weighed.error,
  }
}

function weighingOf(planned: Ranked, own: OwnChange, choices: Schemas['ChoicesIn']): Schemas['WeighingIn'] {
  return {
    choices: { ...choices, thorough: true },
    method_key: planned.method.key,
    fished: {
      rig: { line: planned.line, leader: planned.leader, flies: planned.flies },
      action: wayOf(planned.action).withOwn(planned.action, own),
    },
  }
}

/** The ladder begins with the angler's own and goes on to the plan's other methods. */
function joined(own: Ranked, planned: Ranked): Ranked['ladder'] {
  const beyond = (rung: Schemas['RungOut']) => rung.changes === 'method' || rung.changes === 'place'
  return [...own.ladder.filter((rung) => !beyond(rung)), ...planned.ladder.filter(beyond)]
}
