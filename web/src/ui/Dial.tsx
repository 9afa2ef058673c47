import { Slider } from 'radix-ui'

export interface DialProps {
  label: string
  value: number
  least: number
  most: number
  step: number
  /** The value in words, shown and read aloud. */
  said: string
  onValueChange(value: number): void
}

/** A slider with its value in words beside its name. */
export function Dial({ label, value, least, most, step, said, onValueChange }: DialProps) {
  return (
    <div className="min-w-0">
      <p className="flex flex-wrap items-baseline justify-between gap-x-2">
        <span className="eyebrow">{label}</span>
        <span className="text-right font-semibold">{said}</span>
      </p>
      <Slider.Root
        className="relative flex h-9 w-full touch-none items-center"
        min={least}
        max={most}
        step={step}
        value={[value]}
        onValueChange={([next]) => onValueChange(next ?? value)}
      >
        <Slider.Track className="relative h-1.5 grow bg-rule">
          <Slider.Range className="absolute h-full bg-ink" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={label}
          aria-valuetext={said}
          className="block size-7 rounded-full border-[3px] border-sheet bg-ink"
        />
      </Slider.Root>
    </div>
  )
}
