/** What each column of another's log is, and what bringing it in would do. */
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Schemas } from '../api/client'
import { useWaters } from '../queries/hooks'
import { Button } from '../ui/Button'
import { ChoiceField } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { useSettled } from '../ui/useSettled'
import { Brought, useBrought } from './Brought'

type Looked = Schemas['OtherColumnsOut']
type Asked = NonNullable<Looked['columns'][number]['guess']>

const THINGS: [Asked, string][] = [
  ['date', 'Date'],
  ['time', 'Time'],
  ['water', 'Water'],
  ['species', 'Kind of fish'],
  ['count', 'How many'],
  ['length', 'Length'],
  ['weight', 'Weight'],
  ['depth', 'Depth'],
  ['water_c', 'Temperature'],
  ['wind', 'Wind'],
  ['kept', 'Kept'],
  ['fly', 'Fly'],
  ['method', 'Method'],
  ['notes', 'Notes'],
]
const SETTLE_MS = 400

export function Columns({ looked, text }: { looked: Looked; text: string }) {
  const queries = useQueryClient()
  const [things, setThings] = useState<(Asked | '')[]>(looked.columns.map((one) => one.guess ?? ''))
  const [units, setUnits] = useState<(string | null)[]>(looked.columns.map((one) => one.unit))
  const [dayFirst, setDayFirst] = useState(looked.day_first)
  const [waterId, setWaterId] = useState('')
  const [waters, setWaters] = useState<Record<string, number>>({})
  const [leaveOut, setLeaveOut] = useState(false)
  const named = things.flatMap((thing, i) => (thing ? [[thing, i] as const] : []))
  const twice = named.find(([thing], i) => named.findIndex(([other]) => other === thing) !== i)?.[0]
  const body: Schemas['BringIn'] = {
    text,
    mapping: Object.fromEntries(named),
    units: Object.fromEntries(
      named.flatMap(([thing, i]) => {
        const unit = units[i]
        return unit && looked.units[thing]?.includes(unit) ? [[thing, unit]] : []
      }),
    ),
    day_first: dayFirst,
    water_id: waterId ? Number(waterId) : null,
    waters,
  }
  const ready = twice === undefined && things.includes('date')
  const asked = useSettled(body, SETTLE_MS)
  const preview = useBrought(asked, ready)
  const take = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/other-logs/takes', { body: { ...body, leave_out: leaveOut } })),
    onSuccess: () => queries.invalidateQueries(),
  })
  if (take.isSuccess) return <Brought brought={take.data} done />
  const change = (i: number, thing: Asked | '') => {
    setThings(things.map((one, j) => (j === i ? thing : one)))
    const possible = thing ? looked.units[thing] : undefined
    setUnits(
      units.map((unit, j) =>
        j !== i ? unit : possible?.includes(unit ?? '') ? unit : (possible?.[0] ?? null),
      ),
    )
  }
  return (
    <div className="space-y-3">
      <p className="eyebrow">
        {looked.rows} {looked.rows === 1 ? 'row' : 'rows'}: what stands in each column?
      </p>
      <ul>
        {looked.columns.map((column, i) => (
          <OneColumn
            key={i}
            column={column}
            thing={things[i] ?? ''}
            unit={units[i] ?? null}
            units={(things[i] && looked.units[things[i]]) || []}
            onThing={(thing) => change(i, thing)}
            onUnit={(unit) => setUnits(units.map((one, j) => (j === i ? unit : one)))}
          />
        ))}
      </ul>
      <Segments
        label="3/4 is"
        value={dayFirst ? 'day' : 'month'}
        options={[
          { value: 'day', text: 'the third of April' },
          { value: 'month', text: 'the fourth of March' },
        ]}
        onValueChange={(value) => setDayFirst(value === 'day')}
      />
      <WhichWaters
        unnamed={!things.includes('water')}
        unknown={[...new Set([...(preview.data?.unknown_waters ?? []), ...Object.keys(waters)])]}
        waterId={waterId}
        waters={waters}
        onWater={setWaterId}
        onWaters={setWaters}
      />
      {twice && (
        <p role="alert" className="font-semibold text-hot">
          Two columns are “{THINGS.find(([key]) => key === twice)?.[1]}”. Leave one out.
        </p>
      )}
      {!things.includes('date') && (
        <p role="alert" className="font-semibold text-hot">
          Say which column holds the date.
        </p>
      )}
      {ready && preview.error && <Trouble error={preview.error} />}
      {ready && preview.data && <Brought brought={preview.data} />}
      {(preview.data?.refused ?? 0) > 0 && (
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-6 accent-[var(--hot)]"
            checked={leaveOut}
            onChange={(event) => setLeaveOut(event.target.checked)}
          />
          Leave out the rows that can’t be taken
        </label>
      )}
      {take.error && <Trouble error={take.error} />}
      <Button
        look="hot"
        size="large"
        disabled={!ready || !preview.data || take.isPending || (preview.data.refused > 0 && !leaveOut)}
        onClick={() => take.mutate()}
      >
        Bring it in
      </Button>
    </div>
  )
}

interface OneColumnProps {
  column: Looked['columns'][number]
  thing: Asked | ''
  unit: string | null
  units: string[]
  onThing(thing: Asked | ''): void
  onUnit(unit: string): void
}

function OneColumn({ column, thing, unit, units, onThing, onUnit }: OneColumnProps) {
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_5.5rem] items-end gap-2 border-t border-rule py-1.5">
      <span className="min-w-0">
        <strong className="block truncate">{column.header}</strong>
        <span className="block truncate text-sm text-soft">{column.samples.join(' · ') || 'empty'}</span>
      </span>
      <ChoiceField
        label={`${column.header} is`}
        value={thing}
        options={[{ value: '', text: 'left out' }, ...THINGS.map(([value, name]) => ({ value, text: name }))]}
        onValueChange={(value) => onThing(value as Asked | '')}
      />
      {units.length > 0 && (
        <ChoiceField
          label="in"
          value={unit ?? units[0] ?? ''}
          options={units.map((value) => ({
            value,
            text: value === 'C' || value === 'F' ? `°${value}` : value,
          }))}
          onValueChange={onUnit}
        />
      )}
    </li>
  )
}

interface WhichWatersProps {
  unnamed: boolean
  unknown: string[]
  waterId: string
  waters: Record<string, number>
  onWater(id: string): void
  onWaters(waters: Record<string, number>): void
}

function WhichWaters({ unnamed, unknown, waterId, waters, onWater, onWaters }: WhichWatersProps) {
  const mine = useWaters()
  const options = [
    { value: '', text: 'none of mine' },
    ...(mine.data?.items ?? []).map((water) => ({ value: String(water.id), text: water.name })),
  ]
  return (
    <>
      {unnamed && (
        <ChoiceField label="All of it is of" value={waterId} options={options} onValueChange={onWater} />
      )}
      {unknown.map((name) => (
        <ChoiceField
          key={name}
          label={`“${name}” is`}
          value={String(waters[name] ?? '')}
          options={options}
          onValueChange={(value) => {
            const others = Object.fromEntries(Object.entries(waters).filter(([other]) => other !== name))
            onWaters(value ? { ...others, [name]: Number(value) } : others)
          }}
        />
      ))}
    </>
  )
}
