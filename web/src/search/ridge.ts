/** The water as the search sees it by now, in the shape that the Column draws. */
import { interpolate } from '../column/geometry'
import type { Picture } from '../api/client'
import type { Moves } from './thinker'

export function withRidge(picture: Picture, { ridge, band }: Moves): Picture {
  const depths = ridge.map((one) => one.depth_m)
  const step = (depths[1] ?? 1) - (depths[0] ?? 0)
  const density = ridge.map((one) => one.chance / step)
  return {
    ...picture,
    belief: {
      ...picture.belief,
      density_pm: picture.profile.depth_m.map((depth) => interpolate(depths, density, depth)),
      mean_m: ridge.reduce((sum, one) => sum + one.depth_m * one.chance, 0),
      bands: [band],
      main_band: band,
    },
  }
}
