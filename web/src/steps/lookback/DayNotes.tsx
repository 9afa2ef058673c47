/** What the angler wrote of a day; kept when the field is left. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Day } from '../../api/client'
import { useAskAgain } from '../../queries/api'
import { CONTROL, Field } from '../../ui/Field'
import { Trouble } from '../../ui/Notice'

export function DayNotes({ day }: { day: Day }) {
  const again = useAskAgain()
  const [text, setText] = useState(day.notes)
  const save = useMutation({
    mutationFn: () =>
      answer(
        client.PATCH('/api/days/{day_id}', { params: { path: { day_id: day.id } }, body: { notes: text } }),
      ),
    onSuccess: () => again('/api/days/{day_id}', '/api/days/{day_id}/changes'),
  })
  return (
    <div className="mt-3">
      <Field
        label="Notes"
        hint={save.isSuccess && text === day.notes ? 'Kept.' : 'What the numbers don’t say.'}
      >
        {({ id, describedBy }) => (
          <textarea
            id={id}
            rows={3}
            maxLength={4000}
            aria-describedby={describedBy}
            className={`${CONTROL} h-auto py-2`}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onBlur={() => text !== day.notes && save.mutate()}
          />
        )}
      </Field>
      {save.error && <Trouble error={save.error} />}
    </div>
  )
}
