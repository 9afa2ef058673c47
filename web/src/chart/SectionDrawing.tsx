/** The bottom along a line across the map. */
import { scaleLinear } from 'd3-scale'
import type { Schemas } from '../api/client'
import { useWidth } from '../column/useWidth'
import { distance, format, seconds, toShown } from '../format/units'
import { useUnits } from '../state/person'

const HEIGHT = 132
const TOP = 14

export function SectionDrawing({ section }: { section: Schemas['SectionOut'] }) {
  const units = useUnits()
  const [ref, width] = useWidth()
  const length = section.distance_m.at(-1) ?? 1
  const depths = section.depth_m.map((d) => d ?? 0)
  const deepest = Math.max(...depths, 1)
  const x = scaleLinear()
    .domain([0, length])
    .range([44, Math.max(width - 8, 60)])
  const y = scaleLinear()
    .domain([0, deepest * 1.08])
    .range([TOP, HEIGHT - 18])
  const floor = section.distance_m
    .map((d, i) => `${x(d).toFixed(1)} ${y(depths[i] ?? 0).toFixed(1)}`)
    .join('L')
  const at = depths.indexOf(Math.max(...depths))
  return (
    <figure ref={ref} className="mt-2">
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={`Depth along the line, deepest ${format('depth', deepest, units)}`}
        >
          <rect
            x={44}
            y={TOP}
            width={Math.max(width - 52, 10)}
            height={HEIGHT - 18 - TOP}
            fill="var(--water-light)"
          />
          <path d={`M${x(0)} ${HEIGHT - 18}L${floor}L${x(length)} ${HEIGHT - 18}Z`} fill="var(--bed)" />
          <path d={`M${floor}`} fill="none" stroke="var(--bed-line)" strokeWidth={2} />
          <line x1={44} x2={width - 8} y1={TOP} y2={TOP} stroke="var(--ink)" strokeWidth={2} />
          {y.ticks(4).map((tick) => (
            <text
              key={tick}
              x={38}
              y={y(tick) + 4}
              textAnchor="end"
              className="plate"
              fontSize={12}
              fill="var(--ink)"
            >
              {toShown('depth', tick, units).toFixed(units.depth_unit === 'ft' ? 0 : tick % 1 ? 1 : 0)}
            </text>
          ))}
          <text
            x={x(section.distance_m[at] ?? 0)}
            y={y(deepest) - 6}
            textAnchor="middle"
            className="plate"
            fontSize={13}
            fontWeight={700}
            fill="var(--ink)"
          >
            {format('depth', deepest, units)}
          </text>
          <text x={44} y={HEIGHT - 3} className="plate" fontSize={12} fill="var(--soft)">
            start
          </text>
          <text
            x={width - 8}
            y={HEIGHT - 3}
            textAnchor="end"
            className="plate"
            fontSize={12}
            fill="var(--soft)"
          >
            {distance(length, units)}
          </text>
        </svg>
      )}
      <figcaption className="text-sm">
        {section.drift_s === null
          ? 'The wind does not carry a boat along this line.'
          : `A boat drifts it in ${seconds(section.drift_s)}, on a drogue in ${seconds(section.drogue_s ?? 0)}.`}
        {section.depth_m.some((d) => d === null) && ' Where nothing was sounded it is drawn at the surface.'}
      </figcaption>
    </figure>
  )
}
