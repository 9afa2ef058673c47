/** The tank: two rigs over the same water, side by side in one drawing. */
import { scaleLinear } from 'd3-scale'
import { useMemo, useState } from 'react'
import type { Run, Schemas } from '../api/client'
import { useFlies, useLeaders, useLines, useRun, useTrade } from '../queries/hooks'
import { Bottom } from '../column/Bottom'
import { FromAbove } from '../column/FromAbove'
import { reachOf, RigDrawing } from '../column/RigDrawing'
import { Scrubber } from '../column/Scrubber'
import { useWidth } from '../column/useWidth'
import { format, range, seconds, depthUnitM } from '../format/units'
import { useUnits } from '../state/person'
import { Dial } from '../ui/Dial'
import { Trouble, Waiting } from '../ui/Notice'
import { useSettled } from '../ui/useSettled'
import { presentationOf, startingSides, type Box, type Shared, type Side } from './sides'
import { SideForm } from './SideForm'

const HEIGHT = 430
const TOP = 40
const BED = 26

export function TankPage() {
  const lines = useLines()
  const leaders = useLeaders()
  const flies = useFlies()
  const trade = useTrade()
  const error = lines.error ?? leaders.error ?? flies.error ?? trade.error
  if (error) return <Trouble error={error} />
  if (!lines.data || !leaders.data || !flies.data || !trade.data) return <Waiting what="Filling the tank…" />
  return (
    <Tank
      box={{ lines: lines.data.items, leaders: leaders.data.items, flies: flies.data.items }}
      retrieves={trade.data.retrieves}
    />
  )
}

function Tank({ box, retrieves }: { box: Box; retrieves: readonly Schemas['RetrieveOut'][] }) {
  const units = useUnits()
  const [shared, setShared] = useState<Shared>({ bottomM: 8, waterC: 12, windMps: 3 })
  const [[a, b], setSides] = useState<[Side, Side]>(() => startingSides(box))
  const [timeS, setTimeS] = useState(40)
  const asked = useSettled({ a, b, shared }, 60)
  const runA = useRun(useMemo(() => presentationOf(asked.a, asked.shared, box), [asked, box]))
  const runB = useRun(useMemo(() => presentationOf(asked.b, asked.shared, box), [asked, box]))
  const longer = [runA.data, runB.data]
    .filter((run): run is Run => run !== undefined)
    .sort((p, q) => (q.time_s.at(-1) ?? 0) - (p.time_s.at(-1) ?? 0))[0]
  const change = (which: 0 | 1) => (changes: Partial<Side>) =>
    setSides(
      (before) => before.map((side, i) => (i === which ? { ...side, ...changes } : side)) as [Side, Side],
    )
  return (
    <div className="mx-auto max-w-[1400px] px-4 py-3 lg:px-6">
      <h1 className="plate text-2xl font-bold">
        The tank <span className="text-base font-semibold text-soft">two rigs in the same water</span>
      </h1>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-3 lg:grid-cols-[minmax(0,1fr)_470px]">
        <div className="min-w-0">
          <TankDrawing runs={[runA.data, runB.data]} timeS={timeS} shared={shared} />
          {([runA.data, runB.data] as const).map(
            (run, i) =>
              run && (
                <AboveDrawing
                  key={i}
                  name={i === 0 ? 'A' : 'B'}
                  run={run}
                  timeS={timeS}
                  beside={[runA.data, runB.data]}
                />
              ),
          )}
          {longer && (
            <Scrubber
              run={longer}
              way={longer.indicator ? 'hang' : 'cast'}
              timeS={timeS}
              onTimeChange={setTimeS}
            />
          )}
          <div className="mt-2 grid gap-x-6 sm:grid-cols-3">
            <Dial
              label="Bottom"
              value={shared.bottomM}
              least={0.5}
              most={25}
              step={0.5}
              said={format('depth', shared.bottomM, units)}
              onValueChange={(bottomM) => setShared({ ...shared, bottomM })}
            />
            <Dial
              label="Water"
              value={shared.waterC}
              least={1}
              most={25}
              step={1}
              said={format('temperature', shared.waterC, units)}
              onValueChange={(waterC) => setShared({ ...shared, waterC })}
            />
            <Dial
              label="Wind across"
              value={shared.windMps}
              least={0}
              most={12}
              step={0.5}
              said={format('wind', shared.windMps, units)}
              onValueChange={(windMps) => setShared({ ...shared, windMps })}
            />
          </div>
          <div className="grid gap-x-8 sm:grid-cols-2">
            <Outcome name="A" run={runA.data} error={runA.error} />
            <Outcome name="B" run={runB.data} error={runB.error} />
          </div>
        </div>
        <div className="grid min-w-0 grid-cols-[repeat(auto-fit,minmax(min(10rem,100%),1fr))] gap-x-4">
          {([a, b] as const).map((side, i) => (
            <div key={i} className="min-w-0">
              <SideForm
                name={i === 0 ? 'A' : 'B'}
                side={side}
                box={box}
                retrieves={retrieves}
                onSideChange={change(i as 0 | 1)}
              />
            </div>
          ))}
        </div>
      </div>
    </div>
  )
}

interface TankDrawingProps {
  runs: readonly [Run | undefined, Run | undefined]
  timeS: number
  shared: Shared
}

function TankDrawing({ runs, timeS, shared }: TankDrawingProps) {
  const [ref, width] = useWidth()
  const units = useUnits()
  const left = LEFT
  const y = scaleLinear()
    .domain([0, shared.bottomM])
    .range([TOP, HEIGHT - BED])
  const x = tankScale(width, runs)
  const perUnit = depthUnitM(units)
  const step = [0.5, 1, 2, 5, 10, 20].find((s) => shared.bottomM / perUnit / s <= 12) ?? 20
  const ticks = Array.from({ length: Math.floor(shared.bottomM / perUnit / step) + 1 }, (_, i) => i * step)
  return (
    <div ref={ref}>
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label="Two rigs in one water, seen from the side. Rig A is a full line, rig B a broken one. Their depths stand in the tables."
        className="block"
      >
        <rect
          x={left}
          y={TOP}
          width={Math.max(width - left, 0)}
          height={HEIGHT - TOP}
          fill="var(--water-light)"
        />
        <Bottom
          corners={[{ distance_m: 0, depth_m: shared.bottomM }]}
          weedM={0}
          x={x}
          y={y}
          left={left}
          right={width}
          floor={HEIGHT}
        />
        <g className="plate" fill="var(--ink)" fontSize={14} fontWeight={600}>
          <text x={left - 8} y={16} textAnchor="end" fontSize={12} fill="var(--soft)">
            {units.depth_unit}
          </text>
          {ticks.map((tick) => (
            <g key={tick}>
              <text x={left - 8} y={y(tick * perUnit) + 5} textAnchor="end">
                {tick}
              </text>
              <line
                x1={left - 4}
                x2={width}
                y1={y(tick * perUnit)}
                y2={y(tick * perUnit)}
                stroke="var(--ink)"
                strokeOpacity={tick === 0 ? 1 : 0.14}
                strokeWidth={tick === 0 ? 2 : 1}
              />
            </g>
          ))}
        </g>
        {runs[1] && (
          <RigDrawing run={runs[1]} timeS={timeS} x={x} y={y} edges={[left, width]} ink="calm" label="B" />
        )}
        {runs[0] && (
          <RigDrawing run={runs[0]} timeS={timeS} x={x} y={y} edges={[left, width]} ink="hot" label="A" />
        )}
      </svg>
    </div>
  )
}

const LEFT = 44

/** Distance to pixels, for every drawing of the tank. */
function tankScale(width: number, runs: readonly (Run | undefined)[]) {
  const found = runs.filter((run): run is Run => run !== undefined)
  return scaleLinear()
    .domain(found.length > 0 ? reachOf(found) : [-0.4, 18])
    .range([LEFT + 58, width - 14])
}

/** One of the rigs from above, under the drawing from the side and on its scale of distance. */
function AboveDrawing({
  name,
  run,
  timeS,
  beside,
}: {
  name: 'A' | 'B'
  run: Run
  timeS: number
  beside: readonly (Run | undefined)[]
}) {
  const [ref, width] = useWidth()
  return (
    <div ref={ref} className="mt-1">
      {width > 0 && (
        <FromAbove
          run={run}
          timeS={timeS}
          lane={{ left: LEFT, width: Math.max(width - LEFT, 0) }}
          x={tankScale(width, beside)}
          width={width}
          heightPx={64}
          name={name}
        />
      )}
    </div>
  )
}

const EDGES = { A: 'border-hot', B: 'border-calm border-dashed' } as const

function Outcome({ name, run, error }: { name: 'A' | 'B'; run: Run | undefined; error: unknown }) {
  const units = useUnits()
  if (error) return <Trouble error={error} />
  if (!run) return null
  const [point] = run.flies
  if (!point) return null
  const rows: [string, string][] = [
    ['works at', range('depth', point.low_m, point.high_m, units)],
    run.indicator
      ? ['hangs after', seconds(point.settle_s)]
      : ['starts at', format('depth', point.start_depth_m, units)],
    ['deepest', format('depth', point.deepest_m, units)],
    ['on the bottom', seconds(point.contact_s)],
  ]
  if (run.indicator) {
    rows.push(
      ['short of its set depth', format('depth', Math.max(run.indicator.shortfall_m[0] ?? 0, 0), units)],
      ['float', run.indicator.carried ? 'carries it' : 'goes under: too small'],
    )
    if (run.indicator.recast_after_s)
      rows.push(['the line drags it', `after ${seconds(run.indicator.recast_after_s)}`])
  } else if (run.plain_sum_m > 0) rows.push(['the plain sum', format('depth', run.plain_sum_m, units)])
  if (run.side) {
    const most = (values: readonly number[]) => format('depth', Math.max(...values), units)
    rows.push(['the line bows', most(run.side.bow_m)], ['a strike takes up', most(run.side.slack_m)])
    if (run.side.recast_at_s !== null && !run.indicator)
      rows.push(['the bow drags it', `after ${seconds(run.side.recast_at_s)}`])
  }
  return (
    <dl aria-label={`What ${name} does`} className={`mt-2 border-t-4 text-sm ${EDGES[name]}`}>
      {rows.map(([what, value]) => (
        <div key={what} className="flex justify-between gap-2 border-b border-rule py-0.5">
          <dt className="text-soft">{what}</dt>
          <dd className="text-right font-semibold">{value}</dd>
        </div>
      ))}
    </dl>
  )
}
