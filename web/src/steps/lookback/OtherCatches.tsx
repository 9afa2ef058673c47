/** The fish of a day that came with another log: what it told of them. */
import { useMutation } from '@tanstack/react-query'
import { answer, client, type Schemas } from '../../api/client'
import { timeAt } from '../../format/clock'
import { format, type Units } from '../../format/units'
import { api, thrown, useAskAgain } from '../../queries/api'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Notice'

export function OtherCatches({ dayId, timeZone }: { dayId: string; timeZone: string }) {
  const units = useUnits()
  const again = useAskAgain()
  const path = { day_id: dayId }
  const asked = { params: { path, query: { limit: 200 } } }
  const found = thrown(api.useQuery('get', '/api/days/{day_id}/catches', asked, { retry: false }))
  const remove = useMutation({
    mutationFn: (id: string) =>
      answer(
        client.DELETE('/api/days/{day_id}/catches/{catch_id}', {
          params: { path: { ...path, catch_id: id } },
        }),
      ),
    onSettled: () => again('/api/days/{day_id}/catches', '/api/days', '/api/days/{day_id}'),
  })
  const items = found.data?.items ?? []
  if (items.length === 0) return found.error ? <Trouble error={found.error} /> : null
  return (
    <section aria-label="From another log" className="border-t-2 border-ink py-2">
      <h2 className="plate text-xl leading-tight font-bold">From another log</h2>
      <p className="text-sm text-soft">No hours, so no takes an hour.</p>
      <ul>
        {items.map((fish) => (
          <li key={fish.id} className="flex min-h-11 items-center gap-3 border-t border-rule py-1">
            <span className="min-w-0 grow">
              <strong>{said(fish, units)}</strong>
              {fish.timed && ` · ${timeAt(timeZone, fish.at)}`}
              <span className="block text-sm text-soft">
                {[fish.fly, fish.method, fish.notes].filter(Boolean).join(' · ')}
              </span>
            </span>
            <Button
              look="quiet"
              aria-label={`Take out: ${said(fish, units)}`}
              disabled={remove.isPending}
              onClick={() => remove.mutate(fish.id)}
            >
              Take out
            </Button>
          </li>
        ))}
      </ul>
      {remove.error && <Trouble error={remove.error} />}
    </section>
  )
}

function said(fish: Schemas['CatchOut'], units: Units): string {
  const parts = [
    `${fish.count} ${fish.species || 'fish'}`,
    fish.length_m ? format('fishLength', fish.length_m, units) : '',
    fish.weight_kg ? format('mass', fish.weight_kg, units) : '',
    fish.depth_m ? `at ${format('depth', fish.depth_m, units)}` : '',
    fish.kept === true ? 'kept' : fish.kept === false ? 'released' : '',
  ]
  return parts.filter(Boolean).join(', ')
}
