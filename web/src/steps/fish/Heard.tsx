/** What was seen, or told by another: two taps, and it counts with its doubt. */
import { useState } from 'react'
import { format } from '../../format/units'
import type { Fishing, Search, TheirPace } from '../../offline/store'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { Segments } from '../../ui/Segments'
import { log } from './logging'

const NEAR = [
  { kind: 'follow', text: 'Follow' },
  { kind: 'refused', text: 'Refused' },
] as const
const PACES = [
  { value: '', text: 'unknown' },
  { value: 'still', text: 'still' },
  { value: 'slow', text: 'slow' },
  { value: 'quick', text: 'quick' },
] as const
const COLOURS = ['black', 'brown', 'olive', 'white', 'orange', 'green'] as const
const KINDS = [
  { kind: 'seen', text: 'Fish seen', asks: 'Fish seen, at' },
  { kind: 'told', text: 'Other rod’s fish', asks: 'Another rod took one, at' },
] as const

interface HeardProps {
  fishing: Fishing
  search: Search
  /** Where the dial begins: about where the fly works. */
  usualM: number
  bottomM: number
  /** A fish came to the fly and turned away. */
  onNear(kind: 'follow' | 'refused'): void
}

export function Heard({ fishing, search, usualM, bottomM, onNear }: HeardProps) {
  const units = useUnits()
  const [kind, setKind] = useState<(typeof KINDS)[number] | null>(null)
  const [depthM, setDepthM] = useState(usualM)
  const [flyClass, setFlyClass] = useState('')
  const [colour, setColour] = useState('')
  const [pace, setPace] = useState<'' | TheirPace>('')
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
        {kind.kind === 'told' && (
          <Segments
            label="Its colour"
            className="mb-2"
            value={colour}
            options={[{ value: '', text: 'unknown' }, ...COLOURS.map((text) => ({ value: text, text }))]}
            onValueChange={setColour}
          />
        )}
        {kind.kind === 'told' && (
          <Segments
            label="Moved"
            className="mb-2"
            value={pace}
            options={PACES}
            onValueChange={(next) => setPace(next as typeof pace)}
          />
        )}
        <div className="grid grid-cols-2 gap-2">
          <Button
            look="hot"
            size="huge"
            onClick={() => {
              setKind(null)
              const his =
                kind.kind === 'told'
                  ? {
                      flyClass: flyClass === '' ? null : Number(flyClass),
                      colour,
                      pace: pace === '' ? null : pace,
                    }
                  : {}
              void log(fishing, kind.kind, Date.now(), null, {}, { depthM, ...his })
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
    <div className="grid grid-cols-5 gap-1.5" role="group" aria-label="Seen or told">
      {NEAR.map((one) => (
        <Button
          key={one.kind}
          className="min-h-14 px-1 text-sm leading-tight"
          onClick={() => onNear(one.kind)}
        >
          {one.text}
        </Button>
      ))}
      {KINDS.map((one) => (
        <Button
          key={one.kind}
          className="min-h-14 px-1 text-sm leading-tight"
          onClick={() => {
            setDepthM(Math.min(Math.max(usualM, 0), bottomM))
            setFlyClass('')
            setColour('')
            setPace('')
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
