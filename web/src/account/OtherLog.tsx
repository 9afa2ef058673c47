/** Another's log, or one's own from a spreadsheet: its columns named, looked at, and brought in once. */
import { useMutation } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answer, client } from '../api/client'
import { Button } from '../ui/Button'
import { Trouble } from '../ui/Notice'
import { Columns } from './Columns'

export function OtherLog() {
  const picker = useRef<HTMLInputElement>(null)
  const [text, setText] = useState('')
  const look = useMutation({
    mutationFn: async (file: File) => {
      const said = await file.text()
      setText(said)
      return answer(client.POST('/api/other-logs/looks', { body: { text: said } }))
    },
  })
  return (
    <section aria-label="Another log" className="space-y-3">
      <h2 className="plate text-2xl font-bold">Another log</h2>
      <p>
        A spreadsheet or another program’s log, saved as CSV. Its days and fish stand beside yours. They never
        count towards takes an hour: nobody knows its hours.
      </p>
      <input
        ref={picker}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        aria-label="Log as CSV"
        className="sr-only"
        tabIndex={-1}
        onChange={({ currentTarget }) => {
          const file = currentTarget.files?.[0]
          currentTarget.value = ''
          if (file) look.mutate(file)
        }}
      />
      <Button disabled={look.isPending} onClick={() => picker.current?.click()}>
        {look.data ? 'Choose another file' : 'Choose a CSV file'}
      </Button>
      {look.error && <Trouble error={look.error} />}
      {look.data && <Columns key={text} looked={look.data} text={text} />}
    </section>
  )
}
