/** What was seen, or told by another: two taps, and it counts with its doubt. */
import { useState } from 'react'
import { format } from '../../format/units'
import type { Fishing, Search, TheirPace } from '../../offline/store'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { log } from './logging'

const NEAR = [
  { kind: 'follow', text: 'Follow' },
  { kind: 'refused', text: 'Refused' },
] as const
const PACES: readonly { value: TheirPace; text: string }[] = [
  { value: 'still', text: 'still' },
  { value: 'slow', text: 'slow' },
  { value: 'quick', text: 'quick' },
]
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
          <>
            <Pick
              label="His fly"
              value={flyClass}
              options={classes.map((text, i) => ({ value: String(i + 1), text }))}
              onPick={setFlyClass}
            />
            <Pick
              label="Its colour"
              value={colour}
              options={COLOURS.map((text) => ({ value: text, text }))}
              onPick={setColour}
            />
            <Pick<TheirPace> label="Moved" value={pace} options={PACES} onPick={setPace} />
          </>
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
          className="min-h-14 px-0! text-sm leading-tight"
          onClick={() => onNear(one.kind)}
        >
          {one.text}
        </Button>
      ))}
      {KINDS.map((one) => (
        <Button
          key={one.kind}
          className="min-h-14 px-0! text-sm leading-tight"
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
        className="min-h-14 px-0! text-sm leading-tight"
        onClick={() => void log(fishing, 'catching', Date.now(), null, {})}
      >
        Others catch
      </Button>
    </div>
  )
}

interface PickProps<T extends string> {
  label: string
  /** Empty where he did not say. */
  value: '' | T
  options: readonly { value: T; text: string }[]
  onPick(value: '' | T): void
}

/** One of a few words, whole at any width; the same again takes it back. */
function Pick<T extends string>({ label, value, options, onPick }: PickProps<T>) {
  return (
    <div role="group" aria-label={label} className="mb-2">
      <p className="text-sm">{label}</p>
      <div className="grid grid-cols-3 gap-1.5">
        {options.map((one) => (
          <Button
            key={one.value}
            look={one.value === value ? 'hot' : undefined}
            aria-pressed={one.value === value}
            className="min-h-11 px-1! text-sm leading-tight"
            onClick={() => onPick(one.value === value ? '' : one.value)}
          >
            {one.text}
          </Button>
        ))}
      </div>
    </div>
  )
}
