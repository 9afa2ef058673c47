/** What they are likely on: the first few, each with its chance, its layer and the reason. */
import type { Picture } from '../../api/client'
import { words } from '../../format/units'
import { useUnits } from '../../state/person'

const SHOWN = 3

export function LikelyFood({ picture }: { picture: Picture }) {
  const units = useUnits()
  const best = picture.foods.slice(0, SHOWN)
  const most = best[0]?.probability ?? 1
  return (
    <section aria-label="Likely food">
      <h2 className="eyebrow border-b border-ink pb-0.5">What they are likely on</h2>
      <ol>
        {best.map((food) => (
          <li
            key={food.key}
            className="grid grid-cols-[3.2rem_1fr] gap-x-2 py-0.5 text-[0.9375rem] leading-tight"
          >
            <span className="relative self-start pr-1 text-right font-semibold">
              <span
                aria-hidden="true"
                className="absolute inset-y-0 right-0 bg-fish"
                style={{ width: `${(100 * food.probability) / most}%`, opacity: 0.55 }}
              />
              <span className="relative">{Math.round(100 * food.probability)} %</span>
            </span>
            <span>
              <strong>{food.name}</strong> <span className="text-soft">{food.where}</span>
              {food.reasons[0] && (
                <span className="block text-sm text-soft">{words(food.reasons[0], units)}</span>
              )}
            </span>
          </li>
        ))}
      </ol>
      {picture.look_for && (
        <p className="text-sm">
          <span className="eyebrow mr-1">Would settle most</span>
          {picture.look_for.asks}
        </p>
      )}
    </section>
  )
}
