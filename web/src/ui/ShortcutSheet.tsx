/** The keys, shown on "?". */
import { Dialog } from 'radix-ui'
import { useEffect, useState } from 'react'

export interface ShortcutSheetProps {
  steps: readonly { text: string; key: string }[]
}

const KEYS = [
  ['↑ ↓', 'in the Column: a tenth of a metre; Page Up and Page Down a whole one'],
  ['← →', 'on a dial or the moment of the cast: one step'],
  ['C', 'Fish: cast, or cast again'],
  ['N K T L F', 'Fish: nothing, knock, take, lost, fish landed'],
  ['U', 'Fish: undo the last entry'],
] as const

export function isTyping(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey) return true
  return event.target instanceof Element && event.target.closest('input, select, textarea') !== null
}

export function ShortcutSheet({ steps }: ShortcutSheetProps) {
  const [open, setOpen] = useState(false)
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTyping(event)) setOpen(true)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [])
  return (
    // Not modal: the modal one locks scrolling by an inline style sheet, which the page's policy forbids.
    <Dialog.Root modal={false} open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="hidden size-11 shrink-0 text-lg font-bold lg:block" aria-label="Keys">
        ?
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-40 w-[34rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 border-2 border-ink bg-paper p-6"
        >
          <Dialog.Title className="plate text-3xl font-bold">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[7rem_1fr] gap-x-4 gap-y-1.5">
            {[...steps.map((s) => [s.key, s.text] as const), ...KEYS, ['?', 'this sheet'] as const].map(
              ([key, text]) => (
                <div key={key} className="contents">
                  <dt className="plate font-bold">{key}</dt>
                  <dd>{text}</dd>
                </div>
              ),
            )}
          </dl>
          <Dialog.Close className="mt-4 h-11 border-2 border-ink bg-sheet px-4 font-semibold">
            Close
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
