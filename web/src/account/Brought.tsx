/** What another's log brings, before and after. */
import { keepPreviousData } from '@tanstack/react-query'
import type { Schemas } from '../api/client'
import { counted } from '../format/units'
import { api, thrown } from '../queries/api'

export const useBrought = (body: Schemas['BringIn'], ask: boolean) =>
  thrown(
    api.useQuery(
      'post',
      '/api/other-logs/previews',
      { body },
      { enabled: ask, retry: false, placeholderData: keepPreviousData },
    ),
  )

export function Brought({ brought, done = false }: { brought: Schemas['BroughtOut']; done?: boolean }) {
  const here = brought.days_here + brought.fish_here
  return (
    <div role="status" className="border-l-[6px] border-ink bg-care px-4 py-2">
      <p className="font-semibold">
        {done ? 'Brought in: ' : 'Brings '}
        {counted(brought.days_new, 'new day', 'new days')} and {counted(brought.fish_new, 'fish', 'fish')}.
      </p>
      {here > 0 && (
        <p className="text-sm">
          Here already: {counted(brought.days_here, 'day', 'days')},{' '}
          {counted(brought.fish_here, 'fish', 'fish')}.
        </p>
      )}
      {brought.refused > 0 && (
        <>
          <p className="mt-1 font-semibold">
            {done ? 'Left out: ' : 'Can’t be taken: '}
            {counted(brought.refused, 'row', 'rows')}.
          </p>
          <ul className="max-h-40 overflow-y-auto text-sm">
            {brought.faults.map((fault) => (
              <li key={fault.line}>
                Line {fault.line}: {fault.why}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  )
}
