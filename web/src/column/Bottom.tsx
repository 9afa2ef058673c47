/** The bottom as it runs, with the weed that stands on it. */
import type { ScaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { useId } from 'react'

export interface BottomProps {
  /** Corners of the bottom, outward from the rod; held at the ends. */
  corners: readonly { distance_m: number; depth_m: number }[]
  weedM: number
  x: ScaleLinear<number, number>
  y: ScaleLinear<number, number>
  left: number
  right: number
  /** Where the drawing ends below [px]. */
  floor: number
}

export function Bottom({ corners, weedM, x, y, left, right, floor }: BottomProps) {
  const id = useId()
  const first = corners[0]?.depth_m ?? 1
  const last = corners.at(-1)?.depth_m ?? first
  const points: [number, number][] = [
    [left, first],
    ...corners
      .map((c): [number, number] => [x(c.distance_m), c.depth_m])
      .filter(([px]) => px > left && px < right),
    [right, last],
  ]
  const bed = area()
    .x(([px]) => px)
    .y0(([, depth]) => y(depth))
    .y1(floor)
  const edge = line()
    .x(([px]) => px)
    .y(([, depth]) => y(depth))
  const weed = area()
    .x(([px]) => px)
    .y0(([, depth]) => y(Math.max(depth - weedM, 0)))
    .y1(([, depth]) => y(depth))
  return (
    <g>
      <defs>
        <pattern id={`${id}-bed`} width={9} height={9} patternUnits="userSpaceOnUse">
          <path d="M0 9L9 0" stroke="var(--bed-line)" strokeWidth={1} />
        </pattern>
        <pattern id={`${id}-weed`} width={10} height={22} patternUnits="userSpaceOnUse">
          <path d="M5 22C1 15 9 8 5 0" fill="none" stroke="var(--calm)" strokeWidth={1.6} />
        </pattern>
      </defs>
      {weedM > 0.02 && <path d={weed(points) ?? ''} fill={`url(#${id}-weed)`} fillOpacity={0.85} />}
      <path d={bed(points) ?? ''} fill="var(--bed)" />
      <path d={bed(points) ?? ''} fill={`url(#${id}-bed)`} />
      <path d={edge(points) ?? ''} fill="none" stroke="var(--bed-line)" strokeWidth={2.5} />
    </g>
  )
}
