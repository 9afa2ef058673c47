/** What a practice day was: the truth with every cast, what others would have taken, and what decided it. */
import { SCHOOLS } from '../api/trade'
import { useMutation } from '@tanstack/react-query'
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { useWidth } from '../column/useWidth'
import { counted, format, words, depthUnitM } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Trouble } from '../ui/Notice'
import type { Taken } from '../offline/store'
import { canFollow, tellAdvice } from './device'
import { askSchool, useAgain, type PracticeDay } from './hooks'

type ToldDay = Schemas['ToldOut']

const KINDS: Record<string, string> = {
  steady: 'They stayed where they were all day.',
  moving: 'They moved: from the second hour on they went to another depth.',
  'two bands': 'They were in two bands at once.',
  selective: 'They wanted one kind of fly.',
  low: 'There were hardly any.',
  barren: 'At the first place nobody was at home.',
  patchy: 'They came and went: twenty-five minutes here, twenty away.',
}

export interface DebriefProps {
  day: PracticeDay
  told: ToldDay
  taken: Taken | undefined
}

export function Debrief({ day, told, taken }: DebriefProps) {
  const units = useUnits()
  useAdviceLater(taken)
  const follow = useAgain()
  useEffect(() => {
    window.scrollTo(0, 0)
  }, [])
  const { hidden } = told
  const scores = [
    { who: 'You, by your casts', takes: told.expected, strong: true },
    { who: 'The classic ladder', takes: told.ladder },
    { who: 'The advice', takes: told.advice },
    { who: 'One who knew', takes: told.knew },
  ]
  const most = Math.max(...scores.map((one) => one.takes ?? 0), told.takes, 0.1)
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1fr)_430px]">
      <div className="min-w-0">
        <h1 className="plate text-2xl font-bold">Where they were</h1>
        <p>
          {KINDS[hidden.kind]} They took{' '}
          {hidden.wanted === 'anything' ? 'any kind of fly' : `a ${hidden.wanted}`}, and rose{' '}
          {format('depth', hidden.reach_m, units)} to it.
        </p>
        <DayDrawing day={day} told={told} />
      </div>
      <div className="min-w-0 space-y-4">
        <section aria-label="Takes of the day">
          <p className="plate text-4xl font-extrabold">{counted(told.takes, 'take', 'takes')}</p>
          <p className="text-sm text-soft">{luck(told)}</p>
          {day.at_min < day.day_min && (
            <p className="text-sm text-soft">
              You ended after {Math.round(day.at_min)} minutes; the others fish all {Math.round(day.day_min)}.
            </p>
          )}
          <ul className="mt-2">
            {scores.map((one) => (
              <li key={one.who} className="py-1">
                <span className={`flex justify-between ${one.strong ? 'font-bold' : ''}`}>
                  <span>{one.who}</span>
                  <span>{one.takes?.toFixed(1) ?? 'working it out…'}</span>
                </span>
                <span className="block h-2 bg-rule forced-color-adjust-none" aria-hidden="true">
                  <span
                    className={`block h-full ${one.strong ? 'bg-hot' : 'bg-ink'}`}
                    style={{ width: `${Math.round((100 * (one.takes ?? 0)) / most)}%` }}
                  />
                </span>
              </li>
            ))}
          </ul>
        </section>
        <OtherSchools dayId={day.id} taken={taken} />
        <section aria-label="What decided it">
          <h2 className="eyebrow border-b-2 border-ink">What decided it</h2>
          {told.moments.length === 0 && <p className="text-soft">No single moment: it was as it was.</p>}
          <ol>
            {told.moments.map((one) => (
              <li key={one.cast} className="border-b border-rule py-1.5">
                <a href={`#cast-${one.cast}`} className="font-semibold underline">
                  Cast {one.cast + 1}
                </a>{' '}
                {words(one.words, units)}
              </li>
            ))}
          </ol>
        </section>
        <div className="flex flex-wrap gap-2">
          {taken && canFollow(taken) && (
            <Button
              look="hot"
              disabled={follow.isPending}
              onClick={() => follow.mutate({ from: taken, level: day.level })}
            >
              Another day on this water
            </Button>
          )}
          <Link
            to="/practice"
            className="inline-flex min-h-11 items-center border-2 border-ink px-4 font-semibold"
          >
            Another day
          </Link>
        </div>
        {follow.error && <Trouble error={follow.error} />}
      </div>
      <Casts day={day} />
    </div>
  )
}

/** Those that would have planned another day; the best expected is what the advice did. */
const OTHERS = SCHOOLS.filter(({ key, forPlan }) => forPlan && key !== 'best')

/** What the advice would have taken is worked out by the device once the rest is told. */
function useAdviceLater(taken: Taken | undefined) {
  const asked = useRef<string | null>(null)
  useEffect(() => {
    if (!taken?.played.told || taken.played.told.advice !== null || asked.current === taken.dayId) return
    asked.current = taken.dayId
    tellAdvice(taken).catch((error: unknown) => console.error(error))
  }, [taken])
}

/** The same day by another school, worked out when it is asked for. */
function OtherSchools({ dayId, taken }: { dayId: string; taken: Taken | undefined }) {
  const [tried, setTried] = useState<readonly Schemas['SchoolTakesOut'][]>([])
  const ask = useMutation({
    networkMode: 'always',
    mutationFn: (school: (typeof OTHERS)[number]) => askSchool(dayId, taken, school),
    onSuccess: (one) => setTried((before) => [...before, one]),
  })
  const left = OTHERS.filter(({ name }) => !tried.some((one) => one.name === name))
  return (
    <section aria-label="Other schools">
      <h2 className="eyebrow border-b-2 border-ink">Another school, on the same day</h2>
      <ul>
        {tried.map((one) => (
          <li key={one.name} className="flex justify-between border-b border-rule py-1">
            <span>{one.name}</span>
            <span>{one.takes.toFixed(1)}</span>
          </li>
        ))}
      </ul>
      {ask.error && <Trouble error={ask.error} />}
      <div className="mt-1 flex flex-wrap gap-1.5">
        {left.map((school) => (
          <Button key={school.key} disabled={ask.isPending} onClick={() => ask.mutate(school)}>
            {ask.isPending && ask.variables.key === school.key ? 'Fishing it…' : school.name}
          </Button>
        ))}
      </div>
    </section>
  )
}

function luck({ luck: sds }: ToldDay): string {
  if (sds > 1) return 'Luck was with you: more came than your casts deserved.'
  if (sds < -1) return 'Luck was against you: your casts deserved more.'
  return 'About what your casts deserved.'
}

function DayDrawing({ day, told }: { day: PracticeDay; told: ToldDay }) {
  const [ref, width] = useWidth()
  const units = useUnits()
  const { hidden } = told
  const height = 380
  const y = scaleLinear()
    .domain([0, day.bottom_m])
    .range([24, height - 26])
  const x = scaleLinear()
    .domain([0, day.day_min])
    .range([44, width - 10])
  const at = hidden.at_min.map((min, i) => ({
    min,
    centre: hidden.centre_m[i] ?? 0,
    here: hidden.here[i] ?? false,
  }))
  const band = area<(typeof at)[number]>()
    .defined((one) => one.here)
    .x((one) => x(one.min))
    .y0((one) => y(Math.max(one.centre - hidden.reach_m, 0)))
    .y1((one) => y(one.centre + 0.2))
  const level = line<(typeof at)[number]>()
    .defined((one) => one.here)
    .x((one) => x(one.min))
    .y((one) => y(one.centre))
  const perUnit = depthUnitM(units)
  const step = day.bottom_m / perUnit > 12 ? 5 : day.bottom_m / perUnit > 5 ? 2 : 1
  const ticks = Array.from({ length: Math.floor(day.bottom_m / perUnit / step) + 1 }, (_, i) => i * step)
  return (
    <div ref={ref} className="mt-2">
      {width > 0 && (
        <svg
          width={width}
          height={height}
          role="img"
          aria-label="The day from left to right: the band where they took, and between which depths each cast worked. The list of casts says the same."
          className="block"
        >
          <rect
            x={44}
            y={24}
            width={Math.max(width - 54, 0)}
            height={height - 50}
            fill="var(--water-light)"
          />
          <path d={band(at) ?? ''} fill="var(--fish)" fillOpacity={0.55} />
          <path d={level(at) ?? ''} fill="none" stroke="var(--fish-ink)" strokeWidth={2.5} />
          {hidden.other_m !== null && (
            <line
              x1={44}
              x2={width - 10}
              y1={y(hidden.other_m)}
              y2={y(hidden.other_m)}
              stroke="var(--fish-ink)"
              strokeWidth={2.5}
              strokeDasharray="8 4"
            />
          )}
          {day.casts.map((cast) => (
            <g key={cast.number}>
              <line
                x1={x(cast.at_min)}
                x2={x(cast.at_min)}
                y1={y(cast.low_m)}
                y2={y(Math.max(cast.high_m, cast.low_m + 0.08))}
                stroke="var(--hot)"
                strokeWidth={3}
                strokeLinecap="round"
              />
              {cast.came.map((one, i) => (
                <circle
                  key={i}
                  cx={x(cast.at_min)}
                  cy={y(one.depth_m)}
                  r={one.kind === 'take' || one.kind === 'lost' ? 6 : 3.5}
                  fill={one.kind === 'take' || one.kind === 'lost' ? 'var(--ink)' : 'var(--sheet)'}
                  stroke="var(--ink)"
                  strokeWidth={1.5}
                />
              ))}
            </g>
          ))}
          {told.moments.map((one, i) => (
            <text
              key={one.cast}
              x={x(one.at_min)}
              y={18}
              textAnchor="middle"
              fontWeight={800}
              fontSize={14}
              fill="var(--ink)"
              className="plate"
            >
              {i + 1}
            </text>
          ))}
          <g className="plate" fontSize={13} fontWeight={600} fill="var(--ink)">
            {ticks.map((tick) => (
              <text key={tick} x={38} y={y(tick * perUnit) + 5} textAnchor="end">
                {tick}
              </text>
            ))}
            {[0, 60, 120, 180, 240].map((min) => (
              <text key={min} x={x(min)} y={height - 8} textAnchor="middle">
                {min === 0 ? 'begin' : `${min / 60} h`}
              </text>
            ))}
          </g>
        </svg>
      )}
      <p className="text-sm text-soft">
        Yellow: where a fly could be taken. Red: where each cast worked. Black: takes; open: knocks and
        follows.
      </p>
    </div>
  )
}

type Cast = PracticeDay['casts'][number]

/** Casts one after the other that did the same. */
function runsOf(casts: readonly Cast[]): [Cast, ...Cast[]][] {
  const runs: [Cast, ...Cast[]][] = []
  for (const cast of casts) {
    const [first] = runs.at(-1) ?? []
    const same = first?.words === cast.words && first.low_m === cast.low_m && first.high_m === cast.high_m
    if (same) runs.at(-1)?.push(cast)
    else runs.push([cast])
  }
  return runs
}

function Casts({ day }: { day: PracticeDay }) {
  const units = useUnits()
  return (
    <section aria-label="Every cast" className="min-w-0 lg:col-span-2">
      <h2 className="eyebrow border-b-2 border-ink">Every cast</h2>
      <ol>
        {runsOf(day.casts).map((run) => (
          <li
            key={run[0].number}
            className="grid grid-cols-[4.5rem_1fr_auto] gap-2 border-b border-rule py-1 text-sm has-target:bg-care"
          >
            <span>
              {run.map(({ number }) => (
                <span key={number} id={`cast-${number}`} className="scroll-mt-16" />
              ))}
              {numbered(run)}
              <span className="block text-soft">{Math.round(run[0].at_min)} min</span>
            </span>
            <span className="min-w-0">
              {run[0].words}, {format('depth', run[0].low_m, units)} to{' '}
              {format('depth', run[0].high_m, units)}
              {cameIn(run)}
            </span>
            <span className="text-right text-soft">
              worth {run.reduce((sum, one) => sum + (one.expected ?? 0), 0).toFixed(2)}
            </span>
          </li>
        ))}
      </ol>
    </section>
  )
}

function numbered(run: readonly Cast[]): string {
  const [first, last] = [run[0], run.at(-1)]
  if (!first || !last || first === last) return `Cast ${(first?.number ?? 0) + 1}`
  return `${first.number + 1} to ${last.number + 1}`
}

const CAME = {
  take: ['take', 'takes'],
  lost: ['lost', 'lost'],
  knock: ['knock', 'knocks'],
  follow: ['follow', 'follows'],
} as const

function cameIn(run: readonly Cast[]): string {
  const came = run.flatMap((cast) => cast.came.map(({ kind }) => kind))
  const kinds = (Object.keys(CAME) as (keyof typeof CAME)[]).flatMap((kind) => {
    const many = came.filter((each) => each === kind).length
    const [one, more] = CAME[kind]
    return many === 0 ? [] : counted(many, one, more)
  })
  return kinds.length === 0 ? '' : `: ${kinds.join(', ')}`
}
