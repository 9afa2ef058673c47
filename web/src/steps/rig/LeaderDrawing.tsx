/** A leader to scale: every section with the length to cut, every fly in its place. */
import type { Ranked } from '../../api/client'
import { useWidth } from '../../column/useWidth'
import { format } from '../../format/units'
import { useUnits } from '../../state/person'

const HEIGHT = 80

export function LeaderDrawing({ one }: { one: Ranked }) {
  const units = useUnits()
  const [ref, width] = useWidth()
  const sections = one.leader.sections
  const total = sections.reduce((sum, s) => sum + s.length_m, 0)
  const x = (fromLineM: number) => 6 + (fromLineM / total) * (width - 12)
  const starts = sections.map((_, i) => sections.slice(0, i).reduce((sum, s) => sum + s.length_m, 0))
  return (
    <div ref={ref} style={{ minHeight: HEIGHT }}>
      {width > 0 && (
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          aria-label={`Leader of ${format('depth', total, units)}: ${sections
            .map((s) => `${format('depth', s.length_m, units)} of ${(s.diameter_m * 1000).toFixed(2)} mm`)
            .join(', ')}`}
        >
          {sections.map((section, i) => {
            const [from = 0] = [starts[i]]
            const middle = (x(from) + x(from + section.length_m)) / 2
            return (
              <g key={i}>
                <line
                  x1={x(from)}
                  x2={x(from + section.length_m)}
                  y1={30}
                  y2={30}
                  stroke="var(--ink)"
                  strokeWidth={1 + section.diameter_m * 9000}
                />
                {i > 0 && (
                  <circle
                    cx={x(from)}
                    cy={30}
                    r={3.2}
                    fill="var(--sheet)"
                    stroke="var(--ink)"
                    strokeWidth={1.6}
                  />
                )}
                {x(from + section.length_m) - x(from) > 34 && (
                  <text
                    x={middle}
                    y={18}
                    textAnchor="middle"
                    className="plate"
                    fontSize={12}
                    fontWeight={700}
                    fill="var(--ink)"
                  >
                    {format('depth', section.length_m, units)}
                  </text>
                )}
              </g>
            )
          })}
          {one.leader.hardware?.map((piece, i) => (
            <rect
              key={i}
              x={x(total - piece.above_point_m) - 4}
              y={26}
              width={8}
              height={8}
              fill="var(--ink)"
            />
          ))}
          {one.flies.map((placed, i) => {
            const at = x(total - placed.above_point_m)
            return (
              <g key={i}>
                <path d={`M${at} 30v12c0 7 -8 7 -8 1`} fill="none" stroke="var(--hot)" strokeWidth={2} />
                <text
                  x={Math.min(Math.max(at, 40), width - 4)}
                  y={i % 2 ? 72 : 60}
                  textAnchor={at > width - 60 ? 'end' : 'middle'}
                  className="plate"
                  fontSize={11.5}
                  fontWeight={600}
                  fill="var(--ink)"
                >
                  {placed.fly.name}
                </text>
              </g>
            )
          })}
        </svg>
      )}
    </div>
  )
}
