/** A line of the box with the dials, and the angler's own leader and flies. */
import { useQueryClient } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import {
  Refusal,
  ACROSS,
  USUAL_HANDLING,
  type Choice,
  type Picture,
  type Ranked,
  type Schemas,
} from '../../api/client'
import {
  choicesQuery,
  useChoices,
  useFlies,
  useLeaders,
  usePicture,
  useSimulation,
  useTrade,
} from '../../queries/hooks'
import { Column } from '../../column/Column'
import { Scrubber } from '../../column/Scrubber'
import { format, range, seconds, words } from '../../format/units'
import { useOuting, type Chosen, type Outing } from '../../state/outing'
import { usePerson, useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Dial } from '../../ui/Dial'
import { ChoiceField } from '../../ui/Field'
import { Cautions, Trouble, Waiting } from '../../ui/Notice'
import { useSettled } from '../../ui/useSettled'
import { startFishing } from '../fish/logging'
import { choicesBody, handOverLater, momentToShow, useIndicatorKinds } from './asked'
import { FliesNow } from './FliesNow'
import { LineList } from './LineList'
import { RigViews, type RigView } from './RigViews'
import { handling, headline } from '../../choice/sayings'
import { TackleBar, type TeamFly } from './TackleBar'
import { USUAL } from '../../api/trade'

const WHAT_IF_MS = 40

export function LineRig({ outing, onViewChange }: { outing: Outing; onViewChange(view: RigView): void }) {
  const leaders = useLeaders()
  const flies = useFlies()
  if (leaders.isError) return <Trouble error={leaders.error} />
  if (flies.isError) return <Trouble error={flies.error} />
  const leader = leaders.data?.items.find((l) => l.id === outing.leaderId) ?? leaders.data?.items[0]
  const fly = flies.data?.items.find((f) => f.id === outing.flyId) ?? flies.data?.items[0]
  if (!leaders.data || !flies.data) return <Waiting what="Opening the box…" />
  if (!leader || !fly)
    return <Trouble error={new Refusal(422, 'empty_box', 'Your box needs a leader and a fly.', {})} />
  const above = outing.droppers.flatMap(({ flyId, aboveM }) => {
    const found = flies.data.items.find((f) => f.id === flyId)
    return found ? [{ fly: found, above_point_m: aboveM }] : []
  })
  return (
    <Rigging
      outing={outing}
      leader={leader}
      team={[{ fly, above_point_m: 0 }, ...above]}
      onViewChange={onViewChange}
    />
  )
}

interface RiggingProps {
  outing: Outing
  leader: Schemas['LeaderOut']
  /** Point fly first. */
  team: TeamFly[]
  onViewChange(view: RigView): void
}

function Rigging({ outing, leader, team, onViewChange }: RiggingProps) {
  const { change } = useOuting()
  const { username } = usePerson()
  const navigate = useNavigate()
  const [timeS, setTimeS] = useState<number | null>(null)
  const [trouble, setTrouble] = useState<unknown>(null)
  const { conditions } = outing
  const flies = team.map(({ fly, above_point_m }) => ({ fly, above_point_m, dropper_m: 0 }))
  const kinds = useIndicatorKinds()
  const body = useSettled(choicesBody(outing, kinds), 150)
  const plan = useChoices(body)
  const queries = useQueryClient()
  const picture = usePicture(conditions)
  const best = chosenFrom(plan.data?.ranked)
  const chosen = outing.chosen ?? best
  const simulation = useLineCast(outing, chosen, { leader, flies })
  const refusal = plan.error ?? simulation.error
  const shown = simulation.data
  const choice = shown?.choice
  const moment = Math.min(timeS ?? momentToShow(shown), shown?.time_s.at(-1) ?? 0)

  // The same plan, asked with the line pinned, says how long to count it and how to move it.
  const pick = async (lineName: string) => {
    setTimeS(null)
    try {
      const asked = { ...body, thorough: false, pins: { ...body.pins, line_name: lineName } }
      const next = chosenFrom((await queries.query(choicesQuery(asked))).ranked)
      if (next) change({ chosen: next })
    } catch (error) {
      setTrouble(error)
    }
  }
  const choose = (next: Partial<Chosen>) => {
    if (chosen) change({ chosen: { ...chosen, ...next } })
  }
  const fish = async () => {
    if (!shown || !choice) return
    try {
      await startFishing({
        username,
        conditions,
        timeZone: outing.timeZone,
        run: shown,
        doing: { action: choice.action, line: choice.line, fly_names: [choice.fly_name], ladder: [] },
        picture: picture.data ?? null,
        rig: { line: choice.line, leader, flies },
        action: choice.action,
        longLeaderOk: outing.longLeaderOk,
      })
      handOverLater(queries, body)
      await navigate('/fish')
    } catch (error) {
      setTrouble(error)
    }
  }

  return (
    <div className="mx-auto grid max-w-[1400px] grid-cols-[minmax(0,1fr)] gap-x-8 gap-y-3 px-4 py-3 lg:grid-cols-[minmax(0,1fr)_410px] lg:grid-rows-[auto_1fr] lg:px-6">
      <div className="order-2 min-w-0 lg:order-none lg:row-span-2">
        {!picture.data && <Waiting what="Reading the water…" />}
        {picture.data && (
          <>
            <Column picture={picture.data} simulation={shown} timeS={moment} heightPx={452} />
            {shown && (
              <div className="mt-1">
                <Scrubber run={shown} timeS={moment} onTimeChange={setTimeS} />
              </div>
            )}
            {chosen && (
              <LineDials
                outing={outing}
                leader={leader}
                chosen={chosen}
                onChoose={(next) => {
                  setTimeS(null)
                  choose(next)
                }}
              />
            )}
            <SumAndTruth choice={choice} picture={picture.data} tried={plan.data?.tried ?? null} />
          </>
        )}
      </div>

      <div className="order-1 min-w-0 lg:order-none">
        <RigViews view="line" onViewChange={onViewChange} />
        {refusal && <NotSo refusal={refusal} kept={outing.longLeaderOk} />}
        {plan.isPending && !refusal && <Waiting what="Trying every line you own…" />}
        {choice && chosen && !refusal && (
          <LineChoice
            choice={choice}
            standing={same(chosen, best) ? 'Best now' : 'Your choice'}
            onFish={() => void fish()}
            tackle={
              <>
                <TackleBar leader={leader} team={team} />
                {shown.flies.length > 1 && <FliesNow run={shown} timeS={moment} />}
              </>
            }
          >
            {trouble !== null && <Trouble error={trouble} />}
          </LineChoice>
        )}
      </div>
      {plan.data && !refusal && (
        <div
          className={`order-3 min-w-0 lg:order-none ${plan.isPlaceholderData ? 'opacity-60' : ''}`}
          aria-busy={plan.isPlaceholderData}
        >
          <LineList
            lines={plan.data.lines}
            chosenName={chosen?.line.name ?? null}
            onChoose={(name) => void pick(name)}
          />
        </div>
      )}
    </div>
  )
}

/** Why it cannot be fished so; a leader too long for the water may be kept. */
function NotSo({ refusal, kept }: { refusal: Error; kept: boolean }) {
  const { change } = useOuting()
  const navigate = useNavigate()
  return (
    <div className="mb-3">
      <Trouble error={refusal}>
        {refusal instanceof Refusal && refusal.at('bottom_depth_m') && !kept && (
          <div className="mt-2 flex gap-2">
            <Button onClick={() => change({ longLeaderOk: true })}>Keep the long leader</Button>
            <Button onClick={() => void navigate('/read')}>Change the depth</Button>
          </div>
        )}
      </Trouble>
    </div>
  )
}

/** The cast as the dials stand, once they have held still. */
function useLineCast(
  outing: Outing,
  chosen: Chosen | null,
  tied: Pick<Schemas['RigIn'], 'leader' | 'flies'>,
) {
  const settled = useSettled(chosen, WHAT_IF_MS)
  return useSimulation(
    settled && {
      conditions: outing.conditions,
      fished: {
        rig: { line: settled.line, ...tied },
        action: {
          kind: 'cast',
          cast_m: outing.castM,
          count_s: settled.countS,
          retrieve_key: settled.retrieveKey,
          retrieve_mps: settled.retrieveMps,
          ...USUAL_HANDLING,
          ...ACROSS,
          recasts: true,
        },
      },
      long_leader_ok: outing.longLeaderOk,
    },
  )
}

interface SumAndTruthProps {
  choice: Choice | undefined
  picture: Picture
  /** How many ways were simulated. */
  tried: number | null
}

function SumAndTruth({ choice, picture, tried }: SumAndTruthProps) {
  const units = useUnits()
  return (
    <>
      {choice && (
        <p className="mt-2 border-l-[3px] border-ink pl-3 text-[0.9375rem]">
          <span className="eyebrow mr-1.5">Sum and truth</span>
          {words(choice.sum_differs, units)}
        </p>
      )}
      <Cautions cautions={picture.cautions} className="mt-2" />
      {tried !== null && (
        <p className="mt-2 text-sm text-soft">
          {tried} ways simulated against the band at{' '}
          {range('depth', picture.belief.main_band.top_m, picture.belief.main_band.bottom_m, units)}. The
          water’s own rules and your licence come first.
        </p>
      )}
    </>
  )
}

interface LineDialsProps {
  outing: Outing
  leader: Schemas['LeaderOut']
  chosen: Chosen
  onChoose(next: Partial<Chosen>): void
}

function LineDials({ outing, leader, chosen, onChoose }: LineDialsProps) {
  const { change, observe } = useOuting()
  const units = useUnits()
  const trade = useTrade()
  const { conditions } = outing
  if (!trade.data) return null
  return (
    <div className="mt-1 grid gap-x-6 gap-y-1 md:grid-cols-[1fr_1fr_1.35fr]">
      <Dial
        label="Count"
        value={chosen.countS}
        least={0}
        most={USUAL.dialCountS}
        step={1}
        said={`${chosen.countS} s`}
        onValueChange={(countS) => onChoose({ countS })}
      />
      <Dial
        label="Retrieve speed"
        value={chosen.retrieveMps}
        least={0.02}
        most={0.8}
        step={0.01}
        said={format('lineSpeed', chosen.retrieveMps, units)}
        onValueChange={(retrieveMps) => onChoose({ retrieveMps })}
      />
      <ChoiceField
        label="Retrieve"
        value={chosen.retrieveKey}
        options={trade.data.retrieves.map((r) => ({ value: r.key, text: r.name }))}
        onValueChange={(key) => {
          const retrieve = trade.data.retrieves.find((r) => r.key === key)
          if (retrieve) onChoose({ retrieveKey: key, retrieveMps: retrieve.mean_mps })
        }}
      />
      <Dial
        label="Line and leader out"
        value={outing.castM}
        least={Math.ceil(2 * (leader.length_m + 0.5)) / 2}
        most={30}
        step={0.5}
        said={format('depth', outing.castM, units)}
        onValueChange={(castM) => change({ castM })}
      />
      <Dial
        label="Bottom at the far end"
        value={conditions.far_bottom_depth_m ?? conditions.bottom_depth_m}
        least={0.5}
        most={Math.max(15, Math.ceil(conditions.bottom_depth_m))}
        step={0.1}
        said={format('depth', conditions.far_bottom_depth_m ?? conditions.bottom_depth_m, units)}
        onValueChange={(depthM) =>
          observe({
            far_bottom_depth_m: Math.abs(depthM - conditions.bottom_depth_m) < 0.05 ? null : depthM,
          })
        }
      />
      <Dial
        label="Weed on the bottom"
        value={conditions.weed_m}
        least={0}
        most={3}
        step={0.1}
        said={conditions.weed_m === 0 ? 'none' : `${format('depth', conditions.weed_m, units)} high`}
        onValueChange={(weed_m) => observe({ weed_m })}
      />
    </div>
  )
}

interface LineChoiceProps {
  choice: Choice
  standing: string
  tackle: ReactNode
  onFish(): void
  children: ReactNode
}

function LineChoice({ choice, standing, tackle, onFish, children }: LineChoiceProps) {
  const units = useUnits()
  return (
    <section aria-label="The choice" aria-live="polite">
      <p className="eyebrow">{standing}</p>
      <h1 className="plate text-[2rem] leading-[1.05] font-bold">{headline(choice, units)}</h1>
      <p className="mt-1 text-lg leading-snug">{handling(choice.action, units)}</p>
      {tackle}
      <ul className="mt-1.5 space-y-0.5 text-[0.9375rem]">
        {choice.reasons.map((reason, i) => (
          <li key={i} className="flex gap-2">
            <span aria-hidden="true" className="text-hot">
              ▾
            </span>
            {words(reason, units)}
          </li>
        ))}
      </ul>
      <div className="mt-2.5 flex items-center gap-4">
        <Button look="hot" size="large" onClick={onFish}>
          Fish this
        </Button>
        <p className="text-sm leading-tight text-soft">
          <strong className="text-base text-ink">{choice.band_min_per_cast.toFixed(1)} min</strong> of a{' '}
          {seconds(choice.cast_s)} cast in the band
          <br />
          starts {format('depth', choice.start_depth_m, units)}, deepest{' '}
          {format('depth', choice.deepest_m, units)}
        </p>
      </div>
      {children}
    </section>
  )
}

/** The best cast of a plan, as the dials stand for it; a float or a tow has none. */
function chosenFrom(ranked: readonly Ranked[] | undefined): Chosen | null {
  for (const { line, action } of ranked ?? []) {
    if (action.kind === 'cast')
      return {
        line,
        countS: action.count_s,
        retrieveKey: action.retrieve_key,
        retrieveMps: action.retrieve_mps,
      }
  }
  return null
}

function same(chosen: Chosen, best: Chosen | null): boolean {
  return JSON.stringify(chosen) === JSON.stringify(best)
}
