/** The section of water in front of the angler: light, bottom, and the line, leader and fly in it. */
import { scaleLinear } from 'd3-scale'
import { useId } from 'react'
import type { Drawn, Picture } from '../api/client'
import { Bottom } from './Bottom'
import { interpolate, type Geometry } from './geometry'
import { reachOf, RigDrawing } from './RigDrawing'
import { USUAL } from '../api/trade'

interface SectionLaneProps {
  geometry: Geometry
  picture: Picture
  simulation: Drawn | undefined
  timeS: number
  takes: readonly { low_m: number; high_m: number }[]
}

/** Distance from the rod [m] to pixels, as far as a run reaches. */
export function distanceScale({ section: lane }: Geometry, simulation: Drawn | undefined) {
  return scaleLinear()
    .domain(simulation ? reachOf([simulation]) : [-0.4, USUAL.usualCastM])
    .range([lane.left + 14, lane.left + lane.width - 14])
}

export function SectionLane({ geometry, picture, simulation, timeS, takes }: SectionLaneProps) {
  const id = useId()
  const { y, section: lane, bottom, height } = geometry
  const { depth_m } = picture.profile
  const deepest = picture.deepest_m
  const x = distanceScale(geometry, simulation)
  return (
    <g>
      <defs>
        <linearGradient id={`${id}-light`} x1="0" x2="0" y1="0" y2="1">
          {[0, 0.08, 0.16, 0.28, 0.42, 0.6, 0.8, 1].map((share) => {
            const left =
              picture.brightness > 0
                ? interpolate(depth_m, picture.light, share * deepest) / picture.brightness
                : 0
            return (
              <stop
                key={share}
                offset={share}
                stopColor={`color-mix(in oklab, var(--water-light) ${Math.round(100 * left)}%, var(--water-dark))`}
              />
            )
          })}
        </linearGradient>
        <clipPath id={`${id}-clip`}>
          <rect x={lane.left} y={geometry.top - 30} width={lane.width} height={bottom - geometry.top + 32} />
        </clipPath>
      </defs>
      <rect x={lane.left} y={y(0)} width={lane.width} height={bottom - y(0)} fill={`url(#${id}-light)`} />
      <Bottom
        corners={simulation?.bottom ?? levelOrSloping(picture)}
        weedM={picture.weed_m}
        x={x}
        y={y}
        left={lane.left}
        right={lane.left + lane.width}
        floor={height}
      />
      {picture.belief.bands.map((band) => (
        <g
          key={band.top_m}
          stroke="var(--ink)"
          strokeOpacity={0.5}
          strokeDasharray="1 4"
          strokeLinecap="round"
          strokeWidth={1.5}
        >
          <line x1={lane.left} x2={geometry.width} y1={y(band.top_m)} y2={y(band.top_m)} />
          <line x1={lane.left} x2={geometry.width} y1={y(band.bottom_m)} y2={y(band.bottom_m)} />
        </g>
      ))}
      {takes.map((take, i) => (
        <TakeMark
          key={i}
          x={lane.left + lane.width * (0.1 + (0.8 * (i + 0.5)) / takes.length)}
          y1={y(take.low_m)}
          y2={y(take.high_m)}
        />
      ))}
      <g clipPath={`url(#${id}-clip)`}>
        {simulation && (
          <RigDrawing
            run={simulation}
            timeS={timeS}
            x={x}
            y={y}
            edges={[lane.left, lane.left + lane.width]}
          />
        )}
      </g>
    </g>
  )
}

/** Without a cast to say how far it reaches, the bottom slopes over a usual one. */
function levelOrSloping(picture: Picture) {
  return [
    { distance_m: 0.2 * USUAL.usualCastM, depth_m: picture.bottom_depth_m },
    { distance_m: USUAL.usualCastM, depth_m: picture.far_bottom_depth_m ?? picture.bottom_depth_m },
  ]
}

/** A take: an open ring with a bar as long as its depth is unsure. */
function TakeMark({ x, y1, y2 }: { x: number; y1: number; y2: number }) {
  return (
    <g stroke="var(--fish-ink)" strokeWidth={2}>
      <line x1={x} x2={x} y1={y1} y2={y2} />
      <circle cx={x} cy={(y1 + y2) / 2} r={4.5} fill="var(--fish)" />
    </g>
  )
}
