/** What a throat sample held: kind, count and size, and how old it is. */
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { CONTROL } from '../../ui/Field'

type Sample = Schemas['SampleIn']

export interface SamplePanelProps {
  foods: readonly Schemas['FoodNameOut'][]
  sample: Sample | null
  onSampleChange(sample: Sample | null): void
}

const COLOURS = ['black', 'brown', 'olive', 'green', 'red', 'orange', 'grey', 'cream', 'silver']
const SIZES = [1, 2, 3, 4, 6, 8, 10, 15, 20, 30, 50]

export function SamplePanel({ foods, sample, onSampleChange }: SamplePanelProps) {
  const items = sample?.items ?? []
  const age = sample?.age_h ?? 0
  const change = (next: Sample['items'], ageH = age) =>
    onSampleChange(next.length > 0 ? { items: next, age_h: ageH } : null)
  const unused = foods.filter(
    (food) => food.key !== 'attractor' && !items.some((i) => i.food_key === food.key),
  )
  return (
    <div className="space-y-1.5">
      {items.map((item, i) => {
        const name = foods.find((food) => food.key === item.food_key)?.name ?? item.food_key
        const edit = (changes: Partial<Sample['items'][number]>) =>
          change(items.map((other, k) => (k === i ? { ...other, ...changes } : other)))
        return (
          <div
            key={item.food_key}
            className="grid grid-cols-[1fr_3.6rem_4.8rem_5.2rem_auto] items-center gap-1.5"
          >
            <span className="truncate text-sm font-semibold">{name}</span>
            <input
              aria-label={`How many: ${name}`}
              type="number"
              min={1}
              max={500}
              className={`${CONTROL} h-9!`}
              value={item.count}
              onChange={(event) => {
                const count = Math.round(Number(event.target.value))
                if (count >= 1 && count <= 500) edit({ count })
              }}
            />
            <select
              aria-label={`Size: ${name}`}
              className={`${CONTROL} h-9!`}
              value={item.size_mm ?? ''}
              onChange={(event) => edit({ size_mm: event.target.value ? Number(event.target.value) : null })}
            >
              <option value="">size</option>
              {SIZES.map((mm) => (
                <option key={mm} value={mm}>
                  {mm} mm
                </option>
              ))}
            </select>
            <select
              aria-label={`Colour: ${name}`}
              className={`${CONTROL} h-9! px-1!`}
              value={item.colour}
              onChange={(event) => edit({ colour: event.target.value })}
            >
              <option value="">colour</option>
              {COLOURS.map((colour) => (
                <option key={colour}>{colour}</option>
              ))}
            </select>
            <Button
              look="quiet"
              className="px-1!"
              aria-label={`Take out ${name}`}
              onClick={() => change(items.filter((_, k) => k !== i))}
            >
              ×
            </Button>
          </div>
        )
      })}
      <select
        aria-label="Add what the sample held"
        className={`${CONTROL} font-semibold`}
        value=""
        onChange={(event) =>
          change([...items, { food_key: event.target.value, count: 1, size_mm: null, colour: '' }])
        }
      >
        <option value="">Add what it held…</option>
        {unused.map((food) => (
          <option key={food.key} value={food.key}>
            {food.name}
          </option>
        ))}
      </select>
      {items.length > 0 && (
        <Dial
          label="Taken"
          value={age}
          least={0}
          most={24}
          step={0.5}
          said={age === 0 ? 'just now' : `${age} h ago`}
          onValueChange={(ageH) => change(items, ageH)}
        />
      )}
      <p className="text-sm text-soft">
        Sample only a fish that is big enough, wet and gently, seldom, and only where it is lawful.
      </p>
    </div>
  )
}
