/** When a screen fails in itself: it is said, what was logged stays, and there is a way on. */
import type { ReactNode } from 'react'
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary'
import { useOutdated } from '../offline/version'
import { Button } from './Button'

interface ScreenProps {
  /** A change of it tries the screen again: the address. */
  of: string
  /** Forget what was read and tied on here: where that is what the screen cannot bear. */
  onForget(): void
  children: ReactNode
}

export function Screen({ of, onForget, children }: ScreenProps) {
  return (
    <ErrorBoundary
      resetKeys={[of]}
      onError={(error) => console.error(error)}
      fallbackRender={(failed) => <Failed {...failed} onForget={onForget} />}
    >
      {children}
    </ErrorBoundary>
  )
}

function Failed({ error, resetErrorBoundary, onForget }: FallbackProps & Pick<ScreenProps, 'onForget'>) {
  const outdated = useOutdated()
  if (outdated)
    return (
      <section role="alert" className="mx-auto max-w-xl space-y-4 p-6">
        <h1 className="plate text-3xl font-bold">A newer version is here</h1>
        <p>
          This screen belongs to an older one. What you logged and read is kept; a cast that runs goes on.
        </p>
        <Button look="hot" size="large" onClick={() => window.location.reload()}>
          Reload
        </Button>
      </section>
    )
  return (
    <section role="alert" className="mx-auto max-w-xl space-y-4 p-6">
      <h1 className="plate text-3xl font-bold">This screen failed</h1>
      <p>
        What you logged is kept on this device and still sent. The other screens work: go on from the row at
        the top.
      </p>
      <div className="flex flex-wrap gap-3">
        <Button look="hot" size="large" onClick={resetErrorBoundary}>
          Try again
        </Button>
        <Button
          size="large"
          onClick={() => {
            onForget()
            resetErrorBoundary()
          }}
        >
          Read the water afresh
        </Button>
      </div>
      <p className="text-sm text-soft">{error instanceof Error ? error.message : String(error)}</p>
    </section>
  )
}
