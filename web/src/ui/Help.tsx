/** The guide, at the page of the screen one is on, with the keys at its end; it ships with the page, so it needs no signal. */
import { Dialog } from 'radix-ui'
import { lazy, Suspense, useEffect } from 'react'
import { useLocation } from 'react-router'

const GuidePage = lazy(() => import('./GuidePage').then((m) => ({ default: m.GuidePage })))

export interface HelpProps {
  steps: readonly { text: string; key: string }[]
  open: boolean
  onOpenChange(open: boolean): void
}

const KEYS = [
  ['↑ ↓', 'in the Column: a tenth of a metre; Page Up and Page Down a whole one'],
  ['← →', 'on a dial or the moment of the cast: one step'],
  ['C', 'Fish: cast, or cast again'],
  ['N K T L F', 'Fish: nothing, knock, take, lost, fish landed'],
  ['U', 'Fish: undo the last entry'],
] as const
/** Which page of the guide belongs to which screen. */
const PAGES: Record<string, string> = {
  read: 'Read',
  rig: 'Rig',
  card: 'Rig',
  fish: 'Fish',
  log: 'Look back',
  poster: 'Look back',
  waters: 'Waters',
  box: 'Box',
  tank: 'Tank',
  instruments: 'Instruments',
  practice: 'Practice',
  you: 'You',
}

export function isTyping(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey) return true
  return event.target instanceof Element && event.target.closest('input, select, textarea') !== null
}

export function Help({ steps, open, onOpenChange }: HelpProps) {
  const { pathname } = useLocation()
  const page = PAGES[pathname.split('/')[1] ?? ''] ?? 'Read'
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.key === '?' && !isTyping(event)) onOpenChange(true)
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [onOpenChange])
  return (
    // Not modal: the modal one locks scrolling by an inline style sheet, which the page's policy forbids.
    <Dialog.Root modal={false} open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Content
          aria-describedby={undefined}
          onFocusOutside={(event) => event.preventDefault()}
          className="fixed inset-x-2 top-4 bottom-4 z-50 mx-auto flex max-w-[38rem] flex-col border-2 border-ink bg-paper"
        >
          <div className="flex items-center justify-between border-b-2 border-ink px-4 py-1">
            <Dialog.Title className="plate text-2xl font-bold">{page}</Dialog.Title>
            <Dialog.Close className="min-h-12 border-2 border-ink bg-sheet px-4 font-semibold">
              Close
            </Dialog.Close>
          </div>
          <div className="overflow-y-auto px-4 py-3" tabIndex={0} role="group" aria-label={`Guide: ${page}`}>
            <Suspense fallback={<p role="status">Opening the guide…</p>}>
              <GuidePage title={page} />
            </Suspense>
            <h3 className="plate mt-4 text-xl font-bold">Keys</h3>
            <dl className="mt-1 grid grid-cols-[6rem_1fr] gap-x-4 gap-y-1">
              {[...steps.map((s) => [s.key, s.text] as const), ...KEYS, ['?', 'this page'] as const].map(
                ([key, text]) => (
                  <div key={key} className="contents">
                    <dt className="plate font-bold">{key}</dt>
                    <dd>{text}</dd>
                  </div>
                ),
              )}
            </dl>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
