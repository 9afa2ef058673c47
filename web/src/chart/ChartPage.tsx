/** One water's chart: where it is deep, how the wind lies on it, and where to start. */
import { within } from '../api/within'
import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { Refusal, type Conditions, type Schemas, type Water } from '../api/client'
import { useChart, useTrade, useWaters } from '../queries/hooks'
import { COMPASS } from '../format/units'
import { freshOuting, useOuting } from '../state/outing'
import { ChoiceField, QuantityField } from '../ui/Field'
import { Button } from '../ui/Button'
import { Trouble, Waiting } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { useSettled } from '../ui/useSettled'
import { ChartFiles } from './ChartFiles'
import { ChartMap } from './ChartMap'
import { useChartChanges, useSection, useShores, useStanding, useStarts } from './hooks'
import { PlacePanel } from './PlacePanel'
import { SectionDrawing } from './SectionDrawing'
import { StartList } from './StartList'
import type { Point } from '../map/view'

type Tool = 'stand' | 'section' | 'outline'

const SAYS: Record<Tool, string> = {
  stand: 'Choose a place to see what it is like.',
  section: 'Choose two places to cut through the bottom between them.',
  outline: 'Choose corners round the shore, then close it.',
}

const NO_OUTLINE = 'No outline yet: draw the shore, or bring it in as GeoJSON.'

export function ChartPage() {
  const id = Number(useParams().waterId)
  const waters = useWaters()
  if (waters.isError) return <Trouble error={waters.error} />
  if (!waters.data) return <Waiting what="Fetching your waters…" />
  const water = waters.data.items.find((w) => w.id === id)
  if (!water)
    return (
      <section className="p-6">
        <h1 className="plate text-3xl font-bold">No such water</h1>
        <Link to="/waters" className="underline">
          Your waters
        </Link>
      </section>
    )
  return <OneChart key={water.id} water={water} />
}

function OneChart({ water }: { water: Water }) {
  const { outing, observe, replace } = useOuting()
  const navigate = useNavigate()
  const trade = useTrade()
  const chart = useChart(water.id)
  const here = outing?.conditions.water_id === water.id ? outing : null
  const start = here ?? freshOuting(water)
  const base = start.conditions
  const [wind, setWind] = useState({ speedMps: base.wind_speed_mps, fromDeg: base.wind_from_deg })
  const [tool, setTool] = useState<Tool>('stand')
  const [place, setPlace] = useState<Point | null>(null)
  const [chosenId, setChosenId] = useState<number | null>(null)
  const [line, setLine] = useState<Point[]>([])
  const blows = useSettled(
    useMemo(() => ({ wind_speed_mps: wind.speedMps, wind_from_deg: wind.fromDeg }), [wind]),
    150,
  )
  const outlined = (chart.data?.rings.length ?? 0) > 0
  const shores = useShores(water.id, blows, outlined)
  const standing = useStanding(water.id, blows, start.castM, outlined ? place : null)
  const section = useSection(water.id, blows, tool === 'section' && line.length === 2 ? line : [])
  const starts = useStarts({ ...base, ...blows })
  const ranks = useMemo(() => ranksOf(starts.data?.starts), [starts.data])
  const { refresh, keep, remove, draw } = useChartChanges(water.id, {
    kept: (markId) => setChosenId(markId),
    removed: () => setChosenId(null),
    drawn: () => {
      setLine([])
      setTool('stand')
    },
  })

  if (chart.isError) return <Trouble error={chart.error} />
  if (!chart.data) return <Waiting what="Unrolling the chart…" />
  const chosen = chart.data.marks.find((m) => m.id === chosenId) ?? null
  const pick = (at: Point) => {
    if (tool === 'stand') {
      setChosenId(null)
      setPlace(at)
    } else if (tool === 'section') setLine(line.length === 2 ? [at] : [...line, at])
    else setLine([...line, at])
  }
  const use = (farDepthM: number | null) => {
    const found = standing.data
    if (!found) return
    const changes = readAt(found, wind, farDepthM)
    if (here) observe(changes)
    else replace({ ...start, conditions: { ...base, ...changes } })
    void navigate('/read')
  }
  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-3 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_380px] lg:px-6">
      <div className="min-w-0">
        <ChartHead
          name={water.name}
          tool={tool}
          onToolChange={(next) => {
            setTool(next)
            setLine([])
          }}
        />
        <ChartMap
          chart={chart.data}
          shores={wind.speedMps > 0.5 ? (shores.data?.shores ?? []) : []}
          standing={place && standing.data ? standing.data : null}
          ranks={ranks}
          chosenId={chosenId}
          wind={wind}
          castM={start.castM}
          drawn={tool === 'stand' ? [] : line}
          says={SAYS[tool]}
          heightPx={mapHeight(section.data !== undefined)}
          onPick={pick}
        />
        {section.data && <SectionDrawing section={section.data} />}
        {section.error && <Trouble error={section.error} />}
        <Legend says={outlined || tool !== 'stand' ? SAYS[tool] : NO_OUTLINE} />
        {tool === 'outline' && (
          <ShoreTools
            corners={line.length}
            replaces={outlined}
            busy={draw.isPending}
            onClose={() => draw.mutate(line.map((p) => [p.x, p.y]))}
            onTakeBack={() => setLine(line.slice(0, -1))}
          />
        )}
        {draw.error && <Trouble error={draw.error} />}
      </div>
      <div className="space-y-4">
        <WindFields wind={wind} onWindChange={setWind} />
        {place && standing.data && (
          <PlacePanel
            key={chosenId ?? `${place.x} ${place.y}`}
            standing={standing.data}
            mark={chosen}
            kinds={trade.data?.mark_kinds ?? []}
            trouble={keep.error instanceof Refusal ? keep.error.message : null}
            onUse={use}
            onKeep={(name, kind_key) => keep.mutate(markAt(standing.data, name, kind_key))}
            onRemove={(mark) => remove.mutate(mark.id)}
          />
        )}
        {place && standing.error && <Trouble error={standing.error} />}
        <Starts
          starts={starts.data?.starts ?? []}
          error={starts.error}
          chosenId={chosenId}
          onChoose={(markId) => {
            const mark = chart.data.marks.find((m) => m.id === markId)
            if (!mark) return
            setTool('stand')
            setChosenId(markId)
            setPlace({ x: mark.x_m, y: mark.y_m })
          }}
        />
        <Rules words={water.rule_words} />
        <ChartFiles waterId={water.id} onTaken={() => void refresh()} />
      </div>
    </div>
  )
}

interface ChartHeadProps {
  name: string
  tool: Tool
  onToolChange(tool: Tool): void
}

function ChartHead({ name, tool, onToolChange }: ChartHeadProps) {
  return (
    <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
      <h1 className="plate mr-auto text-3xl leading-none font-bold">{name}</h1>
      <Segments
        label="A click"
        value={tool}
        className="w-80"
        options={[
          { value: 'stand', text: 'Stands there' },
          { value: 'section', text: 'Cuts across' },
          { value: 'outline', text: 'Draws shore' },
        ]}
        onValueChange={(next) => onToolChange(next as Tool)}
      />
    </div>
  )
}

interface StartsProps {
  starts: Schemas['StartOut'][]
  error: Error | null
  chosenId: number | null
  onChoose(markId: number): void
}

function Starts({ starts, error, chosenId, onChoose }: StartsProps) {
  return (
    <section aria-label="Where to start">
      <h2 className="eyebrow border-b border-ink">Where to start</h2>
      {error ? (
        <Trouble error={error} />
      ) : (
        <StartList starts={starts} chosenId={chosenId} onChoose={onChoose} />
      )}
    </section>
  )
}

function Rules({ words }: { words: readonly string[] }) {
  return (
    <section aria-label="Rules of the water" className="text-sm">
      <h2 className="eyebrow border-b border-ink">Rules here</h2>
      <p className="pt-1">{words.join(' ')}</p>
    </section>
  )
}

function markAt(found: Schemas['StandingOut'], name: string, kind_key: string): Schemas['MarkIn'] {
  const { latitude_deg, longitude_deg } = found
  return { name, kind_key, latitude_deg, longitude_deg, depth_m: null, notes: '' }
}

interface ShoreToolsProps {
  corners: number
  replaces: boolean
  busy: boolean
  onClose(): void
  onTakeBack(): void
}

function ShoreTools({ corners, replaces, busy, onClose, onTakeBack }: ShoreToolsProps) {
  return (
    <div className="mt-2 flex gap-2">
      <Button look="hot" disabled={corners < 3 || busy} onClick={onClose}>
        {replaces ? 'Close it and replace the outline' : 'Close the outline'}
      </Button>
      <Button disabled={corners === 0} onClick={onTakeBack}>
        Take back a corner
      </Button>
    </div>
  )
}

function ranksOf(starts: readonly Schemas['StartOut'][] = []): Map<number, number> {
  return new Map(starts.map((start, i) => [start.mark_id, i + 1]))
}

function mapHeight(withSection: boolean): number {
  if (!window.matchMedia('(min-width: 640px)').matches) return 400
  return withSection ? 460 : 600
}

/** What is read by standing there, casting over a bottom as deep as `farDepthM`. */
function readAt(found: Schemas['StandingOut'], wind: Blowing, farDepthM: number | null): Partial<Conditions> {
  return {
    wind_speed_mps: wind.speedMps,
    wind_from_deg: wind.fromDeg,
    place: { latitude_deg: found.latitude_deg, longitude_deg: found.longitude_deg },
    ...(found.depth_m === null ? {} : { bottom_depth_m: Math.max(Math.round(found.depth_m * 10) / 10, 0.3) }),
    far_bottom_depth_m: farDepthM === null ? null : Math.max(Math.round(farDepthM * 10) / 10, 0.3),
  }
}

interface Blowing {
  speedMps: number
  fromDeg: number
}

function WindFields({ wind, onWindChange }: { wind: Blowing; onWindChange(wind: Blowing): void }) {
  return (
    <div className="grid grid-cols-2 gap-3">
      <QuantityField
        label="Wind"
        quantity="wind"
        value={wind.speedMps}
        {...within('WindIn', 'wind_speed_mps')}
        onValueChange={(speedMps) => onWindChange({ ...wind, speedMps })}
      />
      <ChoiceField
        label="Wind from"
        value={String(Math.round(wind.fromDeg / 22.5) * 22.5)}
        options={COMPASS.map((point) => ({ value: String(point.deg), text: point.name }))}
        onValueChange={(deg) => onWindChange({ ...wind, fromDeg: Number(deg) })}
      />
    </div>
  )
}

function Legend({ says }: { says: string }) {
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-4 text-sm text-soft">
      <span className="font-semibold text-ink">{says}</span>
      <span className="flex items-center gap-1.5">
        <svg width="26" height="12" aria-hidden="true" stroke="var(--ink)" strokeWidth="2.4">
          <path d="M3 10L7 2M11 10L15 2M19 10L23 2" />
        </svg>
        the wind blows onto it
      </span>
      <span className="flex items-center gap-1.5">
        <svg width="26" height="12" aria-hidden="true" fill="var(--ink)">
          <circle cx="5" cy="6" r="1.8" />
          <circle cx="13" cy="6" r="1.8" />
          <circle cx="21" cy="6" r="1.8" />
        </svg>
        along it
      </span>
      <span className="flex items-center gap-1.5">
        <svg width="30" height="12" aria-hidden="true" stroke="var(--ink)" strokeWidth="2.4">
          <path d="M1 6H29" strokeDasharray="9 3 2 3" />
        </svg>
        drop-off
      </span>
    </p>
  )
}
