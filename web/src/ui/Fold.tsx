/** Inputs of one kind: on a phone they fold to a line once they are given; a desk has room for them all. */
import { useState, type ReactNode } from 'react'
import { useMedia } from './useMedia'

interface FoldProps {
  /** What it holds, and what is in it by now. */
  title: string
  said: string
  /** Whether there is nothing left to ask. */
  given: boolean
  children: ReactNode
}

const LANDED_MS = 400
export const NARROW = '(max-width: 63.99rem)'

export function Fold({ title, said, given, children }: FoldProps) {
  const narrow = useMedia(NARROW)
  const [open, setOpen] = useState(!given)
  if (!narrow) return children
  return (
    <details
      open={open}
      onToggle={(event) => setOpen(event.currentTarget.open)}
      // Left with all of it given, it makes room for the answer; not before the tap that left it has landed.
      onBlur={({ currentTarget, relatedTarget }) => {
        if (!given || relatedTarget === null || currentTarget.contains(relatedTarget)) return
        setTimeout(() => {
          if (!currentTarget.contains(document.activeElement)) setOpen(false)
        }, LANDED_MS)
      }}
      className="group border-b-2 border-ink"
    >
      <summary className="flex min-h-12 cursor-pointer list-none items-center justify-between gap-3">
        <span className="min-w-0">
          <span className="eyebrow block">{title}</span>
          <span className="block font-semibold group-open:sr-only">{said}</span>
        </span>
        <svg
          width="18"
          height="12"
          viewBox="0 0 18 12"
          aria-hidden="true"
          className="shrink-0 group-open:rotate-180"
        >
          <path d="M2 2L9 9L16 2" fill="none" stroke="currentColor" strokeWidth="2.5" />
        </svg>
      </summary>
      <div className="space-y-2.5 pb-3">{children}</div>
    </details>
  )
}
