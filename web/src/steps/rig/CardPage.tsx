/** The day card: one A5 page with rig, cuts, ladder, light and cautions, to print or to save as PDF. */
import { useMemo, useRef, useState, type Ref } from 'react'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { csrfToken, type Ranked, type Schemas } from '../../api/client'
import { searchQuery, useDayStrip, usePicture, useWaters } from '../../queries/hooks'
import { dateOf, timeOf } from '../../format/clock'
import { cutLength, range, words } from '../../format/units'
import { useThinking } from '../../python/client'
import { stepsOf, useWhenNothing, type Step } from '../../search/useWhenNothing'
import { useOuting, type Outing } from '../../state/outing'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { PictureButton } from '../../ui/PictureButton'
import { saveAs } from '../../ui/saveAs'
import { Cautions, Reminders, Trouble, Waiting } from '../../ui/Notice'
import { NoOuting } from '../NoOuting'
import { useOwnChoice } from './own'
import { LeaderDrawing } from './LeaderDrawing'
import { aheadOf, choicesBody, drawnOf, useIndicatorKinds, usePlan } from './asked'
import { handling, headline, takes } from '../../choice/sayings'
import { wayOf } from '../../choice/ways'

const AS_ABOVE = { text: 'As above.', values: {} }

export function CardPage() {
  const { outing } = useOuting()
  return outing ? <Card outing={outing} /> : <NoOuting />
}

function Card({ outing }: { outing: Outing }) {
  const { methodKey } = useParams()
  const body = choicesBody(outing, useIndicatorKinds())
  const { choices, refining } = usePlan(body)
  const picture = usePicture(body.conditions)
  const strip = useDayStrip(body.conditions, [])
  const waters = useWaters()
  const [trouble, setTrouble] = useState<string | null>(null)
  const card = useRef<HTMLElement>(null)
  const planned = choices.data?.ranked.find((r) => r.method.key === methodKey)
  const { one, changed } = useOwnChoice(outing, planned, body)
  const search = useQuery({ ...searchQuery(body), enabled: choices.data !== undefined && !refining })
  const run = useMemo(() => one && drawnOf(one, choices.data), [one, choices.data])
  const thinking = useThinking()
  const found = useWhenNothing(aheadOf(search.data, one, run, changed, outing.schoolKey), true)
  if (choices.error) return <Trouble error={choices.error} />
  if (!choices.data || !picture.data) return <Waiting what="Writing the card…" />
  if (!one)
    return (
      <section className="p-6">
        <h1 className="plate text-2xl font-bold">This method is not among the choices now</h1>
        <Link to="/rig" className="underline">
          Back to the rig
        </Link>
      </section>
    )
  const water = waters.data?.items.find((w) => w.id === outing.conditions.water_id)?.name ?? ''

  async function saveCalendar() {
    setTrouble(null)
    try {
      const answer = await fetch('/api/calendars', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken() },
        body: JSON.stringify({ conditions: body.conditions }),
      })
      if (!answer.ok) throw new Error(`The calendar could not be written (${answer.status}).`)
      saveAs('day.ics', await answer.blob())
    } catch (failure) {
      setTrouble(failure instanceof Error ? failure.message : 'The calendar could not be written.')
    }
  }

  return (
    <div className="mx-auto max-w-[640px] px-4 py-4">
      <div className="screen-only mb-3 flex flex-wrap items-center gap-3">
        <Button look="hot" onClick={() => window.print()}>
          Print, or save as PDF
        </Button>
        <PictureButton of={card} name="day-card" />
        <Button onClick={() => void saveCalendar()}>Calendar (.ics)</Button>
        <Link to="/rig" className="underline underline-offset-4">
          Back to the rig
        </Link>
        {trouble && (
          <p role="alert" className="font-semibold text-hot">
            {trouble}
          </p>
        )}
      </div>
      <CardBody
        ref={card}
        one={one}
        water={water}
        at={outing.conditions.at_local}
        picture={picture.data}
        strip={strip.data}
        rules={choices.data.rules}
        steps={thinking === 'up' && found ? stepsOf(AS_ABOVE, found.rungs) : one.ladder}
      />
    </div>
  )
}

interface CardBodyProps {
  ref: Ref<HTMLElement>
  one: Ranked
  water: string
  at: string
  picture: Schemas['PictureOut']
  strip: Schemas['DayStripOut'] | undefined
  rules: readonly string[]
  /** When nothing comes. */
  steps: readonly Step[]
}

function CardBody({ ref, one, water, at, picture, strip, rules, steps }: CardBodyProps) {
  const units = useUnits()
  return (
    <article
      ref={ref}
      className="day-card border-2 border-ink bg-sheet p-4 text-sm leading-snug"
      aria-label="Day card"
    >
      <p className="flex justify-between font-semibold">
        <span>{water}</span>
        <span>
          {dateOf(at)}, {timeOf(at)}
        </span>
      </p>
      <h1 className="plate text-3xl leading-tight font-bold">{headline(one, units)}</h1>
      <p className="text-base leading-snug font-semibold">
        {one.seats[0]?.fly_name}. {handling(one.action, units)}
      </p>
      <p>
        {one.method.name}. Feeding likely{' '}
        {range('depth', picture.belief.main_band.top_m, picture.belief.main_band.bottom_m, units)} down;{' '}
        {takes(one)} takes an hour.
      </p>
      <LeaderDrawing one={one} />
      <div className="grid grid-cols-2 gap-x-5">
        <section>
          <h2 className="eyebrow border-b border-ink">Flies</h2>
          {one.seats.map((seat) => (
            <p key={seat.place}>
              <span className="text-soft">{seat.place}</span> <strong>{seat.fly_name}</strong>,{' '}
              {range('depth', seat.low_m, seat.high_m, units)}
            </p>
          ))}
          {one.build && (
            <>
              <h2 className="eyebrow mt-1.5 border-b border-ink">Cut</h2>
              {one.build.cuts.map((cut, i) => (
                <p key={i} className="flex justify-between gap-2">
                  <span>{cut.what}</span>
                  <span className="whitespace-nowrap">
                    <strong>{cutLength(cut.cut_m, units)}</strong> {(cut.diameter_m * 1000).toFixed(2)} mm
                  </span>
                </p>
              ))}
              <p className="text-soft">{one.build.knots.join('; ')}.</p>
            </>
          )}
        </section>
        <section>
          <h2 className="eyebrow border-b border-ink">When nothing comes</h2>
          {steps.map(({ minutes, words: said }, i) => (
            <p key={i}>
              {minutes !== null && <strong>{Math.round(minutes)} min</strong>}{' '}
              {i === 0 ? 'As above.' : words(said, units)}
            </p>
          ))}
        </section>
      </div>
      {strip && (
        <p className="mt-1.5">
          <strong>Light.</strong> Sun {strip.sunrise ?? 'does not rise'} to {strip.sunset ?? 'does not set'};
          low light {strip.low_light.map((span) => `${span.begins}–${span.ends}`).join(', ')}.{' '}
          {strip.notes.map((note) => words(note, units)).join(' ')}
        </p>
      )}
      <p>
        <strong>Rules.</strong> {rules.join(' ')}
      </p>
      <p>
        <strong>Take.</strong> {kit(one).join(' · ')}
      </p>
      <Cautions cautions={picture.cautions} className="mt-1.5" />
      <Reminders said={picture.reminders} className="mt-1" />
    </article>
  )
}

/** What must not be left at home for this choice. */
function kit(one: Ranked): string[] {
  return [
    one.line.name.toLowerCase() + ' line',
    ...wayOf(one.action).kit(one.action),
    'leader material',
    'thermometer',
    'landing net',
    'glasses and hat',
    'lifejacket',
    'licence',
    ...(one.method.key === 'drift-boat' ? ['drogue', 'anchor'] : []),
  ]
}
