/** The search's own next moves if nothing came, rung by rung: a tap that is thought about meanwhile waits for one rung at most. */
import { useEffect, useState } from 'react'
import type { Schemas } from '../api/client'
import type { DayLogged } from './log'
import { nextRung, type RungAhead } from './thinker'

export interface Ahead {
  /** Tells one question from another: what is tied on, what has come, the school. */
  of: string
  table: Schemas['SearchOut']['table']
  log(): DayLogged
}

interface Found {
  of: string
  rungs: readonly RungAhead[]
  done: boolean
}

/** `wanted` once somebody looks; null until then, and without a table. */
export function useWhenNothing(ahead: Ahead | null, wanted: boolean): Omit<Found, 'of'> | null {
  const [found, setFound] = useState<Found | null>(null)
  const asked = ahead && wanted ? ahead.of : null
  useEffect(() => {
    if (!ahead || asked === null) return
    let old = false
    const table = JSON.stringify(ahead.table)
    const log = ahead.log()
    const climb = async () => {
      const rungs: RungAhead[] = []
      for (;;) {
        const rung = await nextRung(table, log, rungs)
        if (old) return
        if (rung) rungs.push(rung)
        setFound({ of: asked, rungs: [...rungs], done: rung === null })
        if (!rung) return
      }
    }
    void climb()
    return () => {
      old = true
    }
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asked])
  return found && found.of === asked ? found : null
}

export interface Step {
  /** How long it is fished before the next; null for the last. */
  minutes: number | null
  words: RungAhead['words']
}

/** What is fished in turn, each for its minutes: `first` is what is tied on. */
export function stepsOf(first: RungAhead['words'], rungs: readonly RungAhead[]): Step[] {
  const words = [first, ...rungs.map((rung) => rung.words)]
  return words.map((one, i) => ({ minutes: rungs[i]?.minutes ?? null, words: one }))
}
