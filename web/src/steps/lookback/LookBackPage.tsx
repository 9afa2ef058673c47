/** Look back, in short: how deep, on what, when; and the days it rests on. */
import { Link } from 'react-router'
import type { Schemas } from '../../api/client'
import { words, type Units } from '../../format/units'
import { useDaysFound, useInShort } from '../../queries/lookback'
import { useUnits } from '../../state/person'
import { NARROW } from '../../ui/Fold'
import { Trouble, Waiting } from '../../ui/Notice'
import { useMedia } from '../../ui/useMedia'
import { AskBar } from './AskBar'
import { DayRow } from './DayRow'
import { LogNav } from './LogNav'
import { hoursOf, RateChart, type Chart } from './RateChart'
import { nameOf } from './names'
import { narrowed, useAsked } from './useAsked'

const QUESTIONS: Partial<Record<Chart['by'], string>> = {
  depth: 'How deep',
  fly: 'On what',
  hour: 'When',
  method: 'How',
}
const ORDER: readonly Chart['by'][] = ['depth', 'fly', 'hour', 'method']
const RECENT = 12

export function LookBackPage() {
  const [asked, ask, params] = useAsked()
  const found = useInShort(asked)
  const days = useDaysFound(asked)
  if (found.isError) return <Trouble error={found.error} />
  if (!found.data) return <Waiting what="Opening the log…" />
  const { days: fished, takes, landed, hours, charts, phases, untallied } = found.data
  const recent = days.data?.pages[0]?.items.slice(0, RECENT) ?? []
  const count = days.data?.pages[0]?.count ?? fished
  if (count === 0 && narrowed(asked) === 0 && asked.water_id === undefined && !days.isPending)
    return <Empty />
  return (
    <div className="mx-auto max-w-[1400px] px-4 py-2 lg:px-6">
      <LogNav params={params} />
      <AskBar asked={asked} onAsk={ask} />
      <h1 className="mt-2" aria-live="polite">
        <strong>
          {count} {count === 1 ? 'day' : 'days'}
        </strong>
        , {takes} takes, {landed} landed in {hoursOf(hours)} of the fly in the water.
        {phases.length > 0 && ` ${whenInTheCast(phases)}`}
        {untallied > 0 && ` ${untallied} days are still being worked out.`}
      </h1>
      <div
        aria-busy={found.isPlaceholderData}
        className="mt-2 grid gap-x-8 gap-y-5 lg:grid-cols-2 xl:grid-cols-3"
      >
        {ORDER.map((by) => {
          const chart = charts.find((one) => one.by === by)
          return chart && <Answer key={by} chart={chart} params={params} />
        })}
      </div>
      {hours < THIN_H && hours > 0 && (
        <p className="mt-3 border-l-4 border-ink pl-3">
          So far this rests on {hoursOf(hours)}. It sharpens with every cast you log; the wide lines say how
          little is known.
        </p>
      )}
      <h2 className="plate mt-5 text-2xl font-bold">Lately</h2>
      <DayRow days={recent} />
      <p className="mt-2 flex flex-wrap gap-x-6">
        <Link
          to="/log/days"
          className="flex min-h-11 items-center font-semibold underline underline-offset-4"
        >
          All days
        </Link>
        <Link to="/poster" className="flex min-h-11 items-center font-semibold underline underline-offset-4">
          The season as a poster
        </Link>
      </p>
    </div>
  )
}

const IN_PHASE: Record<Schemas['PhaseOut']['phase'], string> = {
  drop: 'on the drop',
  pull: 'on the pull',
  stop: 'as it stopped',
  hang: 'on the hang',
  lift: 'on the lift',
  rest: 'lying still',
}

/** "7 of 9 on the hang, 2 on the pull." */
function whenInTheCast(phases: Schemas['AnswersOut']['phases']): string {
  const all = phases.reduce((sum, { takes }) => sum + takes, 0)
  return `${phases.map(({ phase, takes }, i) => `${takes}${i === 0 ? ` of ${all}` : ''} ${IN_PHASE[phase]}`).join(', ')}.`
}

/** Below this a log is thin. */
const THIN_H = 10

function Answer({ chart, params }: { chart: Chart; params: URLSearchParams }) {
  const units = useUnits()
  const narrow = useMedia(NARROW)
  const question = QUESTIONS[chart.by] ?? chart.by
  const rates = new URLSearchParams(params)
  rates.set('by', chart.by)
  const body = (
    <>
      <RateChart chart={chart} title={`${question}: takes an hour`} most={chart.by === 'depth' ? 9 : 7} />
      <Link
        to={`/log/rates?${rates.toString()}`}
        className="screen-only text-sm underline underline-offset-4"
      >
        All of it
      </Link>
    </>
  )
  return (
    <section aria-label={question} className="min-w-0 border-t-2 border-ink pt-1">
      <h2 className="eyebrow">{question}</h2>
      <p className="plate text-3xl leading-none font-bold">{bestOf(chart, units)}</p>
      <p className="mt-0.5 mb-1.5 text-sm leading-snug">{words(chart.words, units)}</p>
      {narrow ? (
        <details>
          <summary className="flex min-h-11 cursor-pointer items-center font-semibold underline underline-offset-4">
            The chart
          </summary>
          {body}
        </details>
      ) : (
        body
      )}
    </section>
  )
}

/** The answer in a word: the way that brought most, or that nobody knows yet. */
function bestOf(chart: Schemas['RatesOut'], units: Units): string {
  const best = chart.ways.find((way) => way.key === chart.best_key)
  if (!best) return 'Too little yet'
  const name = nameOf(chart.by, best, units)
  return chart.sure ? name : `Perhaps ${name}`
}

function Empty() {
  return (
    <section className="mx-auto max-w-xl space-y-3 p-6">
      <h1 className="plate text-3xl font-bold">No days yet</h1>
      <p>A day begins when you choose a rig and press “Fish this”.</p>
      <p>
        From then on this page says how deep they took, on what and when: not by how many, but by how long the
        fly was there. After some ten hours of it the answers begin to hold.
      </p>
    </section>
  )
}
