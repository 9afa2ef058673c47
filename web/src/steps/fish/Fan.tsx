/** Where the casts went, seen from above: five directions, near and far. The next one stands out; a tap opens it to pick another. */
import { useState } from 'react'
import type { Spot } from '../../offline/store'
import type { Moves } from '../../search/thinker'

const WORDS = ['hard left', 'half left', 'straight', 'half right', 'hard right'] as const
const SPAN_DEG = 34

function spotWords({ toward, far }: Spot): string {
  return `${WORDS[toward + 2] ?? ''}, ${far ? 'far' : 'near'}`
}

interface FanProps {
  fan: Moves['fan']
  next: Spot
  onPick(spot: Spot): void
}

export function Fan({ fan, next, onPick }: FanProps) {
  const [open, setOpen] = useState(false)
  return (
    <>
      <button
        type="button"
        className="shrink-0"
        aria-expanded={open}
        aria-label={`Next cast: ${spotWords(next)}. Pick another`}
        onClick={() => setOpen(!open)}
      >
        <Sectors fan={fan} next={next} widthPx={112} />
        <span className="block text-center text-xs leading-tight font-semibold">{spotWords(next)}</span>
      </button>
      {open && (
        <div className="fixed inset-x-3 bottom-3 z-20 border-2 border-ink bg-paper p-3">
          <Sectors
            fan={fan}
            next={next}
            widthPx={340}
            onPick={(spot) => {
              onPick(spot)
              setOpen(false)
            }}
          />
          <button type="button" className="min-h-14 w-full font-semibold" onClick={() => setOpen(false)}>
            Back
          </button>
        </div>
      )}
    </>
  )
}

interface SectorsProps {
  fan: Moves['fan']
  next: Spot
  widthPx: number
  /** Without it the drawing is only looked at. */
  onPick?: (spot: Spot) => void
}

function Sectors({ fan, next, widthPx, onPick }: SectorsProps) {
  const most = Math.max(1, ...fan.covered.map((one) => one.casts))
  const outer = widthPx / 2 - 1
  return (
    <svg
      width={widthPx}
      height={outer + 4}
      className="mx-auto block max-w-full"
      {...(onPick ? { role: 'group', 'aria-label': 'Where to cast' } : { 'aria-hidden': true })}
    >
      {fan.covered.map(({ toward, far, casts }) => {
        const here = toward === next.toward && far === next.far
        const label = `${spotWords({ toward, far })}: ${casts} ${casts === 1 ? 'cast' : 'casts'}`
        return (
          <path
            key={`${toward} ${far}`}
            d={sector(toward, far, outer)}
            className={`stroke-ink ${here ? 'fill-hot' : casts > 0 ? 'fill-ink' : 'fill-sheet'}`}
            strokeWidth={here ? 1.5 : 0.75}
            fillOpacity={here || casts === 0 ? 1 : 0.15 + (0.45 * casts) / most}
            {...(onPick && {
              role: 'button',
              tabIndex: 0,
              'aria-label': label,
              'aria-pressed': here,
              onClick: () => onPick({ toward, far }),
              onKeyDown: (event: React.KeyboardEvent) => {
                if (event.key === 'Enter' || event.key === ' ') onPick({ toward, far })
              },
            })}
          />
        )
      })}
      <circle cx={widthPx / 2} cy={outer + 1} r={3} className="fill-ink" />
    </svg>
  )
}

/** A piece of the ring, the angler at the middle of the lower edge. */
function sector(toward: number, far: boolean, radius: number): string {
  const [inner, outer] = far ? [0.58 * radius, radius] : [0.16 * radius, 0.55 * radius]
  const from = toward * SPAN_DEG - SPAN_DEG / 2 + 1
  const to = toward * SPAN_DEG + SPAN_DEG / 2 - 1
  const at = (deg: number, r: number) => {
    const rad = (deg * Math.PI) / 180
    return `${(radius + 1 + r * Math.sin(rad)).toFixed(1)} ${(radius + 1 - r * Math.cos(rad)).toFixed(1)}`
  }
  const arc = (r: number, turn: 0 | 1) => `A${r.toFixed(1)} ${r.toFixed(1)} 0 0 ${turn} `
  return `M${at(from, inner)}L${at(from, outer)}${arc(outer, 1)}${at(to, outer)}L${at(to, inner)}${arc(inner, 0)}${at(from, inner)}Z`
}
