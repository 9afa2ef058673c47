/** What the log so far means, and the move: asked anew whenever something happens, and as time goes by. */
import { useEffect, useMemo, useState } from 'react'
import type { Fished, LoggedEntry, Search } from '../offline/store'
import { logOf } from './log'
import { think, type Moves } from './thinker'

const ASK_AGAIN_MS = 60_000

export function useMoves(
  search: Search | null,
  fished: readonly Fished[],
  entries: readonly LoggedEntry[],
  tied: string,
): Moves | null {
  const [moves, setMoves] = useState<Moves | null>(null)
  const [minute, setMinute] = useState(0)
  useEffect(() => {
    const timer = setInterval(() => setMinute((n) => n + 1), ASK_AGAIN_MS)
    return () => clearInterval(timer)
  }, [])
  // Long, and the same all day: the page is drawn ten times a second.
  const day = `${search?.dayId} ${search?.tableAt ?? 0}`
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const table = useMemo(() => search && JSON.stringify(search.table), [day])
  const asked = JSON.stringify([
    search?.refused,
    search?.school,
    search?.heard,
    search?.changes,
    search?.mostMin,
    search?.rods,
    fished.map((one) => one.id),
    entries.map((e) => [e.id, e.undone]),
    minute,
    tied,
  ])
  useEffect(() => {
    if (!search || !table) return
    let old = false
    void think(table, logOf(search, fished, entries, Date.now(), tied)).then((answer) => {
      if (!old && answer) setMoves(answer)
    })
    return () => {
      old = true
    }
    // `asked` says when the question is another one.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [table, asked])
  return moves
}
