/** What to do now, in one line, with its reason and price; done with one tap, or refused with a reason that is remembered. */
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { words, type Units } from '../../format/units'
import { store, written, type Fishing, type Search } from '../../offline/store'
import { useThinking } from '../../python/client'
import type { Moves } from '../../search/thinker'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { log } from './logging'
import { wayTo, type Proposed } from './useChange'

const WHYS = ['No such fly left', 'Can’t reach there', 'I like this one'] as const

interface NextMoveProps {
  fishing: Fishing
  search: Search
  moves: Moves | null
  /** The first step of the ladder: what stands while the device can't think. */
  planned: Schemas['RungOut'] | undefined
  onTake(best: Proposed): Promise<void>
}

export function NextMove({ fishing, search, moves, planned, onTake }: NextMoveProps) {
  const units = useUnits()
  const thinking = useThinking()
  const [refusing, setRefusing] = useState(false)
  const [busy, setBusy] = useState(false)
  const [whole, setWhole] = useState(false)
  const move = moves?.move
  if (!move) {
    return (
      <section
        aria-label="Next"
        aria-busy={thinking === 'waking'}
        className="border-y-2 border-ink py-1 text-sm"
      >
        <p className="leading-tight">
          <span className="eyebrow">As planned</span> {planned ? words(planned.words, units) : ''}
        </p>
      </section>
    )
  }
  const [lead, ...why] = move.words
  const act = move.change && !move.elsewhere && wayTo(move.best, search, fishing) !== null
  const refuse = async (reason: string) => {
    setRefusing(false)
    await written(() =>
      store.searches.update(search.dayId, {
        refused: [...search.refused, { key: move.best.key, why: reason }],
      }),
    )
  }
  return (
    <section aria-label="Next" aria-live="polite" className="border-y-2 border-ink py-1">
      <div className={`flex items-start gap-3 ${units.left_handed ? 'flex-row-reverse' : ''}`}>
        <div className="min-w-0 grow leading-tight">
          <p className={act || move.elsewhere ? 'font-bold text-hot' : 'font-bold'}>
            {lead && said(lead, units)}
          </p>
          {/* Three lines leave the buttons where the thumb is; a tap shows the rest. */}
          <button
            type="button"
            aria-expanded={whole}
            className={`text-left text-sm ${whole ? '' : 'line-clamp-3'}`}
            onClick={() => setWhole(!whole)}
          >
            {[...moves.said.slice(0, 1), ...why.slice(0, 1)].map((one) => said(one, units)).join(' ')}
          </button>
        </div>
        {move.elsewhere && (
          <Button
            look="hot"
            className="min-h-14 w-[7.5rem] shrink-0"
            onClick={() => void log(fishing, 'place', Date.now(), null, {})}
          >
            I moved
          </Button>
        )}
        {act && (
          <div className="grid w-[7.5rem] shrink-0 grid-cols-1">
            <Button
              look="hot"
              className="min-h-14 px-3"
              disabled={busy}
              onClick={() => {
                setBusy(true)
                void onTake(move.best).finally(() => setBusy(false))
              }}
            >
              Change
            </Button>
            <Button look="quiet" className="min-h-11 px-3 text-sm" onClick={() => setRefusing(!refusing)}>
              No
            </Button>
          </div>
        )}
      </div>
      {moves.other_rod && (
        <p className="text-sm leading-tight font-semibold">{said(moves.other_rod.words, units)}</p>
      )}
      {refusing && (
        <div className="mt-1 grid grid-cols-3 gap-2" role="group" aria-label="Why not">
          {WHYS.map((reason) => (
            <Button key={reason} className="min-h-14 px-1 text-sm" onClick={() => void refuse(reason)}>
              {reason}
            </Button>
          ))}
        </div>
      )}
    </section>
  )
}

const said = (one: Schemas['PhraseOut'], units: Units) => words(one, units)
