/** Give the angler a file. */
export function saveAs(name: string, what: Blob) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(what)
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}
