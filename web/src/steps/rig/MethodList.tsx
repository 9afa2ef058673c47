/** The best of each method, side by side: what it earns, where it works, and which to compare. */
import type { Ranked, Schemas } from '../../api/client'
import { range } from '../../format/units'
import { useUnits } from '../../state/person'
import { MOST_COMPARED } from './CompareTable'
import { headline, takes } from '../../choice/sayings'

interface MethodListProps {
  choices: Schemas['ChoicesOut']
  chosenKey: string | null
  compared: readonly string[]
  onChoose(key: string): void
  onCompare(keys: string[]): void
}

export function MethodList({ choices, chosenKey, compared, onChoose, onCompare }: MethodListProps) {
  const units = useUnits()
  const best = choices.ranked[0]?.takes_ph ?? 1
  const toggle = (key: string) =>
    onCompare(
      compared.includes(key) ? compared.filter((k) => k !== key) : [...compared, key].slice(-MOST_COMPARED),
    )
  return (
    <section aria-labelledby="of-each-method" className="min-w-0">
      <h2 id="of-each-method" className="eyebrow flex justify-between border-b-2 border-ink pb-0.5">
        <span>The best of each method</span>
        <span>takes an hour</span>
      </h2>
      <ul>
        {choices.ranked.map((one) => (
          <Row
            key={one.method.key}
            one={one}
            best={best}
            on={one.method.key === chosenKey}
            second={choices.second_rod?.method_key === one.method.key}
            compared={compared.includes(one.method.key)}
            works={range('depth', one.low_m, one.high_m, units)}
            head={headline(one, units)}
            onChoose={() => onChoose(one.method.key)}
            onCompare={() => toggle(one.method.key)}
          />
        ))}
      </ul>
      {choices.excluded.length > 0 && (
        <details className="mt-1 text-sm">
          <summary className="min-h-8 cursor-pointer font-semibold">
            {choices.excluded.length} methods left out, and why
          </summary>
          <ul>
            {choices.excluded.map((out) => (
              <li key={out.method_key}>
                <strong>{out.method_name}.</strong> {out.why}
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

interface RowProps {
  one: Ranked
  best: number
  on: boolean
  second: boolean
  compared: boolean
  works: string
  head: string
  onChoose(): void
  onCompare(): void
}

function Row({ one, best, on, second, compared, works, head, onChoose, onCompare }: RowProps) {
  return (
    <li className="flex items-stretch border-b border-rule">
      <button
        type="button"
        aria-pressed={on}
        onClick={onChoose}
        className="grid min-w-0 grow grid-cols-[1fr_auto] items-center gap-x-3 py-[3px] pr-1 text-left hover:bg-sheet aria-pressed:bg-sheet aria-pressed:pl-2.5 aria-pressed:shadow-[inset_4px_0_0_var(--hot)]"
      >
        <span className="min-w-0">
          <span className="block leading-tight font-semibold [overflow-wrap:anywhere]">
            {one.method.name}
            {one.as_good && <span className="ml-2 text-xs font-normal">as good</span>}
            {second && <span className="ml-2 border border-ink px-1 text-xs">second rod</span>}
          </span>
          <span className="block truncate text-sm leading-tight text-soft">
            {head} · works {works}
          </span>
        </span>
        <span className="text-right">
          <span className="plate block text-base leading-tight font-bold">{takes(one)}</span>
          <span className="ml-auto block h-1.5 w-16 bg-rule" aria-hidden="true">
            <span
              className="block h-full bg-ink"
              style={{ width: `${Math.round((100 * one.takes_ph) / best)}%` }}
            />
          </span>
        </span>
      </button>
      <label className="flex min-h-11 w-9 shrink-0 items-center justify-center">
        <span className="sr-only">Compare {one.method.name}</span>
        <input type="checkbox" className="size-5 accent-(--ink)" checked={compared} onChange={onCompare} />
      </label>
    </li>
  )
}
