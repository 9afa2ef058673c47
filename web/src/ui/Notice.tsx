import type { ReactNode } from 'react'
import { NoConnection, Refusal } from '../api/client'
import { words } from '../format/units'
import { useUnits } from '../state/person'
import type { Schemas } from '../api/client'

/** What went wrong and what to do, in words. */
export function Trouble({ error, children }: { error: unknown; children?: ReactNode }) {
  const text =
    error instanceof Refusal || error instanceof NoConnection
      ? error.message
      : 'Something went wrong here. Reload the page.'
  return (
    <div role="alert" className="border-l-[6px] border-hot bg-care px-4 py-2.5">
      <p className="font-semibold">{text}</p>
      {children}
    </div>
  )
}

const LEVELS = {
  stop: { word: 'Stop', edge: 'border-hot' },
  care: { word: 'Care', edge: 'border-fish-ink' },
  note: { word: 'Note', edge: 'border-rule' },
} as const

/** Cautions, always open: each with its level in words. */
export function Cautions({
  cautions,
  className = '',
}: {
  cautions: readonly Schemas['CautionOut'][]
  className?: string
}) {
  const units = useUnits()
  if (cautions.length === 0) return null
  return (
    <ul aria-label="Cautions" className={`space-y-1 ${className}`}>
      {cautions.map((caution) => (
        <li
          key={caution.key}
          className={`border-l-[6px] bg-care px-3 py-1.5 text-sm ${LEVELS[caution.level].edge}`}
        >
          <strong>{LEVELS[caution.level].word}.</strong> {words(caution.words, units)}
        </li>
      ))}
    </ul>
  )
}

/** What holds on any day out, in small print below the cautions. */
export function Reminders({
  said,
  className = '',
}: {
  said: readonly Schemas['PhraseOut'][]
  className?: string
}) {
  const units = useUnits()
  return (
    <p className={`text-sm text-soft ${className}`}>{said.map((phrase) => words(phrase, units)).join(' ')}</p>
  )
}

export function Waiting({ what }: { what: string }) {
  return (
    <p role="status" className="flex items-center gap-3 p-4 text-soft">
      <svg width="28" height="28" viewBox="0 0 28 28" aria-hidden="true">
        <path d="M2 6H26" stroke="var(--ink)" strokeWidth="2" />
        <path d="M6 6C6 16 12 22 22 22" fill="none" stroke="var(--hot)" strokeWidth="2.4" />
      </svg>
      {what}
    </p>
  )
}
