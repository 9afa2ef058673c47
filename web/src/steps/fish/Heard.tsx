/** What was seen, or told by another: two taps, and it counts with its doubt. */
import { useState } from 'react'
import { format } from '../../format/units'
import type { Fishing, Search } from '../../offline/store'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { Segments } from '../../ui/Segments'
import { log } from './logging'

const KINDS = [
  { kind: 'follow', text: 'Follow', asks: 'Followed, the fly at' },
  { kind: 'seen', text: 'Fish seen', asks: 'Fish seen, at' },
  { kind: 'told', text: 'Other rod’s fish', asks: 'Another rod took one, at' },
] as const

interface HeardProps {
  fishing: Fishing
  search: Search
  /** Where the dial begins: about where the fly works. */
  usualM: number
  bottomM: number
}

export function Heard({ fishing, search, usualM, bottomM }: HeardProps) {
  const units = useUnits()
  const [kind, setKind] = useState<(typeof KINDS)[number] | null>(null)
  const [depthM, setDepthM] = useState(usualM)
  const [flyClass, setFlyClass] = useState('')
  const { classes } = search.table
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
        {kind.kind === 'told' && (
          <Segments
            label="His fly"
            className="mb-2"
            value={flyClass}
            options={[
              { value: '', text: 'unknown' },
              ...classes.map((text, i) => ({ value: String(i + 1), text })),
            ]}
            onValueChange={setFlyClass}
          />
        )}
        <div className="grid grid-cols-2 gap-2">
          <Button
            look="hot"
            size="huge"
            onClick={() => {
              setKind(null)
              const told = kind.kind === 'told' && flyClass !== '' ? Number(flyClass) : null
              void log(fishing, kind.kind, Date.now(), null, {}, { depthM, flyClass: told })
            }}
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
    <div className="grid grid-cols-4 gap-2" role="group" aria-label="Seen or told">
      {KINDS.map((one) => (
        <Button
          key={one.kind}
          className="min-h-14 px-1 text-sm leading-tight"
          onClick={() => {
            setDepthM(Math.min(Math.max(usualM, 0), bottomM))
            setFlyClass('')
            setKind(one)
          }}
        >
          {one.text}
        </Button>
      ))}
      <Button
        className="min-h-14 px-1 text-sm leading-tight"
        onClick={() => void log(fishing, 'catching', Date.now(), null, {})}
      >
        Others catch
      </Button>
    </div>
  )
}
