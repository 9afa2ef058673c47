/** Which fly it came to, by one tap, and when in the cast: asked of what came last, as long as it is the last. */
import { isSo } from '../../format/kinds'
import type { Fishing, LoggedEntry } from '../../offline/store'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { tell } from './logging'
import { PHASE_WORDS, phasesOf } from './phases'
import { seatWord } from './seats'

export const cameToAFly = ({ kind }: LoggedEntry) => isSo(kind, 'felt') || isSo(kind, 'cameNear')

interface WhichFlyProps {
  fishing: Fishing
  entry: LoggedEntry
}

export function WhichFly({ fishing, entry }: WhichFlyProps) {
  const { left_handed: left } = useUnits()
  const names = fishing.doing.fly_names
  const seats = [...names.keys()].reverse()
  return (
    <section aria-label="Which fly" className="border-y-2 border-ink py-1.5">
      {names.length > 1 && <p className="mb-1 text-sm leading-tight font-bold">Which fly?</p>}
      {names.length > 1 && (
        <div className="mb-2 grid auto-cols-fr grid-flow-col gap-2" dir={left ? 'rtl' : 'ltr'}>
          {seats.map((seat) => (
            <Button
              key={seat}
              look={entry.fly === seat ? 'hot' : undefined}
              aria-pressed={entry.fly === seat}
              className="min-h-14 px-0.5! text-center text-xs leading-tight"
              onClick={() => void tell(fishing, entry, { fly: seat })}
            >
              <span className="block text-sm font-bold">{seatWord(seat, names.length)}</span>
              {names[seat]}
            </Button>
          ))}
          <Button
            aria-pressed={entry.fly === null}
            className="min-h-14 px-0.5! text-center text-xs leading-tight"
            onClick={() => void tell(fishing, entry, { fly: null })}
          >
            Don’t know
          </Button>
        </div>
      )}
      <div className="grid auto-cols-fr grid-flow-col gap-1.5" role="group" aria-label="When">
        {phasesOf(fishing).map((phase) => (
          <Button
            key={phase}
            look={entry.phase === phase ? 'hot' : undefined}
            aria-pressed={entry.phase === phase}
            className="min-h-11 px-0.5! text-sm"
            onClick={() => void tell(fishing, entry, { phase })}
          >
            {PHASE_WORDS[phase]}
          </Button>
        ))}
      </div>
    </section>
  )
}
