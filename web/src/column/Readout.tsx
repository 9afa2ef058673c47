/** What stands at one depth, in words. */
import type { Drawn, Picture } from '../api/client'
import { format, words, type Units } from '../format/units'
import { interpolate, type Geometry } from './geometry'

export interface Said {
  facts: readonly string[]
  why: string
  text: string
}

/** Everything known of one depth: temperature and its spread, light, how likely trout feed there, the fly's time. */
export function readoutAt(
  picture: Picture,
  simulation: Drawn | undefined,
  depthM: number,
  units: Units,
): Said {
  const { depth_m, water_c, spread_c } = picture.profile
  const at = (values: readonly number[]) => interpolate(depth_m, values, depthM)
  const spread = 1.8 ** Number(units.temperature_unit === 'F') * at(spread_c)
  const light = picture.brightness > 0 ? Math.round((100 * at(picture.light)) / picture.brightness) : 0
  const perHalfMetre = Math.round(100 * at(picture.belief.density_pm) * 0.5)
  const facts = [
    format('depth', depthM, units),
    `${format('temperature', at(water_c), units)} ± ${spread.toFixed(1)}`,
    `${light} % of the light`,
    `feeding here: ${perHalfMetre} % per ${units.depth_unit === 'ft' ? '1.6 ft' : '0.5 m'}`,
  ]
  const { measured_to_m, measured_from_m, oxygen_mgl } = picture.oxygen
  const measured = measured_to_m !== null && depthM <= measured_to_m && depthM >= (measured_from_m ?? 0)
  facts.splice(
    2,
    0,
    `oxygen ${measured ? '' : '≈ '}${at(oxygen_mgl).toFixed(1)} mg/L${measured ? '' : ', a guess'}`,
  )
  if (simulation) {
    const layers = simulation.flies[0]?.layer_s ?? []
    const layer = Math.min(Math.floor(depthM / simulation.layer_m), layers.length - 1)
    const near = layers.slice(Math.max(0, layer - 2), layer + 3).reduce((sum, s) => sum + s, 0)
    facts.push(`fly here ${Math.round(near)} s a cast`)
  }
  const weakest = [...picture.belief.factors].sort((a, b) => at(a.share) - at(b.share))[0]
  const why =
    weakest && at(weakest.share) < 0.75
      ? `${weakest.name} counts against it: ${words(weakest.why, units)}`
      : ''
  return { facts, why, text: [...facts, why].filter(Boolean).join('; ') }
}

export function Readout({ geometry, depthM, said }: { geometry: Geometry; depthM: number; said: Said }) {
  const y = geometry.y(depthM)
  const below = y < geometry.height / 2
  return (
    <div
      className="pointer-events-none absolute z-10 max-w-md rounded-sm border border-ink bg-sheet px-3 py-2 text-sm shadow-sm"
      style={{
        left: geometry.section.left,
        ...(below ? { top: y + 8 } : { bottom: geometry.height - y + 8 }),
      }}
    >
      <p className="font-semibold">{said.facts.join(' · ')}</p>
      {said.why && <p className="text-soft">{said.why}</p>}
    </div>
  )
}
