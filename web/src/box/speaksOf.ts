/** Whether all the words looked for begin a word of what is said. */
export function speaksOf(wanted: string, ...said: readonly string[]): boolean {
  const has = said
    .join(' ')
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
  return wanted
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .every((word) => has.some((one) => one.startsWith(word)))
}
