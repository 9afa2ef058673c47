/** A day of the year, as month and day: MM-DD, or nothing. */
import { CONTROL, Field } from '../ui/Field'

interface DayFieldProps {
  label: string
  value: string | null | undefined
  error?: string | undefined
  onValueChange(value: string | null): void
}

export function DayField({ label, value, error, onValueChange }: DayFieldProps) {
  return (
    <Field label={label} error={error}>
      {({ id, describedBy, invalid }) => (
        <input
          id={id}
          placeholder="MM-DD"
          maxLength={5}
          className={`${CONTROL} font-semibold`}
          value={value ?? ''}
          aria-invalid={invalid || undefined}
          aria-describedby={describedBy}
          onChange={(event) => onValueChange(event.target.value || null)}
        />
      )}
    </Field>
  )
}
