/** How the plan is made: what is carried, which school, and what is decided beforehand. */
import type { Schemas } from '../../api/client'
import { useFlies, useLines, useRods, useTrade } from '../../queries/hooks'
import { format } from '../../format/units'
import { useUnits } from '../../state/person'
import { useOuting, type Outing } from '../../state/outing'

const SELECT = 'h-9 min-w-0 w-full truncate border-b-2 border-ink bg-transparent pr-1 text-sm font-semibold'

export function PlanBar({ outing, methods }: { outing: Outing; methods: readonly Schemas['MethodOut'][] }) {
  const { change } = useOuting()
  const trade = useTrade()
  const units = useUnits()
  const lines = useLines()
  const flies = useFlies()
  const schools = trade.data?.schools ?? []
  const pin = (changes: Partial<Outing['pins']>) => change({ pins: { ...outing.pins, ...changes } })
  const select = (
    label: string,
    value: string,
    options: readonly { value: string; text: string }[],
    onPick: (value: string) => void,
  ) => (
    <label className="min-w-0">
      <span className="eyebrow block">{label}</span>
      <select className={SELECT} value={value} onChange={(event) => onPick(event.target.value)}>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </select>
    </label>
  )
  const any = (text: string) => ({ value: '', text })
  const named = (items: readonly { name: string }[] | undefined) =>
    [...new Set((items ?? []).map((item) => item.name))].map((name) => ({ value: name, text: name }))
  const rods = useRods()
  // A rod that is not in the box any more stays what the plan was made with.
  const listed = rods.data?.items ?? []
  const own = (rod: { length_m: number; number: number | null }) =>
    rod.length_m === outing.rodM && (outing.rodNumber === null || rod.number === outing.rodNumber)
  const inHand = listed.find(own)
  const owned = inHand
    ? listed
    : [
        { id: 0, length_m: outing.rodM, number: outing.rodNumber, name: format('depth', outing.rodM, units) },
        ...listed,
      ]
  const school = schools.find((s) => s.key === outing.schoolKey)
  return (
    <details className="mb-2 text-sm">
      <summary className="min-h-8 cursor-pointer font-semibold">
        {school?.name ?? 'Best expected'}, {outing.boat ? 'from a boat' : 'from the bank'}
        {Object.values(outing.pins).some(Boolean) && ', with something decided'}
      </summary>
      <div className="grid grid-cols-2 gap-x-4 gap-y-1.5 pb-1">
        {select(
          'School',
          outing.schoolKey,
          schools.map((s) => ({ value: s.key, text: s.name })),
          (key) => change({ schoolKey: key as Outing['schoolKey'] }),
        )}
        {select(
          'Fishing from',
          outing.boat ? 'boat' : 'bank',
          [
            { value: 'bank', text: 'Bank' },
            { value: 'boat', text: 'Boat' },
          ],
          (value) => change({ boat: value === 'boat' }),
        )}
        {select(
          'This method',
          outing.pins.methodKey ?? '',
          [any('Any method'), ...methods.map((m) => ({ value: m.key, text: m.name }))],
          (key) => pin({ methodKey: key || null }),
        )}
        {select(
          'This line',
          outing.pins.lineName ?? '',
          [any('Any line'), ...named(lines.data?.items)],
          (name) => pin({ lineName: name || null }),
        )}
        {select(
          'This fly on the point',
          outing.pins.flyName ?? '',
          [any('Any fly'), ...named(flies.data?.items)],
          (name) => pin({ flyName: name || null }),
        )}
        {select(
          'Fluorocarbon',
          outing.fluorocarbon,
          [
            { value: 'when-bright', text: 'When it is bright' },
            { value: 'always', text: 'Always' },
            { value: 'never', text: 'Never' },
          ],
          (value) => change({ fluorocarbon: value as Outing['fluorocarbon'] }),
        )}
        <label className="flex min-h-9 items-center gap-2 font-semibold">
          <input
            type="checkbox"
            className="size-5 accent-(--ink)"
            checked={outing.pressed}
            onChange={(event) => change({ pressed: event.target.checked })}
          />
          Hard-pressed fish
        </label>
        {select(
          'Rod',
          String(inHand?.id ?? 0),
          owned.map((rod) => ({ value: String(rod.id), text: rod.name })),
          (value) => {
            const rod = owned.find((one) => String(one.id) === value)
            if (rod) change({ rodM: rod.length_m, rodNumber: rod.number })
          },
        )}
      </div>
      {school && <p className="text-soft">{school.believes}</p>}
    </details>
  )
}
