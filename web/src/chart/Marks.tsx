/** Marks on the map: each kind has a shape of its own, and its name beside it. */
import type { Schemas } from '../api/client'
import type { View } from '../map/view'

type Mark = Schemas['PlacedMarkOut']

/** Outlines about (0, 0), some 12 px across. */
const SHAPES: Record<string, string> = {
  'drop-off': 'M-6 -3H6M-4 -3V3M0 -3V6M4 -3V3',
  'weed-bed': 'M-5 6C-5 1 -7 0 -5 -6M0 6C0 0 -2 -1 0 -7M5 6C5 1 3 0 5 -5',
  inlet: 'M-6 -5C-2 -5 0 0 6 0M-6 5C-2 5 0 0 6 0',
  outlet: 'M-6 0C0 0 2 -5 6 -5M-6 0C0 0 2 5 6 5',
  point: 'M-6 5L0 -6L6 5Z',
  bay: 'M-6 -4C-6 7 6 7 6 -4',
  bank: 'M-7 3H7M-5 3L-3 -2M0 3L2 -2M5 3L7 -2',
  peg: 'M0 6V-6M-4 -6H4',
  open: 'M-6 0A6 6 0 1 0 6 0A6 6 0 1 0 -6 0',
  launch: 'M-7 -1H7L4 4H-4Z',
}

interface MarksProps {
  marks: readonly Mark[]
  ranks: ReadonlyMap<number, number>
  chosenId: number | null
  view: View
}

export function Marks({ marks, ranks, chosenId, view }: MarksProps) {
  return (
    <g>
      {marks.map((mark) => {
        const [x, y] = [view.left(mark.x_m), view.top(mark.y_m)]
        const rank = ranks.get(mark.id)
        const right = x < view.width - 130
        return (
          <g key={mark.id} transform={`translate(${x} ${y})`}>
            <circle
              r={10}
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth={mark.id === chosenId ? 3 : 1.2}
            />
            <path
              d={SHAPES[mark.kind_key] ?? SHAPES.peg}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.7}
              strokeLinecap="round"
              strokeLinejoin="round"
            />
            <text
              x={right ? 15 : -15}
              y={5}
              textAnchor={right ? 'start' : 'end'}
              className="plate"
              fontSize={14}
              fontWeight={rank === 1 ? 800 : 600}
              fill="var(--ink)"
              stroke="var(--paper)"
              strokeWidth={4}
              paintOrder="stroke"
            >
              {rank ? `${rank} · ${mark.name}` : mark.name}
            </text>
          </g>
        )
      })}
    </g>
  )
}
