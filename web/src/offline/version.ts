/** Whether this page is an old build's whose screens the server no longer has. */
import { shared } from './shared'

const outdated = shared(false)
export const useOutdated = outdated.use

/** Hear of a screen that could not be fetched, with a connection there: a newer build has taken its place. */
export function watchScreens() {
  window.addEventListener('vite:preloadError', () => {
    if (navigator.onLine) outdated.set(true)
  })
}
