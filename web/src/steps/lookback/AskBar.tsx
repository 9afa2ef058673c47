/** Which days: water, months, words; more behind a fold. */
import { useEffect, useState } from 'react'
import { useWaters } from '../../queries/hooks'
import type { DaysQuery } from '../../queries/lookback'
import { ChoiceField, CONTROL, Field, QuantityField } from '../../ui/Field'
import { NARROW } from '../../ui/Fold'
import { useMedia } from '../../ui/useMedia'
import { useSettled } from '../../ui/useSettled'
import { narrowed } from './useAsked'

export const MONTHS = ['J', 'F', 'M', 'A', 'M', 'J', 'J', 'A', 'S', 'O', 'N', 'D']
export const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]

interface AskBarProps {
  asked: DaysQuery
  onAsk(changes: DaysQuery): void
}

/** On a phone it folds to a line: what is asked about comes first, and the answer is in sight. */
export function AskBar({ asked, onAsk }: AskBarProps) {
  const narrow = useMedia(NARROW)
  const waters = useWaters().data?.items ?? []
  const water = waters.find((one) => one.id === asked.water_id)?.name ?? 'Every water'
  const months = (asked.months ?? []).map((month) => MONTH_NAMES[month - 1]).join(', ')
  const said = [
    water,
    months,
    asked.text,
    narrowed(asked) > (months ? 1 : 0) + (asked.text ? 1 : 0) ? 'and more' : '',
  ]
  if (!narrow) return <Asks asked={asked} onAsk={onAsk} />
  return (
    <details className="screen-only border-b-2 border-ink">
      <summary className="flex min-h-12 cursor-pointer items-center font-semibold">
        {said.filter(Boolean).join(', ')}
        <span className="ml-auto pl-3 text-sm text-soft underline underline-offset-4">change</span>
      </summary>
      <div className="pb-3">
        <Asks asked={asked} onAsk={onAsk} />
      </div>
    </details>
  )
}

function Asks({ asked, onAsk }: AskBarProps) {
  const waters = useWaters().data?.items ?? []
  const months = asked.months ?? []
  const [text, setText] = useState(asked.text ?? '')
  const settled = useSettled(text, 300)
  useEffect(() => {
    if (settled !== (asked.text ?? '')) onAsk({ text: settled })
    // What was typed is asked once it rests; what is asked otherwise changes nothing of it.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [settled])
  const toggle = (month: number) =>
    onAsk({ months: months.includes(month) ? months.filter((m) => m !== month) : [...months, month] })
  return (
    <section
      aria-label="Which days"
      className="screen-only grid items-end gap-x-5 gap-y-2 lg:grid-cols-[14rem_auto_minmax(10rem,18rem)_1fr]"
    >
      <ChoiceField
        label="Water"
        value={String(asked.water_id ?? '')}
        options={[
          { value: '', text: 'Every water' },
          ...waters.map((water) => ({ value: String(water.id), text: water.name })),
        ]}
        onValueChange={(id) => onAsk({ water_id: id ? Number(id) : null })}
      />
      <div>
        <p className="eyebrow mb-0.5">Months</p>
        <div role="group" aria-label="Months" className="grid grid-cols-12 border-2 border-ink">
          {MONTHS.map((letter, i) => (
            <button
              key={MONTH_NAMES[i]}
              type="button"
              aria-pressed={months.includes(i + 1)}
              aria-label={MONTH_NAMES[i]}
              className="h-10 min-w-0 bg-sheet text-sm font-semibold not-first:border-l not-first:border-rule aria-pressed:bg-ink aria-pressed:text-paper lg:w-8"
              onClick={() => toggle(i + 1)}
            >
              {letter}
            </button>
          ))}
        </div>
      </div>
      <Field label="Fly, line, method, spot, notes">
        {({ id }) => (
          <input
            id={id}
            type="search"
            className={CONTROL}
            autoComplete="off"
            maxLength={80}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        )}
      </Field>
      <details className="text-sm">
        <summary className="flex min-h-11 cursor-pointer items-center font-semibold">
          More{narrowed(asked) > 0 && `, ${narrowed(asked)} set`}
        </summary>
        <More asked={asked} onAsk={onAsk} />
      </details>
    </section>
  )
}

function More({ asked, onAsk }: AskBarProps) {
  const bound = (label: string, name: 'least_c' | 'most_c' | 'least_wind_mps' | 'most_wind_mps') => {
    const warm = name.endsWith('_c')
    return (
      <QuantityField
        label={label}
        quantity={warm ? 'temperature' : 'wind'}
        value={asked[name] ?? null}
        least={warm ? -1 : 0}
        most={warm ? 35 : 40}
        onValueChange={(value) => onAsk({ [name]: value })}
        onClear={() => onAsk({ [name]: null })}
      />
    )
  }
  const day = (label: string, name: 'from_date' | 'to_date') => (
    <Field label={label}>
      {({ id }) => (
        <input
          id={id}
          type="date"
          className={CONTROL}
          value={asked[name] ?? ''}
          onChange={(event) => onAsk({ [name]: event.target.value })}
        />
      )}
    </Field>
  )
  return (
    <div className="grid grid-cols-2 gap-2 pb-2">
      {bound('From, at the top', 'least_c')}
      {bound('To, at the top', 'most_c')}
      {bound('Wind from', 'least_wind_mps')}
      {bound('Wind to', 'most_wind_mps')}
      {day('From', 'from_date')}
      {day('Until', 'to_date')}
    </div>
  )
}
