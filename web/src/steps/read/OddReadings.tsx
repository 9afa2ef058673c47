/** Readings that can't lie where they were written: said at once, and followed only when the angler says so. */
import type { Schemas } from '../../api/client'
import { words } from '../../format/units'
import { useUnits } from '../../state/person'

type Flag = Pick<Schemas['FlagOut'], 'depth_m' | 'why' | 'followed'>

interface OddReadingsProps {
  label?: string
  flags: readonly Flag[]
  onTrustedChange(reading: Flag, trusted: boolean): void
}

export function OddReadings({ label = 'Odd readings', flags, onTrustedChange }: OddReadingsProps) {
  const units = useUnits()
  if (flags.length === 0) return null
  return (
    <ul aria-label={label} className="space-y-1">
      {flags.map((flag) => (
        <li
          key={flag.depth_m}
          className="flex items-start gap-3 border-l-[6px] border-fish-ink bg-care px-3 py-1.5 text-sm"
        >
          <span className="grow">{words(flag.why, units)}</span>
          <button
            type="button"
            className="min-h-8 shrink-0 border-b-2 border-ink font-semibold"
            onClick={() => onTrustedChange(flag, !flag.followed)}
          >
            {flag.followed ? 'Leave it out' : 'It is right'}
          </button>
        </li>
      ))}
    </ul>
  )
}
