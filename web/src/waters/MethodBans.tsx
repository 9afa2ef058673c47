/** Methods that a water closes, for some days of the year or for good. */
import type { Schemas } from '../api/client'
import { useTrade } from '../api/hooks'
import { Button } from '../ui/Button'
import { ChoiceField, CONTROL, Field } from '../ui/Field'

type Ban = Schemas['MethodBanIn']

interface MethodBansProps {
  bans: readonly Ban[]
  error?: string | undefined
  onBansChange(bans: Ban[]): void
}

export function MethodBans({ bans, error, onBansChange }: MethodBansProps) {
  const trade = useTrade()
  const methods = (trade.data?.methods ?? []).map((method) => ({ value: method.key, text: method.name }))
  const set = (at: number, changes: Partial<Ban>) =>
    onBansChange(bans.map((ban, i) => (i === at ? { ...ban, ...changes } : ban)))
  const day = (ban: Ban, at: number, name: 'first' | 'last', label: string) => (
    <Field label={label} error={name === 'last' && at === bans.length - 1 ? error : undefined}>
      {({ id, describedBy, invalid }) => (
        <input
          id={id}
          placeholder="MM-DD"
          maxLength={5}
          className={`${CONTROL} font-semibold`}
          value={ban[name] ?? ''}
          aria-invalid={invalid || undefined}
          aria-describedby={describedBy}
          onChange={(event) => set(at, { [name]: event.target.value || null })}
        />
      )}
    </Field>
  )
  return (
    <div className="mt-2">
      {bans.map((ban, i) => (
        <div
          key={i}
          role="group"
          aria-label={`Closed method ${i + 1}`}
          className="grid grid-cols-[1fr_5.5rem_5.5rem_auto] items-end gap-2"
        >
          <ChoiceField
            label="Not allowed"
            value={ban.method_key}
            options={methods}
            onValueChange={(method_key) => set(i, { method_key })}
          />
          {day(ban, i, 'first', 'From')}
          {day(ban, i, 'last', 'To')}
          <Button
            aria-label={`Allow it again: method ${i + 1}`}
            onClick={() => onBansChange(bans.toSpliced(i, 1))}
          >
            ×
          </Button>
        </div>
      ))}
      <Button
        look="quiet"
        disabled={!methods[0]}
        onClick={() =>
          onBansChange([...bans, { method_key: methods[0]?.value ?? '', first: null, last: null }])
        }
      >
        Close a method
      </Button>
      {bans.length > 0 && <p className="text-sm text-soft">Without days it is closed all year.</p>}
    </div>
  )
}
