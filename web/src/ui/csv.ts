/** A table as CSV, as a spreadsheet opens it. */
import { csvFormatRows } from 'd3-dsv'
import { saveAs } from './saveAs'

/** What a spreadsheet would run as a formula is text. */
const plain = (cell: string) => (/^[=+\-@\t\r]/.test(cell) && Number.isNaN(Number(cell)) ? `'${cell}` : cell)

export function saveCsv(name: string, rows: readonly (readonly (string | number | null)[])[]) {
  const text = csvFormatRows(rows.map((row) => row.map((cell) => plain(cell === null ? '' : String(cell)))))
  saveAs(`${name}.csv`, new Blob([text], { type: 'text/csv;charset=utf-8' }))
}
