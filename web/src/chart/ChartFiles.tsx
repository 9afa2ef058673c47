/** Bring charts in, with a bar that shows how far it has come, and take them out. */
import { useState } from 'react'
import { csrfToken, Refusal, type Schemas } from '../api/client'
import { CONTROL } from '../ui/Field'

interface ChartFilesProps {
  waterId: number
  onTaken(): void
}

type Progress = { share: number; what: string } | null

/** The one request that shows its progress: `fetch` can't. */
function upload(
  waterId: number,
  body: FormData,
  onProgress: (share: number) => void,
): Promise<Schemas['ChartFileOut']> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', `/api/waters/${waterId}/chart-files`)
    request.setRequestHeader('X-CSRFToken', csrfToken())
    request.responseType = 'json'
    request.upload.onprogress = (event) => event.lengthComputable && onProgress(event.loaded / event.total)
    request.onerror = () => reject(new Error('No connection. Nothing was changed; try again.'))
    request.onload = () => {
      const answer = request.response as (Schemas['ChartFileOut'] & Schemas['Problem']) | null
      if (request.status < 300 && answer) resolve(answer)
      else
        reject(
          new Refusal(
            request.status,
            answer?.code ?? '',
            answer?.detail ?? 'The server could not answer.',
            answer?.fields ?? {},
          ),
        )
    }
    request.send(body)
  })
}

export function ChartFiles({ waterId, onTaken }: ChartFilesProps) {
  const [progress, setProgress] = useState<Progress>(null)
  const [report, setReport] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [unit, setUnit] = useState('')
  const [epsg, setEpsg] = useState('')
  const [asksGrid, setAsksGrid] = useState(false)

  async function send(file: File) {
    setReport(null)
    setProblem(null)
    const body = new FormData()
    body.append('file', file, file.name)
    if (unit) body.append('depth_unit', unit)
    if (epsg.trim()) body.append('epsg', epsg.trim())
    setProgress({ share: 0, what: 'Sending…' })
    try {
      const told = await upload(waterId, body, (share) =>
        setProgress({ share: 0.7 * share, what: share < 1 ? 'Sending…' : 'Drawing the bottom…' }),
      )
      setReport(
        [
          told.outline && 'Outline taken over.',
          told.soundings > 0 && `${told.soundings.toLocaleString('en')} soundings.`,
          told.marks_added + told.marks_changed > 0 &&
            `${told.marks_added} marks new, ${told.marks_changed} changed.`,
          ...told.notes,
        ]
          .filter(Boolean)
          .join(' '),
      )
      setAsksGrid(false)
      onTaken()
    } catch (failure) {
      setAsksGrid(failure instanceof Refusal && 'epsg' in failure.fields)
      setProblem(failure instanceof Error ? failure.message : 'The file could not be read.')
    } finally {
      setProgress(null)
    }
  }

  return (
    <section aria-label="Chart files" className="space-y-2 text-sm">
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex min-h-11 cursor-pointer items-center border-2 border-ink bg-sheet px-3 text-base font-semibold focus-within:outline-3 focus-within:outline-hot">
          Bring in a file
          <input
            type="file"
            accept=".geojson,.json,.gpx,.csv,.txt,.nmea,.log"
            className="sr-only"
            disabled={progress !== null}
            onChange={(event) => {
              const file = event.target.files?.[0]
              event.target.value = ''
              if (file) void send(file)
            }}
          />
        </label>
        <select
          aria-label="Unit of depths in a CSV"
          className="h-9 border-b-2 border-ink bg-transparent font-semibold"
          value={unit}
          onChange={(event) => setUnit(event.target.value)}
        >
          <option value="">depths as its header says</option>
          <option value="m">depths in m</option>
          <option value="ft">depths in ft</option>
        </select>
      </div>
      {asksGrid && (
        <label className="block">
          EPSG code of the map grid of x and y
          <input
            className={`${CONTROL} mt-1`}
            inputMode="numeric"
            value={epsg}
            onChange={(event) => setEpsg(event.target.value)}
          />
        </label>
      )}
      {progress && (
        <div>
          <progress
            className="h-3 w-full accent-(--ink)"
            value={progress.share}
            max={1}
            aria-label={progress.what}
          />
          <p role="status">{progress.what}</p>
        </div>
      )}
      {report && <p role="status">{report}</p>}
      {problem && (
        <p role="alert" className="font-semibold text-hot">
          {problem}
        </p>
      )}
      <p className="text-soft">
        GeoJSON, GPX waypoints, CSV of lon, lat, depth, or a sounder’s NMEA log. Save{' '}
        <a
          className="text-ink underline underline-offset-4"
          href={`/api/waters/${waterId}/chart.geojson`}
          download
        >
          the chart
        </a>{' '}
        or{' '}
        <a
          className="text-ink underline underline-offset-4"
          href={`/api/waters/${waterId}/marks.gpx`}
          download
        >
          the marks
        </a>
        .
      </p>
    </section>
  )
}
