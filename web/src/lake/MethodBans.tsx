/** Methods that a water closes, for some days of the year or for good. */
import type { Schemas } from '../api/client'
import { useTrade } from '../queries/hooks'
import { Button } from '../ui/Button'
import { ChoiceField } from '../ui/Field'
import { DayField } from './DayField'

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
          <DayField label="From" value={ban.first} onValueChange={(first) => set(i, { first })} />
          <DayField
            label="To"
            value={ban.last}
            error={i === bans.length - 1 ? error : undefined}
            onValueChange={(last) => set(i, { last })}
          />
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
