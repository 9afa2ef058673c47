/** The rules of a water: what no plan may break. */
import type { Schemas } from '../api/client'
import { ChoiceField, CONTROL, Field } from '../ui/Field'
import { DayField } from './DayField'
import { MethodBans } from './MethodBans'

type Rules = Schemas['RulesIn']

interface RulesFieldsProps {
  rules: Rules
  error?: string | undefined
  banError?: string | undefined
  onRulesChange(changes: Partial<Rules>): void
}

const ALLOWED = [
  { name: 'indicators', text: 'Indicators' },
  { name: 'static_buoyant', text: 'Buoyant flies fished still' },
  { name: 'lures', text: 'Lures' },
  { name: 'boats', text: 'Boats' },
  { name: 'float_tubes', text: 'Float tubes' },
  { name: 'wading', text: 'Wading' },
] as const

const FLIES = [
  { value: '', text: 'Any number' },
  ...[1, 2, 3, 4].map((n) => ({ value: String(n), text: `At most ${n}` })),
]
const HOOKS = [
  { value: '', text: 'Any size' },
  ...[4, 6, 8, 10, 12, 14].map((n) => ({ value: String(n), text: `No larger than ${n}` })),
]
const RELEASES = [
  { value: 'either', text: 'Keep or release' },
  { value: 'release-only', text: 'Release every fish' },
  { value: 'kill-only', text: 'Kill every fish' },
]

export function RulesFields({ rules, error, banError, onRulesChange }: RulesFieldsProps) {
  const number = (text: string) => (text === '' ? null : Number(text))
  return (
    <details>
      <summary className="min-h-9 cursor-pointer font-semibold">Rules of this water</summary>
      <div className="mt-1 grid grid-cols-2 gap-3">
        <ChoiceField
          label="Flies"
          value={String(rules.most_flies ?? '')}
          options={FLIES}
          onValueChange={(n) => onRulesChange({ most_flies: number(n) })}
        />
        <ChoiceField
          label="Hooks"
          value={String(rules.largest_hook ?? '')}
          options={HOOKS}
          onValueChange={(n) => onRulesChange({ largest_hook: number(n) })}
        />
        <ChoiceField
          label="Fish"
          value={rules.release}
          options={RELEASES}
          onValueChange={(release) => onRulesChange({ release: release as Rules['release'] })}
        />
        <Field label="Bag limit">
          {({ id }) => (
            <input
              id={id}
              inputMode="numeric"
              className={`${CONTROL} font-semibold`}
              value={rules.bag_limit ?? ''}
              onChange={(event) =>
                /^\d{0,2}$/.test(event.target.value) &&
                onRulesChange({ bag_limit: number(event.target.value) })
              }
            />
          )}
        </Field>
        <DayField label="Opens" value={rules.opens} onValueChange={(opens) => onRulesChange({ opens })} />
        <DayField
          label="Closes"
          value={rules.closes}
          error={error}
          onValueChange={(closes) => onRulesChange({ closes })}
        />
      </div>
      <div className="mt-2 flex flex-wrap gap-x-4">
        {ALLOWED.map(({ name, text }) => (
          <label key={name} className="flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-(--ink)"
              checked={rules[name]}
              onChange={(event) => onRulesChange({ [name]: event.target.checked })}
            />
            {text}
          </label>
        ))}
        <label className="flex min-h-9 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 accent-(--ink)"
            checked={rules.barbless}
            onChange={(event) => onRulesChange({ barbless: event.target.checked })}
          />
          Barbless only
        </label>
      </div>
      <MethodBans
        bans={rules.method_bans}
        error={banError}
        onBansChange={(method_bans) => onRulesChange({ method_bans })}
      />
      <p className="mt-1 text-sm text-soft">Ticked is allowed. Local rules and your licence come first.</p>
    </details>
  )
}
