/** Was the advice right: what was promised, what came, and a correction to take or leave. */
import { useMutation } from '@tanstack/react-query'
import { scaleLinear } from 'd3-scale'
import { answer, client, type Schemas } from '../../api/client'
import { words } from '../../format/units'
import { useAskAgain } from '../../queries/api'
import { useAudit } from '../../queries/lookback'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { saveCsv } from '../../ui/csv'
import { Trouble, Waiting } from '../../ui/Notice'
import { AskBar } from './AskBar'
import { LogNav } from './LogNav'
import { hoursOf, rate } from './RateChart'
import { useAsked } from './useAsked'

type Audit = Schemas['AuditOut']

export function AuditPage() {
  const [asked, ask, params] = useAsked()
  const found = useAudit(asked)
  return (
    <div className="mx-auto max-w-[1200px] px-4 py-2 lg:px-6">
      <LogNav params={params} />
      <AskBar asked={asked} onAsk={ask} />
      {found.isError && <Trouble error={found.error} />}
      {!found.data && !found.isError && <Waiting what="Holding it against what came…" />}
      {found.data && (
        <div aria-busy={found.isPlaceholderData} className="mt-4 grid gap-8 lg:grid-cols-2">
          <section aria-label="What was promised">
            <h1 className="plate text-3xl font-bold">
              {found.data.promises === 0
                ? 'Nothing promised yet'
                : `${found.data.within} of ${found.data.promises} promises held`}
            </h1>
            {found.data.promises === 0 ? (
              <p>
                What a plan promises is kept when you press “Fish this” on it, and held here against what
                came.
              </p>
            ) : (
              <p className="text-soft">
                As many takes came as the range on Rig said. It says eight days in ten; luck of few hours goes
                on top.
              </p>
            )}
            {found.data.bins.length > 0 && <Reliability audit={found.data} />}
            <Correction audit={found.data} waterId={asked.water_id ?? null} />
          </section>
          <Followed audit={found.data} />
        </div>
      )}
    </div>
  )
}

const SIZE = 300
const PAD = { left: 34, bottom: 30, top: 8, right: 8 }

/** Said along the bottom, come up the side: on the line it was right. */
function Reliability({ audit }: { audit: Audit }) {
  const most =
    1.1 *
    Math.max(
      0.5,
      ...audit.bins.flatMap((bin) => [bin.said_ph, Math.min(bin.high_ph, 2.5 * bin.came_ph + 0.5)]),
    )
  const x = scaleLinear()
    .domain([0, most])
    .range([PAD.left, SIZE - PAD.right])
    .nice(4)
  const y = scaleLinear()
    .domain(x.domain())
    .range([SIZE - PAD.bottom, PAD.top])
  const ticks = x.ticks(4)
  const top = x.domain()[1] ?? most
  return (
    <figure className="mt-3">
      <div className="flex flex-wrap items-start gap-5">
        <svg
          viewBox={`0 0 ${SIZE} ${SIZE}`}
          width={SIZE}
          height={SIZE}
          className="max-w-full"
          aria-hidden="true"
        >
          {ticks.map((tick) => (
            <g key={tick} fontSize="11" fill="var(--soft)">
              <line x1={x(tick)} x2={x(tick)} y1={y(0)} y2={PAD.top} stroke="var(--rule)" />
              <line x1={x(0)} x2={SIZE - PAD.right} y1={y(tick)} y2={y(tick)} stroke="var(--rule)" />
              <text x={x(tick)} y={SIZE - PAD.bottom + 13} textAnchor="middle">
                {tick}
              </text>
              <text x={PAD.left - 5} y={y(tick) + 4} textAnchor="end">
                {tick}
              </text>
            </g>
          ))}
          <line
            x1={x(0)}
            y1={y(0)}
            x2={x(top)}
            y2={y(top)}
            stroke="var(--ink)"
            strokeWidth="1.5"
            strokeDasharray="5 4"
          />
          {audit.bins.map((bin) => (
            <g key={bin.said_ph} stroke="var(--fish-ink)">
              <line
                x1={x(bin.said_ph)}
                x2={x(bin.said_ph)}
                y1={y(bin.low_ph)}
                y2={y(Math.min(bin.high_ph, top))}
                strokeWidth="4"
              />
              <circle
                cx={x(bin.said_ph)}
                cy={y(Math.min(bin.came_ph, top))}
                r="7"
                fill="var(--fish)"
                strokeWidth="1.5"
              />
            </g>
          ))}
          <text x={SIZE - PAD.right} y={SIZE - 3} textAnchor="end" fontSize="12" fill="var(--ink)">
            said, takes an hour
          </text>
          <text x={PAD.left + 6} y={PAD.top + 12} fontSize="12" fill="var(--ink)">
            came
          </text>
        </svg>
        <table className="grow border-collapse text-sm">
          <caption className="eyebrow text-left">Said and come, takes an hour</caption>
          <thead>
            <tr className="border-b-2 border-ink text-left">
              <th scope="col">Said</th>
              <th scope="col">Came</th>
              <th scope="col">Of</th>
            </tr>
          </thead>
          <tbody>
            {audit.bins.map((bin) => (
              <tr key={bin.said_ph} className="border-b border-rule">
                <th scope="row" className="py-1 text-left font-normal">
                  {rate(bin.least_ph)}–{rate(bin.most_ph)}
                </th>
                <td>
                  <strong>{rate(bin.came_ph)}</strong>{' '}
                  <span className="text-soft">
                    {rate(bin.low_ph)}–{rate(bin.high_ph)}
                  </span>
                </td>
                <td className="text-soft">
                  {bin.takes} in {hoursOf(bin.hours)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <figcaption className="flex items-center gap-4 text-sm text-soft">
        On the dashed line it was right; above it more came than was said.
        <Button
          look="quiet"
          className="screen-only px-0 text-sm"
          onClick={() =>
            saveCsv('said-and-come', [
              ['said_per_hour', 'came_per_hour', 'low', 'high', 'hours', 'takes'],
              ...audit.bins.map((b) => [b.said_ph, b.came_ph, b.low_ph, b.high_ph, b.hours, b.takes]),
            ])
          }
        >
          Save as CSV
        </Button>
      </figcaption>
    </figure>
  )
}

function Correction({ audit, waterId }: { audit: Audit; waterId: number | null }) {
  const units = useUnits()
  const again = useAskAgain()
  const path = { water_id: waterId ?? 0 }
  const refresh = () => again('/api/audit', '/api/choices', '/api/weighings')
  const take = useMutation({
    mutationFn: () => answer(client.PUT('/api/waters/{water_id}/correction', { params: { path } })),
    onSuccess: refresh,
  })
  const leave = useMutation({
    mutationFn: () => answer(client.DELETE('/api/waters/{water_id}/correction', { params: { path } })),
    onSuccess: refresh,
  })
  const { correction, taken } = audit
  if (audit.promises === 0) return null
  return (
    <section aria-label="Correction" className="mt-4 border-t-2 border-ink pt-2">
      <h2 className="font-bold">Put it right?</h2>
      <p>{words(correction.words, units)}</p>
      <p className="text-sm text-soft">
        Between {correction.low.toFixed(2)} and {correction.high.toFixed(2)} times, nine times in ten. It
        changes what is promised, never what is advised first.
      </p>
      {waterId === null ? (
        correction.offered && (
          <p className="text-sm">Choose one water above to have its promises corrected.</p>
        )
      ) : taken !== null ? (
        <p className="mt-1 flex flex-wrap items-center gap-3">
          <strong>Promises here are multiplied by {taken.toFixed(2)}.</strong>
          <Button onClick={() => leave.mutate()}>Say them as they are</Button>
        </p>
      ) : (
        correction.offered && (
          <Button className="mt-1" onClick={() => take.mutate()}>
            Multiply promises here by {correction.factor.toFixed(2)}
          </Button>
        )
      )}
      {(take.error ?? leave.error) && <Trouble error={take.error ?? leave.error} />}
    </section>
  )
}

/** What came where the advice was followed, and where it was not. */
function Followed({ audit }: { audit: Audit }) {
  if (audit.followed.length === 0) return null
  return (
    <section aria-label="Followed or not">
      <h2 className="plate text-2xl font-bold">Followed or not</h2>
      <table className="mt-2 w-full border-collapse">
        <thead>
          <tr className="border-b-2 border-ink text-left">
            <th scope="col" className="eyebrow font-normal">
              Fished
            </th>
            <th scope="col" className="eyebrow text-right font-normal">
              Takes an hour
            </th>
            <th scope="col" className="eyebrow text-right font-normal">
              Of
            </th>
          </tr>
        </thead>
        <tbody>
          {audit.followed.map((row) => (
            <tr key={row.key} className="border-b border-rule">
              <th scope="row" className="py-1.5 text-left">
                {row.name.text}
              </th>
              <td className="text-right">
                <strong>{rate(row.mean_ph)}</strong>{' '}
                <span className="text-soft">
                  {rate(row.low_ph)}–{rate(row.high_ph)}
                </span>
              </td>
              <td className="text-right text-sm text-soft">
                {row.takes} in {hoursOf(row.hours)}, {row.days} {row.days === 1 ? 'day' : 'days'}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-soft">
        Days differ: on a bad one you may have tried everything. Where the ranges overlap, the log can’t tell
        them apart.
      </p>
    </section>
  )
}
