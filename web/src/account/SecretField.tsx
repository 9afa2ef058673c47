import { CONTROL, Field } from '../ui/Field'

interface SecretFieldProps {
  label: string
  value: string
  fresh?: boolean
  error?: string | undefined
  hint?: string
  onValueChange(value: string): void
}

/** A password: one that is had, or a `fresh` one. */
export function SecretField({ label, value, fresh = false, error, hint, onValueChange }: SecretFieldProps) {
  return (
    <Field label={label} error={error} {...(hint && { hint })}>
      {({ id, describedBy, invalid }) => (
        <input
          id={id}
          type="password"
          className={CONTROL}
          autoComplete={fresh ? 'new-password' : 'current-password'}
          required
          value={value}
          aria-invalid={invalid || undefined}
          aria-describedby={describedBy}
          onChange={(event) => onValueChange(event.target.value)}
        />
      )}
    </Field>
  )
}
