/** The angler's own way to search: what limits what is proposed, his clock, and how many rods he fishes. */
import type { ReactNode } from 'react'
import { SCHOOLS } from '../../api/trade'
import { store, written, type Search } from '../../offline/store'

const CLOCKS = [5, 10, 20, 30] as const

export function HowToSearch({ search }: { search: Search }) {
  const change = (changes: Partial<Search>) =>
    void written(() => store.searches.update(search.dayId, changes))
  return (
    <fieldset className="grid grid-cols-2 gap-2 text-sm">
      <legend className="sr-only">How to search</legend>
      <Choice
        label="How to search"
        className="col-span-2"
        value={search.school}
        onChange={(school) => change({ school: school as Search['school'] })}
      >
        {SCHOOLS.map((one) => (
          <option key={one.key} value={one.key}>
            {one.name}
          </option>
        ))}
      </Choice>
      <Choice
        label="Change after"
        value={String(search.mostMin ?? '')}
        onChange={(value) => change({ mostMin: value ? Number(value) : null })}
      >
        <option value="">no clock</option>
        {CLOCKS.map((min) => (
          <option key={min} value={min}>
            {min} min without
          </option>
        ))}
      </Choice>
      <Choice
        label="Rods"
        value={String(search.rods ?? 1)}
        onChange={(value) => change({ rods: value === '2' ? 2 : 1 })}
      >
        <option value="1">one</option>
        <option value="2">two, where allowed</option>
      </Choice>
    </fieldset>
  )
}

interface ChoiceProps {
  label: string
  value: string
  className?: string
  children: ReactNode
  onChange(value: string): void
}

function Choice({ label, value, className = '', children, onChange }: ChoiceProps) {
  return (
    <label className={`block font-semibold ${className}`}>
      <span className="block">{label}</span>
      <select
        className="min-h-12 w-full border-2 border-ink bg-sheet px-2"
        value={value}
        onChange={({ target }) => onChange(target.value)}
      >
        {children}
      </select>
    </label>
  )
}
