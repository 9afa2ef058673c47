/** A fish in the net: how long, how heavy, a picture; kept or released, by the water's rules. */
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { interpolate } from '../../column/geometry'
import { format, words } from '../../format/units'
import type { Fishing } from '../../offline/store'
import { useTrade } from '../../queries/hooks'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { Segments } from '../../ui/Segments'
import type { Said } from './logging'
import { madeSmall } from './picture'
import { within } from '../../api/within'

interface LandingProps {
  fishing: Fishing
  rules: Schemas['RulesIn'] | undefined
  /** Fish kept today. */
  kept: number
  onLand(said: Said): void
  onBack(): void
}

export function Landing({ fishing, rules, kept, onLand, onBack }: LandingProps) {
  const units = useUnits()
  const trade = useTrade()
  const [species, setSpecies] = useState(fishing.conditions.species ?? '')
  const [measured, setMeasured] = useState(true)
  const [lengthM, setLengthM] = useState(0.38)
  const [weightKg, setWeightKg] = useState<number | null>(null)
  const [image, setImage] = useState<string | null>(null)
  const [imageTrouble, setImageTrouble] = useState(false)
  const of = trade.data?.species.find((one) => one.key === species)
  const usualKg = usualWeight(of?.weights ?? [], lengthM)
  const played = fishing.landing?.playedS ?? null
  const handling = fishing.picture?.handling
  const land = (keep: boolean) =>
    onLand({
      species,
      lengthM: measured ? Math.round(lengthM * 1000) / 1000 : null,
      weightKg,
      kept: keep,
      playedS: played,
      image,
    })
  const size = measured ? ` ${format('fishLength', lengthM, units)}` : ''
  return (
    <section aria-label="Landed" className="border-2 border-ink bg-sheet p-3">
      <p className="leading-tight font-semibold">
        {handling
          ? words(handling.words, units)
          : 'Wet hands, fish in the water, held upright until it swims.'}
      </p>
      {played !== null && (
        <p className={handling && played > handling.play_s ? 'text-sm font-semibold text-hot' : 'text-sm'}>
          Played {clock(played)}
          {handling && played > handling.play_s && ': long for this water, let it rest the longer'}.
        </p>
      )}
      {trade.data && (
        <Segments
          label="Which"
          value={species}
          options={trade.data.species.map((s) => ({ value: s.key, text: s.name.replace(' trout', '') }))}
          onValueChange={setSpecies}
          className="mt-1"
        />
      )}
      {measured && (
        <Dial
          label="Length"
          value={lengthM}
          {...within('EntryIn', 'length_m')}
          step={units.fish_length_unit === 'in' ? 0.0127 : 0.01}
          said={format('fishLength', lengthM, units)}
          onValueChange={setLengthM}
        />
      )}
      {weightKg !== null && (
        <Dial
          label="Weight, weighed"
          value={weightKg}
          least={0.05}
          most={Math.max(2, (usualKg ?? 1) * 2)}
          step={0.02}
          said={format('mass', weightKg, units)}
          onValueChange={setWeightKg}
        />
      )}
      <p className="text-sm" role="status">
        {measured &&
          weightKg === null &&
          usualKg !== null &&
          `About ${format('mass', usualKg, units)} if well fed: by its length, not weighed.`}
        {weightKg !== null &&
          usualKg !== null &&
          measured &&
          `${Math.round((100 * weightKg) / usualKg)} % of what is usual for its length.`}
        {imageTrouble && ' This device cannot read that picture.'}
      </p>
      <div className="my-1 grid grid-cols-3 gap-2">
        <Button className="min-h-14 px-1 text-sm" onClick={() => setMeasured(!measured)}>
          {measured ? 'Not measured' : 'Measure it'}
        </Button>
        <Button
          className="min-h-14 px-1 text-sm"
          onClick={() => setWeightKg(weightKg === null ? Math.round((usualKg ?? 0.5) * 50) / 50 : null)}
        >
          {weightKg === null ? 'Weighed' : 'Not weighed'}
        </Button>
        <Picture taken={image !== null} onTake={setImage} onTrouble={setImageTrouble} />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Decide rules={rules} kept={kept} size={size} onDecide={land} />
        <Button look="quiet" className="col-span-2" onClick={onBack}>
          Back, it is still on
        </Button>
      </div>
    </section>
  )
}

interface PictureProps {
  taken: boolean
  onTake(image: string): void
  onTrouble(trouble: boolean): void
}

function Picture({ taken, onTake, onTrouble }: PictureProps) {
  const take = (file: Blob) =>
    madeSmall(file).then(
      (made) => {
        onTake(made)
        onTrouble(false)
      },
      () => onTrouble(true),
    )
  return (
    <label className="flex min-h-14 cursor-pointer items-center justify-center border-2 border-ink bg-sheet px-1 text-center text-sm font-semibold focus-within:outline-3 hover:bg-paper">
      {taken ? 'Another picture' : 'Picture'}
      <input
        type="file"
        accept="image/*"
        capture="environment"
        className="sr-only"
        onChange={({ target }) => {
          const file = target.files?.[0]
          if (file) void take(file)
        }}
      />
    </label>
  )
}

interface DecideProps {
  rules: Schemas['RulesIn'] | undefined
  kept: number
  /** What is saved with it, in words. */
  size: string
  onDecide(keep: boolean): void
}

/** Kept or released, as far as the water's rules leave the choice. */
function Decide({ rules, kept, size, onDecide }: DecideProps) {
  const limit = rules?.bag_limit ?? null
  const full = limit !== null && kept >= limit
  return (
    <>
      {rules?.release !== 'kill-only' && (
        <Button look="hot" size="large" className="px-2!" onClick={() => onDecide(false)}>
          Release{size}
        </Button>
      )}
      {rules?.release !== 'release-only' && (
        <Button size="large" className="px-2!" disabled={full} onClick={() => onDecide(true)}>
          Keep{size}
        </Button>
      )}
      <p className="col-span-2 text-sm">
        {limit !== null && `${kept} of ${limit} kept today${full ? ': the bag is full, stop keeping' : ''}. `}
        {rules?.release === 'release-only' && 'Every fish goes back here. '}
        {rules?.release === 'kill-only' && 'Every fish caught here is killed and counts. '}
        Local rules come first.
      </p>
    </>
  )
}

/** Between the lengths of the table; null outside it. */
function usualWeight(weights: readonly Schemas['UsualWeightOut'][], lengthM: number): number | null {
  const first = weights[0]
  const last = weights.at(-1)
  if (!first || !last || lengthM < first.length_m || lengthM > last.length_m) return null
  return interpolate(
    weights.map((one) => one.length_m),
    weights.map((one) => one.kg),
    lengthM,
  )
}

export function clock(s: number): string {
  return `${Math.floor(s / 60)}:${String(Math.floor(s) % 60).padStart(2, '0')}`
}
