/** Rig by method: the best of every way to fish, the chosen one drawn in the Column, with how to tie it and what comes next. */
import { useMemo, useState } from 'react'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import type { Ranked, Schemas } from '../../api/client'
import { searchQuery, usePicture } from '../../queries/hooks'
import { Column } from '../../column/Column'
import { Scrubber } from '../../column/Scrubber'
import { cutLength, words } from '../../format/units'
import { useOuting, type Outing } from '../../state/outing'
import { usePerson, useUnits } from '../../state/person'
import { Cautions, Reminders, Trouble, Waiting } from '../../ui/Notice'
import { useSettled } from '../../ui/useSettled'
import { startFishing } from '../fish/logging'
import {
  aheadOf,
  choicesBody,
  drawnOf,
  keyOf,
  momentToShow,
  useIndicatorKinds,
  usePlan,
  handOverLater,
} from './asked'
import { CompareTable } from './CompareTable'
import { LadderList } from '../../choice/LadderList'
import { LeaderDrawing } from './LeaderDrawing'
import { MethodList } from './MethodList'
import { useOwnChoice } from './own'
import { OwnDials } from './OwnDials'
import { PlanBar } from './PlanBar'
import { RigViews, type RigView } from './RigViews'
import { TheChoice } from './TheChoice'

export function MethodRig({ outing, onViewChange }: { outing: Outing; onViewChange(view: RigView): void }) {
  const { username } = usePerson()
  const navigate = useNavigate()
  const kinds = useIndicatorKinds()
  const body = useSettled(choicesBody(outing, kinds), 150)
  const picture = usePicture(body.conditions)
  const { choices, error: notPlanned, refining } = usePlan(body)
  const { change } = useOuting()
  const queries = useQueryClient()
  const [key, setKey] = useState<string | null>(outing.own?.methodKey ?? null)
  const [compared, setCompared] = useState<string[]>([])
  const [timeS, setTimeS] = useState<number | null>(null)
  const [trouble, setTrouble] = useState<unknown>(null)
  const planned = choices.data?.ranked.find((r) => r.method.key === key) ?? choices.data?.ranked[0]
  const { one, changed, settled, error: notWeighed } = useOwnChoice(outing, planned, body)
  const shown = useMemo(() => one && drawnOf(one, choices.data), [one, choices.data])
  const moment = Math.min(timeS ?? momentToShow(shown), shown?.time_s.at(-1) ?? 0)
  // Fetched while the plan is looked at, so that the day may begin without signal.
  const search = useQuery({ ...searchQuery(body), enabled: choices.data !== undefined && !refining })
  const side = (choices.data?.ranked ?? []).filter((r) => compared.includes(r.method.key))

  const ahead = aheadOf(search.data, one, shown, changed, outing.schoolKey)

  const fish = async () => {
    if (!one || !shown || !settled) return
    try {
      await startFishing({
        username,
        conditions: body.conditions,
        timeZone: outing.timeZone,
        run: shown,
        doing: {
          action: one.action,
          line: one.line,
          fly_names: one.flies.map((placed) => placed.fly.name),
          ladder: one.ladder,
        },
        picture: picture.data ?? null,
        rig: { line: one.line, leader: one.leader, flies: one.flies },
        action: one.action,
        longLeaderOk: true,
        search: search.data ?? null,
        asked: body,
        key: changed ? null : keyOf(search.data, one),
        advice: promised(one, changed, choices.data, planned),
      })
      if (!search.data) handOverLater(queries, body)
      await navigate('/fish')
    } catch (error) {
      setTrouble(error)
    }
  }

  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-3 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_430px] lg:px-6">
      <div className="order-2 min-w-0 lg:order-none">
        {!picture.data && !notPlanned && <Waiting what="Reading the water…" />}
        {picture.data && (
          <>
            {side.length > 1 && <CompareTable chosen={side} picture={picture.data} />}
            <Column picture={picture.data} simulation={shown} timeS={moment} heightPx={360} />
            {shown && <Scrubber run={shown} way={one?.method.way} timeS={moment} onTimeChange={setTimeS} />}
            {planned && (
              <OwnDials
                planned={planned}
                own={outing.own?.methodKey === planned.method.key ? outing.own : null}
                bottomM={outing.conditions.bottom_depth_m}
                onOwnChange={(own) => {
                  setTimeS(null)
                  change({ own })
                }}
              />
            )}
            {one && <Tying one={one} />}
            <Cautions cautions={picture.data.cautions} className="mt-2" />
            <Reminders said={picture.data.reminders} className="mt-2" />
            {one && <LadderList rungs={one.ladder} ahead={ahead} />}
          </>
        )}
      </div>
      <div className="order-1 min-w-0 lg:order-none">
        {notPlanned && <Trouble error={notPlanned} />}
        {choices.isPending && !notPlanned && <Waiting what="Trying every method in your box…" />}
        {one && planned && !notPlanned && (
          <TheChoice
            one={one}
            standing={standingWords(changed, planned === choices.data?.ranked[0], refining)}
            old={choices.isPlaceholderData}
            settled={settled}
            correction={choices.data?.correction ?? null}
            onFish={() => void fish()}
            onBack={outing.own && changed ? () => change({ own: null }) : null}
          >
            {(trouble ?? notWeighed) !== null && <Trouble error={trouble ?? notWeighed} />}
          </TheChoice>
        )}
        <div className="mt-3 space-y-1">
          <RigViews view="method" onViewChange={onViewChange} />
          <PlanBar outing={outing} methods={choices.data?.ranked.map((r) => r.method) ?? []} />
        </div>
        {choices.data && !notPlanned && (
          <div className="mt-2">
            <MethodList
              choices={choices.data}
              chosenKey={one?.method.key ?? null}
              compared={compared}
              onChoose={(next) => {
                setTimeS(null)
                setKey(next)
              }}
              onCompare={setCompared}
            />
            <Changes choices={choices.data} />
          </div>
        )}
      </div>
    </div>
  )
}

function standingWords(changed: boolean, first: boolean, refining: boolean): string {
  if (changed) return 'Your own'
  if (!first) return 'Your choice'
  return refining ? 'Best so far, trying more' : 'Best now'
}

/** How the plan's own choice stands. */
function standingOf(choices: Schemas['ChoicesOut'] | undefined, planned: Ranked | undefined) {
  if (planned === choices?.ranked[0]) return 'best'
  return planned?.as_good ? 'as-good' : 'other'
}

/** What is kept of what was said, to be held against what comes. */
function promised(
  one: Ranked,
  changed: boolean,
  choices: Schemas['ChoicesOut'] | undefined,
  planned: Ranked | undefined,
): Schemas['AdviceIn'] {
  const standing = changed ? 'changed' : standingOf(choices, planned)
  const { takes_ph, takes_low_ph: low_ph, takes_high_ph: high_ph } = one
  return { standing, method_key: one.method.key, takes_ph, low_ph, high_ph }
}

/** Leader to scale, what to cut, and what may go wrong. */
function Tying({ one }: { one: Ranked }) {
  const units = useUnits()
  return (
    <section aria-label="How to tie it" className="mt-1">
      <LeaderDrawing one={one} />
      {one.build && (
        <p className="text-sm leading-snug">
          <strong>Cut</strong>{' '}
          {one.build.cuts
            .map(
              (cut) =>
                `${cutLength(cut.cut_m, units)} ${cut.material} ${(cut.diameter_m * 1000).toFixed(2)} mm (${cut.what})`,
            )
            .join(' · ')}
          . Tippet {one.build.tippet_x}X, holds about {one.build.tippet_strength_kgf} kg:{' '}
          {one.build.tippet_why.join(', ')}.
        </p>
      )}
      <p className="text-sm leading-snug text-soft">
        {[...(one.landing ? [one.landing.why] : []), ...(one.build?.hints ?? []), ...one.warnings]
          .map((said) => words(said, units))
          .join(' ')}
      </p>
    </section>
  )
}

function Changes({ choices }: { choices: Schemas['ChoicesOut'] }) {
  const second = choices.second_rod
  const name = choices.ranked.find((r) => r.method.key === second?.method_key)?.method.name
  return (
    <details className="mt-1 text-sm text-soft">
      <summary className="flex min-h-9 cursor-pointer items-center font-semibold text-ink">
        What would change it
      </summary>
      {choices.changes.map((change) => (
        <p key={change.words}>
          {change.words}: <strong className="text-ink">{change.method_name.toLowerCase()}</strong>.
        </p>
      ))}
      {second && name && (
        <p>
          A second rod with {name.toLowerCase()} covers {Math.round(100 * second.covers_both)} % of where they
          may be, one rod {Math.round(100 * second.covers_one)} %.
        </p>
      )}
      {choices.addition && (
        <p>
          {choices.addition.kind === 'fly' ? 'One fly to tie' : 'One line to own'}:{' '}
          <strong className="text-ink">{choices.addition.name}</strong> would add about{' '}
          {Math.round(100 * choices.addition.gain)} %.
        </p>
      )}
      {choices.not_for_the_rod.length > 0 && <p>Not for this rod: {choices.not_for_the_rod.join(', ')}.</p>}
      <p>
        {choices.tried} ways simulated. {choices.rules.join(' ')}
      </p>
    </details>
  )
}

/** The search's own key of a plan's choice, where the table has the very same: the first of its method, with these flies. */
