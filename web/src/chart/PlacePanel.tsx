/** What the chart says of the chosen place, and what can be done with it. */
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { compass, distance, format, range, seconds } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { CONTROL } from '../ui/Field'

interface PlacePanelProps {
  standing: Schemas['StandingOut']
  mark: Schemas['PlacedMarkOut'] | null
  kinds: readonly Schemas['MarkKindOut'][]
  trouble: string | null
  onUse(farDepthM: number | null): void
  onKeep(name: string, kindKey: string): void
  onRemove(mark: Schemas['PlacedMarkOut']): void
}

export function PlacePanel({ standing, mark, kinds, trouble, onUse, onKeep, onRemove }: PlacePanelProps) {
  const units = useUnits()
  const [name, setName] = useState('')
  const [kind, setKind] = useState('drop-off')
  const { now, casts } = standing
  const waves = (e: Schemas['ExposureOut']) =>
    `${Math.round(100 * e.wave_low_m)}–${Math.round(100 * e.wave_high_m)} cm waves`
  const deeper = [...casts].sort((a, b) => (b.far_depth_m ?? -1) - (a.far_depth_m ?? -1))
  return (
    <section aria-label="This place" className="space-y-1.5 text-[0.9375rem] leading-snug">
      <h2 className="eyebrow border-b border-ink">{mark ? mark.name : 'This place'}</h2>
      <p>
        <strong>
          {standing.depth_m === null ? 'Depth not known' : format('depth', standing.depth_m, units)}
        </strong>
        {' · '}
        {now.word}, {distance(now.fetch_m, units)} of water upwind, {waves(now)}
      </p>
      {mark?.notes && <p className="text-soft">{mark.notes}</p>}
      <p>
        Cast across: {compass(casts[0]?.bearing_deg ?? 0)} over {depthOr(casts[0]?.far_depth_m ?? null)},{' '}
        {compass(casts[1]?.bearing_deg ?? 0)} over {depthOr(casts[1]?.far_depth_m ?? null)}.
      </p>
      {standing.drift_s !== null && (
        <p>
          A boat drifts {distance(standing.drift_m, units)} to the shore in {seconds(standing.drift_s)}, on a
          drogue in {seconds(standing.drogue_s ?? 0)}.
        </p>
      )}
      <details>
        <summary className="min-h-8 cursor-pointer font-semibold">If the wind turns</summary>
        <ul>
          {standing.turned.map((turn) => (
            <li key={turn.from_deg}>
              from {compass(turn.from_deg)}: {turn.word}, {distance(turn.fetch_m, units)}, {waves(turn)}
            </li>
          ))}
        </ul>
      </details>
      <Button look="hot" className="w-full" onClick={() => onUse(deeper[0]?.far_depth_m ?? null)}>
        Read from here
      </Button>
      {mark ? (
        <Button look="quiet" className="w-full" onClick={() => onRemove(mark)}>
          Remove the mark
        </Button>
      ) : (
        <form
          className="grid grid-cols-[1fr_8.5rem] gap-2"
          onSubmit={(event) => {
            event.preventDefault()
            if (name.trim()) onKeep(name.trim(), kind)
          }}
        >
          <input
            aria-label="Name of a new mark here"
            placeholder="Name this place"
            maxLength={80}
            className={CONTROL}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <select
            aria-label="Kind of mark"
            className={CONTROL}
            value={kind}
            onChange={(event) => setKind(event.target.value)}
          >
            {kinds.map((k) => (
              <option key={k.key} value={k.key}>
                {k.name}
              </option>
            ))}
          </select>
          <Button type="submit" className="col-span-2" disabled={!name.trim()}>
            Keep as a mark
          </Button>
        </form>
      )}
      {trouble && (
        <p role="alert" className="font-semibold text-hot">
          {trouble}
        </p>
      )}
    </section>
  )

  function depthOr(depthM: number | null): string {
    return depthM === null ? 'land or unknown' : range('depth', depthM, depthM, units)
  }
}
