/** The kinds of entry of a log, as the core's table has them. */
import { ENTRY_KINDS } from '../api/trade'

export type EntryKey = keyof typeof ENTRY_KINDS
type Flag = Exclude<keyof (typeof ENTRY_KINDS)['cast'], 'words'>

const KEYS = Object.keys(ENTRY_KINDS) as EntryKey[]

/** Whether a kind is so: of a cast, a fish, of the water. */
export const isSo = (kind: EntryKey, flag: Flag): boolean => ENTRY_KINDS[kind][flag]

/** The kinds that are so, in the table's order. */
export const kindsThat = (flag: Flag): EntryKey[] => KEYS.filter((kind) => isSo(kind, flag))

export const KIND_WORDS = Object.fromEntries(KEYS.map((kind) => [kind, ENTRY_KINDS[kind].words])) as Record<
  EntryKey,
  string
>

interface Logged {
  kind: EntryKey
}

/** The take of a fish that is still on, as far as the log says; what was seen or told meanwhile says nothing of it. */
export function fishOn<E extends Logged>(entries: readonly E[]): E | null {
  const last = entries.filter(({ kind }) => isSo(kind, 'ofCast')).at(-1)
  return last && isTake(last.kind) ? last : null
}

const isTake = (kind: EntryKey) => isSo(kind, 'fish') && !isSo(kind, 'endsFish')

/** Fish that took: one that is landed or lost after its take was logged is the same one. */
export function fishOf<E extends Logged>(entries: readonly E[]): E[] {
  const own = entries.filter(({ kind }) => isSo(kind, 'ofCast'))
  return own.filter(({ kind }, i) => {
    const before = own[i - 1]
    return isSo(kind, 'fish') && !(isSo(kind, 'endsFish') && before && isTake(before.kind))
  })
}
