/** An archive back in: sent, looked at, and only then taken, all of it or nothing. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answer, client } from '../api/client'
import { dateHere } from '../format/clock'
import { usePerson } from '../state/person'
import { Button } from '../ui/Button'
import { Trouble } from '../ui/Notice'
import { Segments } from '../ui/Segments'
import { sendArchive, type Found, type Mode, type Restore } from './sendArchive'

const POLL_MS = 500

export function ArchiveIn() {
  const [share, setShare] = useState<number | null>(null)
  const [taken, setTaken] = useState<Found | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const send = useMutation({
    mutationFn: (file: File) => {
      setTaken(null)
      setShare(0)
      return sendArchive(file, setShare)
    },
    onSettled: () => setShare(null),
  })
  return (
    <section aria-label="Back in" className="space-y-3 border-t-2 border-ink pt-3">
      <h2 className="plate text-2xl font-bold">Bring it back</h2>
      <p>An archive that was saved here or on another server. You see what it would do before it does it.</p>
      <input
        ref={picker}
        type="file"
        accept=".zip,application/zip"
        aria-label="Archive"
        className="sr-only"
        tabIndex={-1}
        onChange={({ currentTarget }) => {
          const file = currentTarget.files?.[0]
          currentTarget.value = ''
          if (file) send.mutate(file)
        }}
      />
      <Button disabled={send.isPending} onClick={() => picker.current?.click()}>
        {send.data ? 'Choose another archive' : 'Choose an archive'}
      </Button>
      {share !== null && <Bar label="Sending" share={share} />}
      {send.error && <Trouble error={send.error} />}
      {taken ? (
        <Done found={taken} />
      ) : (
        send.data && <Looked key={send.data.id} restore={send.data} onTaken={setTaken} />
      )}
    </section>
  )
}

function Bar({ label, share }: { label: string; share: number }) {
  const percent = Math.round(100 * share)
  return (
    <p role="status">
      {label}… {percent} %
      <progress
        className="block h-3 w-full accent-[var(--hot)]"
        max={100}
        value={percent}
        aria-label={label}
      />
    </p>
  )
}

/** How far the server is with it, while it is at work. */
function Working({ restore, label }: { restore: Restore; label: string }) {
  const path = { restore_id: restore.id }
  const now = useQuery({
    queryKey: ['restore', restore.id, label],
    queryFn: () => answer(client.GET('/api/restores/{restore_id}', { params: { path } })),
    refetchInterval: POLL_MS,
    retry: false,
  })
  return <Bar label={label} share={now.data && now.data.of > 0 ? now.data.done / now.data.of : 0} />
}

function Looked({ restore, onTaken }: { restore: Restore; onTaken(found: Found): void }) {
  const queries = useQueryClient()
  const { is_demo } = usePerson()
  const [mode, setMode] = useState<Mode>('merge')
  const [leaveOut, setLeaveOut] = useState(false)
  const path = { restore_id: restore.id }
  const look = useQuery({
    queryKey: ['restore', restore.id, 'look', mode],
    queryFn: () =>
      answer(client.POST('/api/restores/{restore_id}/looks', { params: { path }, body: { mode } })),
    retry: false,
    staleTime: Infinity,
  })
  const take = useMutation({
    mutationFn: () =>
      answer(
        client.POST('/api/restores/{restore_id}/takes', {
          params: { path },
          body: { mode, leave_out: leaveOut },
        }),
      ),
    onSuccess: async (found) => {
      onTaken(found)
      await queries.invalidateQueries()
    },
  })
  const found = look.data
  const blocked = (found?.refused ?? 0) > 0 && !leaveOut
  const nothing = mode === 'merge' && found?.rows.every((row) => row.new === 0)
  return (
    <div className="space-y-3">
      {!is_demo && (
        <Segments
          label="What is here already"
          value={mode}
          options={[
            { value: 'merge', text: 'stays' },
            { value: 'replace', text: 'goes' },
          ]}
          onValueChange={(value) => setMode(value === 'replace' ? 'replace' : 'merge')}
        />
      )}
      {look.isPending && <Working restore={restore} label="Looking at it" />}
      {look.error && <Trouble error={look.error} />}
      {found && <FoundTable found={found} mode={mode} />}
      {found && found.refused > 0 && (
        <label className="flex min-h-11 items-center gap-3">
          <input
            type="checkbox"
            className="size-6 accent-[var(--hot)]"
            checked={leaveOut}
            onChange={(event) => setLeaveOut(event.target.checked)}
          />
          Leave out what can’t be taken
        </label>
      )}
      {take.isPending && <Working restore={restore} label="Taking it in" />}
      {take.error && <Trouble error={take.error} />}
      {nothing && <p className="font-semibold">All that can be taken of it is here already.</p>}
      {found && !nothing && (
        <Button look="hot" size="large" disabled={blocked || take.isPending} onClick={() => take.mutate()}>
          {mode === 'replace' ? 'Replace everything here by it' : 'Add what is new'}
        </Button>
      )}
    </div>
  )
}

const KINDS: Record<string, string> = {
  waters: 'Waters',
  marks: 'Marks',
  weather: 'Days of weather',
  surveys: 'Surveys of the bottom',
  box: 'Things in the box',
  trials: 'Timings of lines',
  instruments: 'Instruments',
  days: 'Days',
  entries: 'Casts and what came of them',
  catches: 'Fish of other logs',
  photos: 'Pictures',
}

function FoundTable({ found, mode }: { found: Found; mode: Mode }) {
  const order = Object.keys(KINDS)
  const rows = found.rows
    .filter((row) => row.new + row.same + row.differs > 0)
    .sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind))
  return (
    <>
      <p>
        Of <strong>{found.username}</strong>, saved on {dateHere(found.written_at)}.
        {mode === 'replace' && ' All that is here now goes first.'}
      </p>
      <table className="w-full text-left">
        <caption className="sr-only">What the archive holds</caption>
        <thead className="eyebrow">
          <tr>
            <th scope="col">What</th>
            <th scope="col" className="text-right">
              New
            </th>
            <th scope="col" className="text-right">
              Here already
            </th>
            <th scope="col" className="text-right">
              Here, otherwise
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.kind} className="border-t border-rule">
              <th scope="row" className="py-1 font-semibold">
                {KINDS[row.kind] ?? row.kind}
              </th>
              <td className="text-right tabular-nums">{row.new}</td>
              <td className="text-right tabular-nums">{row.same}</td>
              <td className="text-right tabular-nums">{row.differs}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.some((row) => row.differs > 0) && (
        <p className="text-sm text-soft">
          What is here otherwise stays as it is here; what it lacks is added.
        </p>
      )}
      {found.refused > 0 && <Faults found={found} />}
    </>
  )
}

function Faults({ found }: { found: Found }) {
  return (
    <div className="border-l-[6px] border-hot bg-care px-4 py-2">
      <p className="font-semibold">
        {found.refused === 1
          ? 'One thing in it can’t be taken.'
          : `${found.refused} things in it can’t be taken.`}
      </p>
      <ul className="text-sm">
        {found.faults.map((fault, i) => (
          <li key={i} className="[overflow-wrap:anywhere]">
            {fault.file}
            {fault.where && `, ${fault.where}`}: {fault.why}
          </li>
        ))}
      </ul>
    </div>
  )
}

function Done({ found }: { found: Found }) {
  const came = (kind: string) => found.rows.find((row) => row.kind === kind)?.new ?? 0
  return (
    <p role="status" className="border-l-[6px] border-ink bg-care px-4 py-2 font-semibold">
      Taken in: {came('days')} {came('days') === 1 ? 'day' : 'days'}, {came('entries')} casts and what came of
      them, {came('photos')} {came('photos') === 1 ? 'picture' : 'pictures'}.
      {found.refused > 0 && ` ${found.refused} left out.`}
    </p>
  )
}
