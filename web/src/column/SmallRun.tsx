/** A small Column through time: how deep each fly of one presentation is, from the cast on, with the band behind it. */
import type { Drawn, Picture } from '../api/client'
import { format, range, seconds } from '../format/units'
import { useUnits } from '../state/person'

const WIDTH = 240
const HEIGHT = 132
const TOP = 4
const BED = 10

interface SmallRunProps {
  run: Drawn
  picture: Picture
  /** The right edge, alike for all that stand beside each other [s]. */
  endS: number
  name: string
}

export function SmallRun({ run, picture, endS, name }: SmallRunProps) {
  const units = useUnits()
  const y = (depthM: number) => TOP + ((HEIGHT - TOP - BED) * depthM) / picture.deepest_m
  const x = (s: number) => (WIDTH * s) / endS
  const point = run.flies[0]
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="img"
        aria-label={`${name}: the point fly works ${range('depth', point?.low_m ?? 0, point?.high_m ?? 0, units)}`}
        className="block w-full"
      >
        <rect x="0" y={y(0)} width={WIDTH} height={HEIGHT - TOP - BED} fill="var(--water-light)" />
        {picture.belief.bands.map((band) => (
          <rect
            key={band.top_m}
            x="0"
            y={y(band.top_m)}
            width={WIDTH}
            height={y(band.bottom_m) - y(band.top_m)}
            fill="var(--fish)"
            opacity="0.45"
          />
        ))}
        <rect x="0" y={HEIGHT - BED} width={WIDTH} height={BED} fill="var(--bed)" />
        <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--ink)" strokeWidth="2" />
        {run.flies.map((fly, k) => (
          <polyline
            key={k}
            points={run.time_s
              .map((s, i) => `${x(s).toFixed(1)},${y(fly.depth_m[i] ?? 0).toFixed(1)}`)
              .join(' ')}
            fill="none"
            stroke={k === 0 ? 'var(--hot)' : 'var(--ink)'}
            strokeWidth={k === 0 ? 2.5 : 1.2}
            strokeDasharray={k === 0 ? undefined : '3 3'}
          />
        ))}
      </svg>
      <figcaption className="flex justify-between text-xs text-soft">
        <span>surface to {format('depth', picture.deepest_m, units)}</span>
        <span>{seconds(endS)}</span>
      </figcaption>
    </figure>
  )
}
