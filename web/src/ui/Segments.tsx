import { ToggleGroup } from 'radix-ui'
import type { ReactNode } from 'react'

export interface SegmentsProps {
  label: string
  value: string
  options: readonly { value: string; text: string; drawing?: ReactNode }[]
  onValueChange(value: string): void
  className?: string
}

/** One of a few, all of them in sight. */
export function Segments({ label, value, options, onValueChange, className = '' }: SegmentsProps) {
  return (
    <div className={className}>
      <p className="eyebrow mb-0.5">{label}</p>
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={value}
        onValueChange={(next) => next && onValueChange(next)}
        className="flex border-2 border-ink"
      >
        {options.map((option) => (
          <ToggleGroup.Item
            key={option.value}
            value={option.value}
            className="flex min-h-11 min-w-0 grow basis-auto flex-col items-center justify-center bg-sheet px-1 [overflow-wrap:anywhere] text-sm font-semibold not-first:border-l-2 not-first:border-ink focus-visible:z-10 data-[state=on]:bg-ink data-[state=on]:text-paper"
          >
            {option.drawing}
            {option.text}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </div>
  )
}
