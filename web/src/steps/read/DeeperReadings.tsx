/** Readings below the surface: typed row by row, pasted, or from a file. */
import { useId, useState } from 'react'
import { answer, client } from '../../api/client'
import { scaleOf } from '../../format/units'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'
import { CONTROL } from '../../ui/Field'
import { EMPTY, readRows, rowsOf, type Oxygen, type Reading, type Row } from './rows'

export interface DeeperReadingsProps {
  readings: readonly Reading[]
  oxygen: readonly Oxygen[]
  open: boolean
  onOpenChange(open: boolean): void
  error?: string | undefined
  /** All readings below the surface, and oxygen at any depth; a file also brings its surface temperature [C]. */
  onReadingsChange(readings: Reading[], oxygen: Oxygen[], surfaceC?: number): void
}

/** The header's units win unless the angler says what the columns hold. */
const FILE_UNITS = {
  header: { text: 'units as its header says', depth: '', temperature: '' },
  metric: { text: 'in m and °C', depth: 'm', temperature: 'C' },
  feet: { text: 'in ft and °F', depth: 'ft', temperature: 'F' },
  mixed: { text: 'in ft and °C', depth: 'ft', temperature: 'C' },
  other: { text: 'in m and °F', depth: 'm', temperature: 'F' },
} as const
type FileUnits = keyof typeof FILE_UNITS

export function DeeperReadings({
  readings,
  oxygen,
  open,
  onOpenChange,
  error,
  onReadingsChange,
}: DeeperReadingsProps) {
  const units = useUnits()
  const id = useId()
  const [rows, setRows] = useState<Row[]>(() => [...rowsOf(readings, oxygen, units), EMPTY])
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const [report, setReport] = useState<string | null>(null)
  const [fileUnits, setFileUnits] = useState<FileUnits>('header')

  function type(at: number, change: Partial<Row>) {
    const next = rows.map((row, i) => (i === at ? { ...row, ...change } : row))
    if (next.at(-1)?.depth) next.push(EMPTY)
    setRows(next)
    const { readings: good, oxygen: breathed, message } = readRows(next, readings, units, oxygen)
    setProblem(message)
    if (!message) onReadingsChange(good, breathed)
  }

  async function send(file: Blob) {
    setReport(null)
    const body = new FormData()
    body.append('file', file, 'profile.csv')
    const chosen = FILE_UNITS[fileUnits]
    if (chosen.depth) body.append('depth_unit', chosen.depth)
    if (chosen.temperature) body.append('temperature_unit', chosen.temperature)
    try {
      const found = await answer(
        client.POST('/api/profile-files', {
          body: body as unknown as { file: string },
          bodySerializer: (value) => value as unknown as FormData,
        }),
      )
      const surface = found.readings.find((r) => r.depth_m <= 0.3)
      const deeper = found.readings.filter((r) => r !== surface && r.depth_m > 0)
      onReadingsChange(deeper, found.oxygen, surface?.water_c)
      setRows([...rowsOf(deeper, found.oxygen, units), EMPTY])
      setProblem(null)
      setText('')
      setReport([`${found.readings.length} readings taken over.`, ...found.notes].join(' '))
    } catch (failure) {
      setProblem(failure instanceof Error ? failure.message : 'The file could not be read.')
    }
  }

  if (!open) {
    return (
      <Button className="w-full" onClick={() => onOpenChange(true)} aria-expanded={false}>
        {readings.length > 0
          ? `Readings down the column: ${readings.length}`
          : 'Add readings down the column'}
      </Button>
    )
  }
  const message = problem ?? error
  return (
    <fieldset className="border-t-2 border-ink pt-2" aria-describedby={message ? `${id}-problem` : undefined}>
      <legend className="sr-only">Readings down the column</legend>
      <div className="flex items-baseline justify-between">
        <p className="eyebrow">Down the column</p>
        <button
          type="button"
          className="text-sm underline underline-offset-4"
          onClick={() => {
            setRows([EMPTY])
            setProblem(null)
            onReadingsChange([], [])
          }}
        >
          Clear
        </button>
      </div>
      <ReadingRows rows={rows} onType={type} />
      <ProfileDoor
        text={text}
        fileUnits={fileUnits}
        onTextChange={setText}
        onUnitsChange={setFileUnits}
        onSend={(file) => void send(file)}
      />
      {message && (
        <p id={`${id}-problem`} role="alert" className="mt-1 text-sm font-semibold text-hot">
          {message}
        </p>
      )}
      {report && !message && (
        <p role="status" className="mt-1 text-sm text-soft">
          {report}
        </p>
      )}
    </fieldset>
  )
}

interface ReadingRowsProps {
  rows: readonly Row[]
  onType(at: number, change: Partial<Row>): void
}

function ReadingRows({ rows, onType }: ReadingRowsProps) {
  const units = useUnits()
  const [depthUnit, temperatureUnit] = [scaleOf('depth', units).label, scaleOf('temperature', units).label]
  return (
    <>
      <p aria-hidden="true" className="grid grid-cols-3 gap-2 pr-1 text-sm text-soft">
        <span>depth, {depthUnit}</span>
        <span>temp., {temperatureUnit}</span>
        <span>oxygen, mg/L</span>
      </p>
      <div
        className="max-h-[9.6rem] overflow-y-auto border-y border-rule py-1 pr-1"
        role="group"
        tabIndex={0}
        aria-label="Readings, scrolls"
      >
        {rows.map((row, i) => (
          <div key={i} className="mb-1 grid grid-cols-3 gap-2 last:mb-0">
            <input
              aria-label={`Depth ${i + 1} in ${depthUnit}`}
              className={`${CONTROL} h-9!`}
              inputMode="decimal"
              value={row.depth}
              onChange={(event) => onType(i, { depth: event.target.value })}
            />
            <input
              aria-label={`Temperature ${i + 1} in ${temperatureUnit}`}
              className={`${CONTROL} h-9!`}
              inputMode="decimal"
              value={row.temperature}
              onChange={(event) => onType(i, { temperature: event.target.value })}
            />
            <input
              aria-label={`Oxygen ${i + 1} in mg/L, if measured`}
              className={`${CONTROL} h-9!`}
              inputMode="decimal"
              value={row.oxygen}
              onChange={(event) => onType(i, { oxygen: event.target.value })}
            />
          </div>
        ))}
      </div>
    </>
  )
}

interface ProfileDoorProps {
  text: string
  fileUnits: FileUnits
  onTextChange(text: string): void
  onUnitsChange(units: FileUnits): void
  onSend(file: Blob): void
}

/** Where a profile comes in that was pasted, or lies in a file. */
function ProfileDoor({ text, fileUnits, onTextChange, onUnitsChange, onSend }: ProfileDoorProps) {
  return (
    <>
      <div className="mt-2 grid grid-cols-[1fr_auto] gap-2">
        <textarea
          aria-label="Paste a profile as CSV"
          placeholder="or paste CSV: depth_m,water_c …"
          rows={1}
          className={`${CONTROL} py-1.5 text-sm`}
          value={text}
          onChange={(event) => onTextChange(event.target.value)}
        />
        {text.trim() ? (
          <Button onClick={() => onSend(new Blob([text], { type: 'text/csv' }))}>Take over</Button>
        ) : (
          <label className="flex min-h-11 cursor-pointer items-center border-2 border-ink bg-sheet px-4 font-semibold focus-within:outline-3 focus-within:outline-hot">
            CSV file
            <input
              type="file"
              accept=".csv,.txt,text/csv,text/plain"
              className="sr-only"
              onChange={(event) => {
                const file = event.target.files?.[0]
                event.target.value = ''
                if (file) onSend(file)
              }}
            />
          </label>
        )}
      </div>
      <select
        aria-label="Units of the file or the pasted text"
        className="mt-1 h-9 w-full border-b-2 border-ink bg-transparent text-sm font-semibold"
        value={fileUnits}
        onChange={(event) => onUnitsChange(event.target.value as FileUnits)}
      >
        {Object.entries(FILE_UNITS).map(([value, { text }]) => (
          <option key={value} value={value}>
            CSV {text}
          </option>
        ))}
      </select>
    </>
  )
}
