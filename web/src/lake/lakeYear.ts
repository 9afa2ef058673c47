/** The lake's year as bands of equal warmth: what is drawn, apart from how. */
import type { Schemas } from '../api/client'

export type LakeYear = Schemas['LakeYearOut']
export type LakeDay = LakeYear['days'][number]

/** Edges of the shades [C]: finer where trout feel the difference. */
export const SHADES_C = [0, 4, 7, 10, 12, 14, 16, 18, 20, 22, 25] as const

export interface Run {
  top_m: number
  bottom_m: number
  shade: number
}

export function shadeOf(waterC: number): number {
  let shade = 0
  while (shade < SHADES_C.length - 1 && waterC >= (SHADES_C[shade + 1] ?? Infinity)) shade += 1
  return shade
}

/** The layers of a day, those of one shade drawn as one; `depth_m` are their middles. */
export function runsOf(day: LakeDay, depth_m: readonly number[]): Run[] {
  const runs: Run[] = []
  let edge = 0
  day.water_c.forEach((waterC, i) => {
    const bottom = 2 * (depth_m[i] ?? 0) - edge
    const shade = shadeOf(waterC)
    const last = runs.at(-1)
    if (last?.shade === shade) last.bottom_m = bottom
    else runs.push({ top_m: edge, bottom_m: bottom, shade })
    edge = bottom
  })
  return runs
}

/** Temperature at a depth of a day [C], between its layers' middles. */
export function at(day: LakeDay, depth_m: readonly number[], m: number): number {
  const i = depth_m.findIndex((d) => d >= m)
  if (i < 0) return day.water_c.at(-1) ?? 0
  if (i === 0) return day.water_c[0] ?? 0
  const [a = 0, b = 0] = [depth_m[i - 1], depth_m[i]]
  const [low = 0, high = 0] = [day.water_c[i - 1], day.water_c[i]]
  return low + ((high - low) * (m - a)) / (b - a)
}

/** The path of a line over days that is broken where it is not there. */
export function brokenPath(
  values: readonly (number | null)[],
  x: (i: number) => number,
  y: (m: number) => number,
): string {
  let path = ''
  let drawing = false
  values.forEach((value, i) => {
    if (value === null) drawing = false
    else {
      path += `${drawing ? 'L' : 'M'}${x(i).toFixed(1)} ${y(value).toFixed(1)}`
      drawing = true
    }
  })
  return path
}
