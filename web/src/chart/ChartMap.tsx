/** The map, drawn from the lake's own data: no tiles. Click, or the arrow keys and Enter, choose a place on it. */
import { useId, useState, type KeyboardEvent, type WheelEvent } from 'react'
import type { Chart, Schemas } from '../api/client'
import { useWidth } from '../column/useWidth'
import { compass, format } from '../format/units'
import { useUnits } from '../state/person'
import { DepthShading } from './DepthShading'
import { Marks } from './Marks'
import { Shores } from './Shores'
import { Standing } from './Standing'
import { inside, useGrip } from '../map/useGrip'
import { fit, pathOf, viewOf, zoomed, type Frame, type Point, type View } from '../map/view'

export interface ChartMapProps {
  chart: Chart
  shores: readonly Schemas['ShoreOut'][]
  standing: Schemas['StandingOut'] | null
  ranks: ReadonlyMap<number, number>
  chosenId: number | null
  wind: { speedMps: number; fromDeg: number }
  castM: number
  /** Corners of a line being drawn [m]: an outline, or a section. */
  drawn: readonly Point[]
  /** What a click does, in words. */
  says: string
  heightPx: number
  onPick(place: Point): void
}

const NUDGE_PX = 12

export function ChartMap(props: ChartMapProps) {
  const { chart, heightPx, onPick } = props
  const [ref, width] = useWidth()
  const [moved, setMoved] = useState<Frame | null>(null)
  const [aim, setAim] = useState<Point | null>(null)
  const { middle, pxPerM } =
    moved ?? (width > 0 ? fit(chart, width, heightPx) : { middle: { x: 0, y: 0 }, pxPerM: 1 })
  const view = viewOf(middle, pxPerM, width, heightPx)

  const zoom = (factor: number, about: Point = middle) => setMoved(zoomed(view, factor, about))
  const grip = useGrip(view, setMoved, onPick)
  const press = (event: KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key]
    const from = aim ?? (props.standing ? { x: props.standing.x_m, y: props.standing.y_m } : middle)
    if (way)
      setAim({
        x: from.x + ((way[0] ?? 0) * NUDGE_PX) / pxPerM,
        y: from.y + ((way[1] ?? 0) * NUDGE_PX) / pxPerM,
      })
    else if (event.key === 'Enter' || event.key === ' ') onPick(from)
    else if (event.key === '+' || event.key === '=') zoom(1.5, from)
    else if (event.key === '-') zoom(1 / 1.5, from)
    else if (event.key === '0') setMoved(null)
    else if (event.key === 'Escape') setAim(null)
    else return
    event.preventDefault()
  }

  return (
    <div ref={ref} className="relative">
      {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions -- an application takes keys */}
      <div
        role="application"
        tabIndex={0}
        aria-label={`Map. ${props.says} Arrow keys aim, Enter chooses, plus and minus zoom.`}
        onKeyDown={press}
        onBlur={() => setAim(null)}
        style={{ height: heightPx }}
      >
        {width > 0 && (
          <svg
            width={width}
            height={heightPx}
            aria-hidden="true"
            className="block touch-none border-2 border-ink select-none"
            {...grip}
            onWheel={(event: WheelEvent<SVGSVGElement>) =>
              zoom(event.deltaY < 0 ? 1.2 : 1 / 1.2, view.place(...inside(event)))
            }
          >
            <Lake chart={chart} view={view} widthPx={width} heightPx={heightPx} />
            <Shores shores={props.shores} windFromDeg={props.wind.fromDeg} view={view} />
            {props.standing && <Standing standing={props.standing} castM={props.castM} view={view} />}
            <Marks marks={chart.marks} ranks={props.ranks} chosenId={props.chosenId} view={view} />
            <Drawn points={props.drawn} view={view} />
            {aim && (
              <path
                d={`M${view.left(aim.x) - 12} ${view.top(aim.y)}h24m-12 -12v24`}
                stroke="var(--hot)"
                strokeWidth={2.4}
              />
            )}
            <ScaleBar view={view} />
          </svg>
        )}
      </div>
      {/* A phone's map is too small to have anything laid over it. */}
      <div className="flex items-center justify-between sm:contents">
        <WindRose wind={props.wind} />
        <MapButtons onZoom={zoom} onWhole={() => setMoved(null)} />
      </div>
    </div>
  )
}

interface LakeProps {
  chart: Chart
  view: View
  widthPx: number
  heightPx: number
}

/** Land and water, depths and shores. */
function Lake({ chart, view, widthPx, heightPx }: LakeProps) {
  const id = useId()
  return (
    <>
      <defs>
        <pattern
          id={`${id}-land`}
          width={9}
          height={9}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <line x1={0} x2={0} y1={0} y2={9} stroke="var(--rule)" strokeWidth={1.1} />
        </pattern>
        <clipPath id={`${id}-water`}>
          <path clipRule="evenodd" d={chart.rings.map((ring) => pathOf(ring, view, true)).join('')} />
        </clipPath>
      </defs>
      <rect
        width={widthPx}
        height={heightPx}
        fill={chart.rings.length > 0 ? `url(#${id}-land)` : 'var(--sheet)'}
      />
      <path
        fillRule="evenodd"
        d={chart.rings.map((ring) => pathOf(ring, view, true)).join('')}
        fill="var(--water-light)"
      />
      <g clipPath={chart.rings.length > 0 ? `url(#${id}-water)` : undefined}>
        {chart.grid && <DepthShading grid={chart.grid} view={view} />}
        {chart.drop_offs.map((line, i) => (
          <path
            key={i}
            d={pathOf(line, view, false)}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={2.4}
            strokeDasharray="9 3 2 3"
          />
        ))}
      </g>
      {chart.rings.map((ring, i) => (
        <path key={i} d={pathOf(ring, view, true)} fill="none" stroke="var(--ink)" strokeWidth={2} />
      ))}
    </>
  )
}

function MapButtons({ onZoom, onWhole }: { onZoom(factor: number): void; onWhole(): void }) {
  return (
    <div className="mt-1 flex border-2 border-ink bg-sheet sm:absolute sm:top-2 sm:right-2 sm:mt-0 sm:flex-col">
      {[
        { text: '+', says: 'Zoom in', act: () => onZoom(1.5) },
        { text: '−', says: 'Zoom out', act: () => onZoom(1 / 1.5) },
        { text: '□', says: 'The whole lake', act: onWhole },
      ].map((button) => (
        <button
          key={button.says}
          type="button"
          aria-label={button.says}
          className="size-12 border-ink text-xl font-bold not-first:border-l-2 sm:size-11 sm:not-first:border-t-2 sm:not-first:border-l-0"
          onClick={button.act}
        >
          {button.text}
        </button>
      ))}
    </div>
  )
}

function Drawn({ points, view }: { points: readonly Point[]; view: View }) {
  return (
    <g>
      <path
        d={pathOf(
          points.map((p) => [p.x, p.y] as const),
          view,
          false,
        )}
        fill="none"
        stroke="var(--hot)"
        strokeWidth={2.4}
      />
      {points.map((p, i) => (
        <circle
          key={i}
          cx={view.left(p.x)}
          cy={view.top(p.y)}
          r={i === 0 ? 7 : 4.5}
          fill="var(--sheet)"
          stroke="var(--hot)"
          strokeWidth={2.4}
        />
      ))}
    </g>
  )
}

/** Where the wind comes from, how strong, and where north is: up. */
function WindRose({ wind }: { wind: ChartMapProps['wind'] }) {
  const units = useUnits()
  const angle = ((wind.fromDeg + 180) * Math.PI) / 180
  const [dx, dy] = [Math.sin(angle), -Math.cos(angle)]
  return (
    <div className="pointer-events-none flex items-center gap-2 py-1 text-sm font-semibold sm:absolute sm:top-2 sm:left-2 sm:bg-sheet sm:px-2">
      <svg width="44" height="52" viewBox="-22 -30 44 52" aria-hidden="true">
        <circle r={18} fill="none" stroke="var(--rule)" strokeWidth={1.5} />
        <text y={-20} textAnchor="middle" fontSize={10} className="plate" fontWeight={700} fill="var(--ink)">
          N
        </text>
        <path
          d={`M${-dx * 17} ${-dy * 17}L${dx * 15} ${dy * 15}M${dx * 15 - dx * 8 - dy * 5} ${dy * 15 - dy * 8 + dx * 5}L${dx * 15} ${dy * 15}L${dx * 15 - dx * 8 + dy * 5} ${dy * 15 - dy * 8 - dx * 5}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth={2.4}
        />
      </svg>
      <span>
        from {compass(wind.fromDeg)}
        <br />
        {format('wind', wind.speedMps, units)}
      </span>
    </div>
  )
}

function ScaleBar({ view }: { view: View }) {
  const units = useUnits()
  const [perUnit, label] = units.depth_unit === 'ft' ? [0.9144, 'yd'] : [1, 'm']
  const shown =
    [5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000].find((n) => n * perUnit * view.pxPerM > 70) ??
    20_000
  const length = shown * perUnit * view.pxPerM
  const [x, y] = [16, view.height - 16]
  return (
    <g stroke="var(--ink)" strokeWidth={2}>
      <path d={`M${x} ${y - 5}V${y}H${x + length}V${y - 5}`} fill="none" />
      <text
        x={x + length + 8}
        y={y + 2}
        className="plate"
        fontSize={13}
        fontWeight={600}
        fill="var(--ink)"
        stroke="var(--paper)"
        strokeWidth={4}
        paintOrder="stroke"
      >
        {shown} {label}
      </text>
    </g>
  )
}
