/** One water's chart: where it is deep, how the wind lies on it, and where to start. */
import { within } from '../api/within'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { answer, client, Refusal, type Schemas, type Water } from '../api/client'
import { useTrade, useWaters } from '../queries/hooks'
import { COMPASS } from '../format/units'
import { freshOuting, useOuting } from '../state/outing'
import { ChoiceField, QuantityField } from '../ui/Field'
import { Button } from '../ui/Button'
import { Trouble, Waiting } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { useSettled } from '../ui/useSettled'
import { ChartFiles } from './ChartFiles'
import { ChartMap } from './ChartMap'
import { useChart, useSection, useShores, useStanding, useStarts } from './hooks'
import { PlacePanel } from './PlacePanel'
import { SectionDrawing } from './SectionDrawing'
import { StartList } from './StartList'
import type { Point } from './view'

type Tool = 'stand' | 'section' | 'outline'

const SAYS: Record<Tool, string> = {
  stand: 'Choose a place to see what it is like.',
  section: 'Choose two places to cut through the bottom between them.',
  outline: 'Choose corners round the shore, then close it.',
}

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
  const queries = useQueryClient()
  const trade = useTrade()
  const chart = useChart(water.id)
  const here = outing?.conditions.water_id === water.id ? outing : null
  const start = here ?? freshOuting(water)
  const base = start.conditions
  const [wind, setWind] = useState({ speedMs: base.wind_speed_ms, fromDeg: base.wind_from_deg })
  const [tool, setTool] = useState<Tool>('stand')
  const [place, setPlace] = useState<Point | null>(null)
  const [chosenId, setChosenId] = useState<number | null>(null)
  const [line, setLine] = useState<Point[]>([])
  const blows = useSettled(
    useMemo(() => ({ wind_speed_ms: wind.speedMs, wind_from_deg: wind.fromDeg }), [wind]),
    150,
  )
  const outlined = (chart.data?.rings.length ?? 0) > 0
  const shores = useShores(water.id, blows, outlined)
  const standing = useStanding(water.id, blows, start.castM, outlined ? place : null)
  const section = useSection(water.id, blows, tool === 'section' && line.length === 2 ? line : [])
  const starts = useStarts({ ...base, ...blows })
  const ranks = useMemo(
    () => new Map((starts.data?.starts ?? []).map((start, i) => [start.mark_id, i + 1])),
    [starts.data],
  )
  const refresh = async () => {
    await queries.invalidateQueries({ queryKey: ['chart', water.id] })
    await queries.invalidateQueries({ queryKey: ['waters'] })
  }
  const keep = useMutation({
    mutationFn: (body: Schemas['MarkIn']) =>
      answer(client.POST('/api/waters/{water_id}/marks', { params: { path: { water_id: water.id } }, body })),
    onSuccess: async (mark) => {
      await refresh()
      setChosenId(mark.id)
    },
  })
  const remove = useMutation({
    mutationFn: (mark_id: number) =>
      answer(
        client.DELETE('/api/waters/{water_id}/marks/{mark_id}', {
          params: { path: { water_id: water.id, mark_id } },
        }),
      ),
    onSuccess: async () => {
      setChosenId(null)
      await refresh()
    },
  })
  const draw = useMutation({
    mutationFn: (ring_m: [number, number][]) =>
      answer(
        client.PUT('/api/waters/{water_id}/outline', {
          params: { path: { water_id: water.id } },
          body: { ring_m },
        }),
      ),
    onSuccess: async () => {
      setLine([])
      setTool('stand')
      await refresh()
    },
  })

  if (chart.isError) return <Trouble error={chart.error} />
  if (!chart.data) return <Waiting what="Unrolling the chart…" />
  const chosen = chart.data.marks.find((m) => m.id === chosenId) ?? null
  const marksById = new Map(chart.data.marks.map((m) => [m.id, m]))
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
    const changes = {
      wind_speed_ms: wind.speedMs,
      wind_from_deg: wind.fromDeg,
      place: { latitude_deg: found.latitude_deg, longitude_deg: found.longitude_deg },
      ...(found.depth_m === null
        ? {}
        : { bottom_depth_m: Math.max(Math.round(found.depth_m * 10) / 10, 0.3) }),
      far_bottom_depth_m: farDepthM === null ? null : Math.max(Math.round(farDepthM * 10) / 10, 0.3),
    }
    if (here) observe(changes)
    else {
      replace({ ...start, conditions: { ...base, ...changes } })
    }
    void navigate('/read')
  }
  const roomy = window.matchMedia('(min-width: 640px)').matches
  const drawn = tool === 'stand' ? [] : line
  return (
    <div className="mx-auto grid max-w-[1400px] gap-x-6 gap-y-3 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_380px] lg:px-6">
      <div className="min-w-0">
        <div className="mb-2 flex flex-wrap items-end gap-x-4 gap-y-2">
          <h1 className="plate mr-auto text-3xl leading-none font-bold">{water.name}</h1>
          <Segments
            label="A click"
            value={tool}
            className="w-80"
            options={[
              { value: 'stand', text: 'Stands there' },
              { value: 'section', text: 'Cuts across' },
              { value: 'outline', text: 'Draws shore' },
            ]}
            onValueChange={(next) => {
              setTool(next as Tool)
              setLine([])
            }}
          />
        </div>
        <ChartMap
          chart={chart.data}
          shores={wind.speedMs > 0.5 ? (shores.data?.shores ?? []) : []}
          standing={place && standing.data ? standing.data : null}
          ranks={ranks}
          chosenId={chosenId}
          wind={wind}
          castM={start.castM}
          drawn={drawn}
          says={SAYS[tool]}
          heightPx={roomy ? (section.data ? 460 : 600) : 400}
          onPick={pick}
        />
        {section.data && <SectionDrawing section={section.data} />}
        {section.error && <Trouble error={section.error} />}
        <Legend
          says={
            outlined || tool !== 'stand'
              ? SAYS[tool]
              : 'No outline yet: draw the shore, or bring it in as GeoJSON.'
          }
        />
        {tool === 'outline' && (
          <div className="mt-2 flex gap-2">
            <Button
              look="hot"
              disabled={line.length < 3 || draw.isPending}
              onClick={() => draw.mutate(line.map((p) => [p.x, p.y]))}
            >
              {outlined ? 'Close it and replace the outline' : 'Close the outline'}
            </Button>
            <Button disabled={line.length === 0} onClick={() => setLine(line.slice(0, -1))}>
              Take back a corner
            </Button>
          </div>
        )}
        {draw.error && <Trouble error={draw.error} />}
      </div>
      <div className="space-y-4">
        <div className="grid grid-cols-2 gap-3">
          <QuantityField
            label="Wind"
            quantity="wind"
            value={wind.speedMs}
            {...within('WindIn', 'wind_speed_ms')}
            onValueChange={(speedMs) => setWind({ ...wind, speedMs })}
          />
          <ChoiceField
            label="Wind from"
            value={String(Math.round(wind.fromDeg / 22.5) * 22.5)}
            options={COMPASS.map((point) => ({ value: String(point.deg), text: point.name }))}
            onValueChange={(deg) => setWind({ ...wind, fromDeg: Number(deg) })}
          />
        </div>
        {place && standing.data && (
          <PlacePanel
            key={chosenId ?? `${place.x} ${place.y}`}
            standing={standing.data}
            mark={chosen}
            kinds={trade.data?.mark_kinds ?? []}
            trouble={keep.error instanceof Refusal ? keep.error.message : null}
            onUse={use}
            onKeep={(name, kind_key) =>
              keep.mutate({
                name,
                kind_key,
                latitude_deg: standing.data.latitude_deg,
                longitude_deg: standing.data.longitude_deg,
                depth_m: null,
                notes: '',
              })
            }
            onRemove={(mark) => remove.mutate(mark.id)}
          />
        )}
        {place && standing.error && <Trouble error={standing.error} />}
        <section aria-label="Where to start">
          <h2 className="eyebrow border-b border-ink">Where to start</h2>
          {starts.error ? (
            <Trouble error={starts.error} />
          ) : (
            <StartList
              starts={starts.data?.starts ?? []}
              chosenId={chosenId}
              onChoose={(markId) => {
                const mark = marksById.get(markId)
                if (!mark) return
                setTool('stand')
                setChosenId(markId)
                setPlace({ x: mark.x_m, y: mark.y_m })
              }}
            />
          )}
        </section>
        <section aria-label="Rules of the water" className="text-sm">
          <h2 className="eyebrow border-b border-ink">Rules here</h2>
          <p className="pt-1">{water.rule_words.join(' ')}</p>
        </section>
        <ChartFiles waterId={water.id} onTaken={() => void refresh()} />
      </div>
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
