/** What is seen on and over the water: tap what is there. */
import { ToggleGroup } from 'radix-ui'
import type { Schemas } from '../../api/client'
import { SignDrawing } from './SignDrawing'

export interface SignsPanelProps {
  signs: readonly Schemas['SignOut'][]
  seen: readonly string[]
  /** The look that would tell most, marked among the others. */
  lookFor: string | null
  onSeenChange(seen: string[]): void
}

export function SignsPanel({ signs, seen, lookFor, onSeenChange }: SignsPanelProps) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label="What you see"
      value={[...seen]}
      onValueChange={(next) => {
        // Nothing shows, or something does: the last tap decides.
        const added = next.find((key) => !seen.includes(key))
        onSeenChange(added === 'nothing' ? ['nothing'] : next.filter((key) => key !== 'nothing'))
      }}
      className="grid max-h-[15rem] grid-cols-2 gap-1 overflow-y-auto pr-1"
    >
      {signs.map((sign) => (
        <ToggleGroup.Item
          key={sign.key}
          value={sign.key}
          title={sign.asks}
          className={`flex min-h-11 items-center gap-2 border-2 px-1.5 text-left text-sm leading-tight font-semibold focus-visible:z-10 data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-paper ${sign.key === lookFor ? 'border-dashed border-hot bg-sheet' : 'border-rule bg-sheet'}`}
        >
          <SignDrawing sign={sign.key} />
          <span>
            {sign.name}
            {sign.key === lookFor && <span className="block text-xs font-normal">look for this</span>}
          </span>
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  )
}
