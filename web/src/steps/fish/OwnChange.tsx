/** One's own change in two taps: what of it, and to what. Drawn at once by the simulator or, without a signal, from the last run. */
import { useRef, useState } from 'react'
import { wayOf } from '../../choice/ways'
import { cutLength, format, type Units } from '../../format/units'
import type { Fished, Fishing, LoggedEntry, Search } from '../../offline/store'
import { ownChanges, type OwnChange as Change } from '../../search/thinker'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { log } from './logging'
import { seatWord } from './seats'
import { wayTo, type Proposed, type Way } from './useChange'

type Turns = Change['turns']
const TURN_WORDS: Record<Turns, string> = {
  count: 'Count',
  float: 'Float',
  pace: 'Pace',
  fly: 'Fly',
  line: 'Line',
}

interface OwnChangeProps {
  fishing: Fishing
  search: Search
  fished: readonly Fished[]
  entries: readonly LoggedEntry[]
  onTake(to: Proposed): Promise<void>
}

export function OwnChange({ fishing, search, fished, entries, onTake }: OwnChangeProps) {
  const units = useUnits()
  const [open, setOpen] = useState<Turns | null>(null)
  const [found, setFound] = useState<{ of: string; changes: readonly Change[] | null } | null>(null)
  const [busy, setBusy] = useState(false)
  const asked = useRef('')
  const of = `${fishing.presentationId} ${entries.length}`
  const turns: Turns[] = [...wayOf(fishing.doing.action).turns, 'fly', 'line']

  const ask = async (turn: Turns) => {
    setOpen(open === turn ? null : turn)
    if (found?.of === of || asked.current === of) return
    asked.current = of
    const changes = await ownChanges(search, fished, entries, fishing.presentationId)
    // What was asked for last is what counts.
    if (asked.current === of) setFound({ of, changes })
    asked.current = ''
  }
  const take = async (change: Change) => {
    setBusy(true)
    await onTake(change).finally(() => {
      setBusy(false)
      setOpen(null)
    })
  }
  const known = found?.of === of ? found.changes : undefined
  const choices = (known ?? [])
    .filter((change) => change.turns === open)
    .flatMap((change) => {
      const way = wayTo(change, search, fishing)
      return way ? [{ change, way }] : []
    })
  const seats = open === 'fly' ? [...fishing.doing.fly_names.keys()] : [null]
  return (
    <section aria-label="Change it yourself" className="space-y-1">
      <div className="flex items-center gap-2 text-sm">
        <span className="shrink-0 font-semibold">Yours:</span>
        <div className="grid grow auto-cols-fr grid-flow-col gap-1.5">
          {turns.map((turn) => (
            <Button
              key={turn}
              className={`min-h-12 px-1! text-sm ${open === turn ? 'bg-ink! text-paper' : ''}`}
              aria-expanded={open === turn}
              onClick={() => void ask(turn)}
            >
              {TURN_WORDS[turn]}
            </Button>
          ))}
          <Button
            className="min-h-12 px-1! text-sm"
            onClick={() => void log(fishing, 'place', Date.now(), null, {})}
          >
            I moved
          </Button>
        </div>
      </div>
      {open && known === undefined && (
        <p className="text-sm" role="status">
          Looking through the box…
        </p>
      )}
      {open && known !== undefined && choices.length === 0 && (
        <p className="text-sm" role="status">
          {known === null ? 'This device can’t work it out; Rig can.' : 'Nothing else here.'}
        </p>
      )}
      {open &&
        seats.map((seat) => {
          const here = choices.filter(({ change }) => change.seat === seat)
          if (here.length === 0) return null
          const name = fishing.doing.fly_names[seat ?? 0] ?? ''
          const title =
            seat === null
              ? `${TURN_WORDS[open]} now`
              : `${seatWord(seat, fishing.doing.fly_names.length)}: instead of ${name.toLowerCase()}`
          return (
            <div key={seat ?? 'all'} role="group" aria-label={title}>
              {seat !== null && <p className="text-sm leading-tight">{title}</p>}
              <div className="grid grid-cols-3 gap-1.5">
                {here.map(({ change, way }) => (
                  <Button
                    key={change.key}
                    disabled={busy}
                    className="min-h-12 px-1! text-sm leading-tight"
                    onClick={() => void take(change)}
                  >
                    {said(change, way, units)}
                  </Button>
                ))}
              </div>
            </div>
          )
        })}
    </section>
  )
}

/** What is then fished, in as few words as tell it from the others. */
function said({ turns, seat }: Change, { action, one, rig }: Way, units: Units): string {
  if (turns === 'fly') return one.flies[seat ?? 0]?.name ?? ''
  if (turns === 'line') return rig.line.name
  if (turns === 'count' && 'count_s' in action) return `${Math.round(action.count_s)} s`
  if (turns === 'float' && 'set_depth_m' in action) return cutLength(action.set_depth_m, units)
  if ('retrieve_name' in action)
    return `${action.retrieve_name}, ${format('lineSpeed', action.retrieve_mps, units)}`
  return ''
}
