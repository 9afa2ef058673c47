/** Time a line down to a known bottom: what it really sinks at, and from then on every simulation uses it. */
import { useMutation } from '@tanstack/react-query'
import { scaleLinear } from 'd3-scale'
import { useEffect, useReducer, useState } from 'react'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../api/client'
import { timeOf } from '../format/clock'
import { format, seconds } from '../format/units'
import { moment, secondsSince, type Moment } from '../offline/moments'
import { useAskAgain } from '../queries/api'
import { useLines } from '../queries/hooks'
import { useLineRate } from '../queries/lookback'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { ChoiceField, QuantityField } from '../ui/Field'
import { Trouble, Waiting } from '../ui/Notice'

type LineRate = Schemas['LineRateOut']
type KnownBy = Schemas['TrialIn']['known_by']

export function LinePage() {
  const id = Number(useParams().lineId)
  const lines = useLines()
  const line = lines.data?.items.find((one) => one.id === id)
  if (lines.isError) return <Trouble error={lines.error} />
  if (!lines.data) return <Waiting what="Opening the box…" />
  return (
    <div className="mx-auto max-w-[1000px] px-4 py-3 lg:px-6">
      <p className="eyebrow">
        <Link to="/box" className="underline underline-offset-4">
          Box
        </Link>{' '}
        · Lines
      </p>
      {!line || line.class_key === 'floating' ? (
        <p className="mt-2">
          {line ? 'A line that floats has no sink rate to time.' : 'No such line in your box.'}
        </p>
      ) : (
        <Timing line={line} />
      )}
    </div>
  )
}

function useRefresh() {
  const again = useAskAgain()
  return () => again('/api/lines/{line_id}/rate', '/api/lines', '/api/choices', '/api/weighings')
}

function Timing({ line }: { line: Schemas['LineOut'] }) {
  const units = useUnits()
  const found = useLineRate(line.id)
  const speed = (mps: number) => format('lineSpeed', mps, units)
  if (found.isError) return <Trouble error={found.error} />
  if (!found.data) return <Waiting what="Looking at its trials…" />
  const rate = found.data
  const trials = rate.timed.length
  return (
    <div className="grid gap-x-8 gap-y-4 lg:grid-cols-2">
      <section aria-label="What it sinks at">
        <h1 className="plate text-3xl leading-tight font-bold">
          {trials === 0 ? `${line.name}: not timed yet` : `${line.name} sinks ${speed(rate.rate_mps)}`}
        </h1>
        <p>
          {trials === 0
            ? `Its label says ${speed(rate.label_mps)}. Many are off by a fifth.`
            : `Label ${speed(rate.label_mps)}; by ${trials} ${trials === 1 ? 'trial' : 'trials'} between ${speed(rate.low_mps)} and ${speed(rate.high_mps)}, nine times in ten.`}
        </p>
        <Drawing rate={rate} />
        <Use line={line} rate={rate} />
      </section>
      <section aria-label="Time it">
        <h2 className="plate text-2xl font-bold">Time it</h2>
        <ol className="list-decimal pl-5 text-[0.9375rem] leading-snug">
          <li>Over water whose depth you know: 3 m or more, no weed.</li>
          <li>Cast short, throw slack so that the sinking part falls level, and tap as it lands.</li>
          <li>Tap again when the line lies on the bottom. Three times settle it.</li>
        </ol>
        <Stopwatch line={line} />
        <Trials line={line} rate={rate} />
      </section>
    </div>
  )
}

function Stopwatch({ line }: { line: Schemas['LineOut'] }) {
  const refresh = useRefresh()
  const [depthM, setDepthM] = useState<number | null>(null)
  const [waterC, setWaterC] = useState<number | null>(null)
  const [knownBy, setKnownBy] = useState<KnownBy>('sounder')
  const [since, setSince] = useState<Moment | null>(null)
  const [, tick] = useReducer((n: number) => n + 1, 0)
  useEffect(() => {
    if (!since) return
    const timer = setInterval(tick, 100)
    return () => clearInterval(timer)
  }, [since])
  const keep = useMutation({
    mutationFn: (elapsedS: number) =>
      answer(
        client.PUT('/api/lines/{line_id}/trials/{trial_id}', {
          params: { path: { line_id: line.id, trial_id: crypto.randomUUID() } },
          body: {
            at: new Date().toISOString(),
            depth_m: depthM ?? 0,
            water_c: waterC ?? 0,
            known_by: knownBy,
            elapsed_s: Math.round(elapsedS * 10) / 10,
          },
        }),
      ),
    onSuccess: refresh,
  })
  const ready = depthM !== null && waterC !== null
  return (
    <div className="mt-2 border-2 border-ink bg-sheet p-3">
      <div className="grid grid-cols-2 gap-2 sm:grid-cols-3">
        <QuantityField
          label="Depth there"
          quantity="depth"
          value={depthM}
          guess={4}
          least={0.5}
          most={30}
          onValueChange={setDepthM}
        />
        <QuantityField
          label="Water"
          quantity="temperature"
          value={waterC}
          guess={12}
          least={-1}
          most={35}
          onValueChange={setWaterC}
        />
        <ChoiceField
          label="Depth known by"
          value={knownBy}
          options={[
            { value: 'sounder', text: 'Sounder' },
            { value: 'mark', text: 'A mark or the chart' },
            { value: 'weighted-line', text: 'A weight on a line' },
          ]}
          onValueChange={(value) => setKnownBy(value as KnownBy)}
        />
      </div>
      <Button
        look="hot"
        size="huge"
        className="mt-3 w-full"
        disabled={!ready || keep.isPending}
        onClick={() => {
          if (since === null) setSince(moment())
          else {
            keep.mutate(secondsSince(since))
            setSince(null)
          }
        }}
      >
        {since === null ? 'It landed: start' : `${Math.floor(secondsSince(since))} s · on the bottom`}
      </Button>
      {since !== null && (
        <Button look="quiet" className="mt-1 w-full" onClick={() => setSince(null)}>
          Start over
        </Button>
      )}
      {!ready && <p className="mt-1 text-sm text-soft">Say how deep and how warm it is there first.</p>}
      {keep.error && <Trouble error={keep.error} />}
    </div>
  )
}

const WIDTH = 420
const HEIGHT = 92

/** Label, trials and what they say together, on one scale. */
function Drawing({ rate }: { rate: LineRate }) {
  const units = useUnits()
  const said = [rate.label_mps, rate.low_mps, rate.high_mps, ...rate.timed.map((one) => one.rate_mps)]
  const x = scaleLinear()
    .domain([0.85 * Math.min(...said), 1.15 * Math.max(...said)])
    .range([6, WIDTH - 6])
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="mt-3 block w-full" aria-hidden="true">
      <rect
        x={x(rate.low_mps)}
        width={x(rate.high_mps) - x(rate.low_mps)}
        y="34"
        height="16"
        fill="var(--fish)"
        stroke="var(--fish-ink)"
      />
      <line
        x1={x(rate.rate_mps)}
        x2={x(rate.rate_mps)}
        y1="28"
        y2="56"
        stroke="var(--fish-ink)"
        strokeWidth="3"
      />
      <line
        x1={x(rate.label_mps)}
        x2={x(rate.label_mps)}
        y1="20"
        y2="66"
        stroke="var(--ink)"
        strokeDasharray="4 3"
        strokeWidth="1.5"
      />
      <text x={x(rate.label_mps)} y="14" textAnchor="middle" fontSize="13" fill="var(--ink)">
        label {format('lineSpeed', rate.label_mps, units)}
      </text>
      {rate.timed.map((one, i) => (
        <circle
          key={`${one.at} ${i}`}
          cx={x(one.rate_mps)}
          cy={72}
          r="5"
          fill={one.stray > 0.5 ? 'none' : 'var(--ink)'}
          stroke="var(--ink)"
          strokeWidth="1.5"
        />
      ))}
      <text x="6" y={HEIGHT - 2} fontSize="12" fill="var(--soft)">
        each dot a trial; hollow: it does not fit
      </text>
    </svg>
  )
}

function Use({ line, rate }: { line: Schemas['LineOut']; rate: LineRate }) {
  const units = useUnits()
  const refresh = useRefresh()
  const path = { line_id: line.id }
  const use = useMutation({
    mutationFn: () => answer(client.PUT('/api/lines/{line_id}/rate', { params: { path } })),
    onSuccess: refresh,
  })
  const back = useMutation({
    mutationFn: () => answer(client.DELETE('/api/lines/{line_id}/rate', { params: { path } })),
    onSuccess: refresh,
  })
  const newer = Math.abs(line.sink_rate_mps - rate.rate_mps) > 1e-6
  return (
    <div className="mt-2 space-y-2">
      {rate.used && (
        <p>
          <strong>Every simulation takes {format('lineSpeed', line.sink_rate_mps, units)}</strong>, give or
          take {Math.round(100 * (line.rate_spread ?? 0))} %.
        </p>
      )}
      {rate.enough && (!rate.used || newer) && (
        <Button look="hot" onClick={() => use.mutate()}>
          Simulate with {format('lineSpeed', rate.rate_mps, units)}
        </Button>
      )}
      {rate.used && <Button onClick={() => back.mutate()}>Go back to the label</Button>}
      {!rate.enough && rate.timed.length > 0 && (
        <p className="text-sm text-soft">Three trials that fit are believed over the label.</p>
      )}
      {(use.error ?? back.error) && <Trouble error={use.error ?? back.error} />}
    </div>
  )
}

function Trials({ line, rate }: { line: Schemas['LineOut']; rate: LineRate }) {
  const units = useUnits()
  const refresh = useRefresh()
  const undo = useMutation({
    mutationFn: (trialId: string) =>
      answer(
        client.DELETE('/api/lines/{line_id}/trials/{trial_id}', {
          params: { path: { line_id: line.id, trial_id: trialId } },
        }),
      ),
    onSuccess: refresh,
  })
  if (rate.timed.length === 0) return null
  return (
    <table className="mt-3 w-full border-collapse text-sm">
      <caption className="eyebrow text-left">Trials, in water of 10 °C</caption>
      <thead>
        <tr className="border-b-2 border-ink text-left">
          <th scope="col">Depth</th>
          <th scope="col">In</th>
          <th scope="col">Says</th>
          <th scope="col">Known by</th>
          <th scope="col" aria-label="Take back" />
        </tr>
      </thead>
      <tbody>
        {rate.timed.map((one, i) => (
          <tr key={one.trial_id ?? `${one.at} ${i}`} className="border-b border-rule">
            <td>{format('depth', one.depth_m, units)}</td>
            <td>{seconds(one.elapsed_s)}</td>
            <td className={one.stray > 0.5 ? 'line-through' : 'font-semibold'}>
              {format('lineSpeed', one.rate_mps, units)}
            </td>
            <td>
              {KNOWN_BY[one.known_by]}
              {one.stray > 0.5 && <strong> does not fit</strong>}
            </td>
            <td className="text-right">
              {one.trial_id && (
                <button
                  type="button"
                  aria-label={`Take back the trial of ${timeOf(one.at.slice(0, 19))}`}
                  className="min-h-11 underline underline-offset-4"
                  onClick={() => one.trial_id && undo.mutate(one.trial_id)}
                >
                  Out
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

const KNOWN_BY: Record<LineRate['timed'][number]['known_by'], string> = {
  sounder: 'sounder',
  mark: 'mark',
  'weighted-line': 'weight',
  fished: 'a cast that touched',
}
