/** The answer in a strip that stays in sight on a phone: the water as a thin column, the band, and how much of it was read. */
import type { Picture } from '../../api/client'
import { chances, range } from '../../format/units'
import { useUnits } from '../../state/person'

const HEIGHT = 60
const WIDTH = 30

export function Gist({ picture, busy }: { picture: Picture; busy: boolean }) {
  const units = useUnits()
  const band = picture.belief.main_band
  const { depth_m } = picture.profile
  const density = picture.belief.density_pm
  const densest = Math.max(...density, 1e-6)
  const y = (m: number) => (m / picture.deepest_m) * HEIGHT
  const ridge = depth_m.map(
    (m, i) => `${(WIDTH * (1 - (0.85 * (density[i] ?? 0)) / densest)).toFixed(1)} ${y(m).toFixed(1)}`,
  )
  return (
    <div
      className={`sticky top-0 z-10 -mx-4 flex items-center gap-3 border-b-2 border-ink bg-paper px-4 py-1.5 lg:hidden ${busy ? 'opacity-60' : ''}`}
      aria-hidden="true"
    >
      <svg width={WIDTH} height={HEIGHT} className="shrink-0 border-2 border-ink bg-(--water-light)">
        <rect
          y={y(band.top_m)}
          width={WIDTH}
          height={Math.max(y(band.bottom_m) - y(band.top_m), 3)}
          fill="var(--fish)"
          fillOpacity={0.5}
        />
        <path
          d={`M${WIDTH} 0L${ridge.join('L')}L${WIDTH} ${HEIGHT}Z`}
          fill="var(--fish)"
          stroke="var(--fish-ink)"
        />
      </svg>
      <p className="min-w-0 leading-tight">
        <span className="plate block text-2xl font-bold">
          {range('depth', band.top_m, band.bottom_m, units)} <span className="text-lg">down</span>
        </span>
        <span className="block text-sm text-soft">
          {chances(band.chance)}, {Math.round(100 * picture.measured_share)} % of it read
        </span>
      </p>
    </div>
  )
}
