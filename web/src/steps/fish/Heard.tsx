/** What was seen, or told by another: two taps, and it counts with its doubt. */
import { useState } from 'react'
import { format } from '../../format/units'
import { store, written, type Search } from '../../offline/store'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'

const KINDS = [
  { kind: 'seen', text: 'Fish seen', asks: 'Fish seen, at' },
  { kind: 'follow', text: 'Follow', asks: 'Followed, the fly at' },
  { kind: 'told', text: 'Partner’s fish', asks: 'Another took one, at' },
] as const

/** Ways to go about it that anglers swear by: each limits what is proposed. */
const SCHOOLS = [
  { value: 'best', text: 'what brings most' },
  { value: 'depth-first', text: 'depth first' },
  { value: 'fly-first', text: 'fly first' },
  { value: 'top-down', text: 'top down' },
  { value: 'bottom-up', text: 'bottom up' },
  { value: 'static', text: 'floats only' },
  { value: 'stay', text: 'this line only' },
] satisfies { value: Search['school']; text: string }[]

interface HeardProps {
  search: Search
  /** Where the dial begins: about where the fly works. */
  usualM: number
  bottomM: number
}

export function Heard({ search, usualM, bottomM }: HeardProps) {
  const units = useUnits()
  const [kind, setKind] = useState<(typeof KINDS)[number] | null>(null)
  const [depthM, setDepthM] = useState(usualM)
  const last = search.heard.at(-1)
  const save = (heard: Search['heard']) => {
    setKind(null)
    void written(() => store.searches.update(search.dayId, { heard }))
  }
  if (kind)
    return (
      <section aria-label={kind.text} className="border-2 border-ink bg-sheet p-3">
        <Dial
          label={kind.asks}
          value={depthM}
          least={0}
          most={bottomM}
          step={0.1}
          said={format('depth', depthM, units)}
          onValueChange={setDepthM}
        />
        <div className="grid grid-cols-2 gap-2">
          <Button
            look="hot"
            size="huge"
            onClick={() => save([...search.heard, { kind: kind.kind, depthM, at: Date.now() }])}
          >
            Save
          </Button>
          <Button size="huge" onClick={() => setKind(null)}>
            Back
          </Button>
        </div>
      </section>
    )
  return (
    <div className="grid grid-cols-3 gap-2" role="group" aria-label="Seen or told">
      {KINDS.map((one) => (
        <Button
          key={one.kind}
          className="min-h-14 px-1 text-sm"
          onClick={() => {
            setDepthM(Math.min(Math.max(usualM, 0), bottomM))
            setKind(one)
          }}
        >
          {one.text}
        </Button>
      ))}
      {last && (
        <p className="col-span-3 text-sm">
          {last.depthM === null
            ? 'At another place.'
            : `${KINDS.find((one) => one.kind === last.kind)?.text} at ${format('depth', last.depthM, units)}.`}{' '}
          <button
            type="button"
            className="min-h-11 px-2 underline underline-offset-4"
            onClick={() => save(search.heard.slice(0, -1))}
          >
            Take it back
          </button>
        </p>
      )}
      <label className="col-span-3 flex items-center gap-2 text-sm font-semibold">
        How to search
        <select
          className="min-h-11 grow border-2 border-ink bg-sheet px-2"
          value={search.school}
          onChange={({ target }) =>
            void written(() =>
              store.searches.update(search.dayId, { school: target.value as Search['school'] }),
            )
          }
        >
          {SCHOOLS.map((one) => (
            <option key={one.value} value={one.value}>
              {one.text}
            </option>
          ))}
        </select>
      </label>
    </div>
  )
}
