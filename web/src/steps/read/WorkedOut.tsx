/** Where the column comes from when a lake stands behind it, and what of the readings it doubts. */
import { Link } from 'react-router'
import type { Picture } from '../../api/client'
import { dateWords } from '../../format/clock'
import { words } from '../../format/units'
import { useUnits } from '../../state/person'

export function WorkedOut({ picture, waterId }: { picture: Picture; waterId: number }) {
  const units = useUnits()
  const { worked_out } = picture
  if (!worked_out) return null
  return (
    <p className="mt-1 text-sm">
      What you did not read of the water’s warmth is worked out from its weather
      {worked_out.read_on ? `, last read on ${dateWords(worked_out.read_on)}` : ', never read yet'}.{' '}
      <Link to={`/waters/${waterId}/year`} className="font-semibold underline underline-offset-4">
        The water’s year
      </Link>
      {worked_out.doubt && (
        <strong className="block border-l-[6px] border-fish-ink bg-care px-2 py-1">
          {words(worked_out.doubt, units)}
        </strong>
      )}
    </p>
  )
}
