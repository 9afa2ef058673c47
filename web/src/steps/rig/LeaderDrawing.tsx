/** A leader to scale: every section with the length to cut, every fly in its place. */
import type { Ranked } from '../../api/client'
import { useWidth } from '../../column/useWidth'
import { format } from '../../format/units'
import { useUnits } from '../../state/person'

const HEIGHT = 80
const FIRST_ROW_PX = 60
const ROW_PX = 12
/** How wide a letter of a fly's name is [px]. */
const LETTER_PX = 5.9

interface Name {
  x: number
  anchor: 'middle' | 'end'
  row: number
}

/** Where each fly's name stands under its hook: on the first row on which it runs into none before it. */
function placeNames(hooks: readonly { at: number; name: string }[], widthPx: number): Name[] {
  const ends: number[] = []
  const placed = new Map<number, Name>()
  const fromLeft = hooks.map((_, i) => i).sort((a, b) => (hooks[a]?.at ?? 0) - (hooks[b]?.at ?? 0))
  for (const i of fromLeft) {
    const { at = 0, name = '' } = hooks[i] ?? {}
    const long = name.length * LETTER_PX
    const anchor = at + long / 2 > widthPx - 4 ? 'end' : 'middle'
    const x = anchor === 'end' ? Math.min(at + 12, widthPx - 2) : Math.max(at, long / 2 + 2)
    const left = anchor === 'end' ? x - long : x - long / 2
    const free = ends.findIndex((end) => left > end + 6)
    const row = free === -1 ? ends.length : free
    ends[row] = left + long
    placed.set(i, { x, anchor, row })
  }
  return hooks.map((_, i) => placed.get(i) ?? { x: 0, anchor: 'middle', row: 0 })
}

export function LeaderDrawing({ one }: { one: Ranked }) {
  const units = useUnits()
  const [ref, width] = useWidth()
  const sections = one.leader.sections
  const total = sections.reduce((sum, s) => sum + s.length_m, 0)
  const x = (fromLineM: number) => 6 + (fromLineM / total) * (width - 12)
  const starts = sections.map((_, i) => sections.slice(0, i).reduce((sum, s) => sum + s.length_m, 0))
  const hooks = one.flies.map((placed) => ({ at: x(total - placed.above_point_m), name: placed.fly.name }))
  const names = placeNames(hooks, width)
  const height = Math.max(HEIGHT, FIRST_ROW_PX + ROW_PX * Math.max(...names.map((n) => n.row)) + 8)
  return (
    <div ref={ref} style={{ minHeight: height }}>
      {width > 0 && (
        <svg
          width={width}
          height={height}
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
          {one.leader.hardware.map((piece, i) => (
            <rect
              key={i}
              x={x(total - piece.above_point_m) - 4}
              y={26}
              width={8}
              height={8}
              fill="var(--ink)"
            />
          ))}
          {hooks.map(({ at, name }, i) => {
            const { x: nameX, anchor, row } = names[i] ?? { x: at, anchor: 'middle', row: 0 }
            return (
              <g key={i}>
                <path d={`M${at} 30v12c0 7 -8 7 -8 1`} fill="none" stroke="var(--hot)" strokeWidth={2} />
                <text
                  x={nameX}
                  y={FIRST_ROW_PX + ROW_PX * row}
                  textAnchor={anchor}
                  className="plate"
                  fontSize={11.5}
                  fontWeight={600}
                  fill="var(--ink)"
                >
                  {name}
                </text>
              </g>
            )
          })}
        </svg>
      )}
    </div>
  )
}
