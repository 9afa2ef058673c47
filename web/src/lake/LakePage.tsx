/** A water's own page of warmth: its year, and the weather station that tells of it. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { answer, client, type Water } from '../api/client'
import { dateWords } from '../format/clock'
import { counted } from '../format/units'
import { useAskAgain } from '../queries/api'
import { useWaters } from '../queries/hooks'
import { FileDoor } from '../ui/FileDoor'
import { Trouble, Waiting } from '../ui/Notice'
import { LakeYear } from './LakeYear'
import { useBroughtUp, useLakeYear } from './useLake'

export function LakePage() {
  const { waterId } = useParams()
  const waters = useWaters()
  if (waters.isError) return <Trouble error={waters.error} />
  if (!waters.data) return <Waiting what="Fetching your waters…" />
  const water = waters.data.items.find((one) => String(one.id) === waterId)
  if (!water) return <p className="mx-auto max-w-[1100px] px-4 py-4">There is no such water here.</p>
  return (
    <div className="mx-auto max-w-[1100px] px-4 py-4 lg:px-6">
      <h1 className="plate text-3xl font-bold">{water.name}: the water’s year</h1>
      <p className="max-w-3xl text-soft">
        Worked out hour by hour from the weather since it was last mixed from top to bottom, and pulled to
        whatever you read.{' '}
        <Link to={`/waters/${water.id}`} className="font-semibold text-ink underline underline-offset-4">
          Its chart
        </Link>
      </p>
      <OneLake key={water.id} water={water} />
    </div>
  )
}

function OneLake({ water }: { water: Water }) {
  const brought = useBroughtUp(water.id)
  const year = useLakeYear(water.id, !brought.isPending)
  if (brought.isPending) return <Waiting what="Carrying the lake on by its weather…" />
  if (year.isError) return <Trouble error={year.error} />
  if (!year.data) return <Waiting what="Drawing the year…" />
  return (
    <>
      {brought.error && <Trouble error={brought.error} />}
      {brought.data?.why && <p className="mt-2 text-sm text-soft">{brought.data.why}</p>}
      {year.data.days.length === 0 ? (
        <p className="mt-4 max-w-2xl">
          No weather is known over this water yet. A weather service that the keeper names brings it, or the
          log of a station near by.
        </p>
      ) : (
        <LakeYear year={year.data} water={water} />
      )}
      <StationDoor water={water} />
    </>
  )
}

/** A weather station's log, as CSV. */
function StationDoor({ water }: { water: Water }) {
  const again = useAskAgain()
  const [report, setReport] = useState<string[]>([])
  const bring = useMutation({
    mutationFn: (file: File) => {
      const body = new FormData()
      body.append('file', file, file.name)
      return answer(
        client.POST('/api/waters/{water_id}/weather-files', {
          params: { path: { water_id: water.id } },
          body: body as unknown as { file: string },
          bodySerializer: (value) => value as unknown as FormData,
        }),
      )
    },
    onSuccess: async (told) => {
      const what = `${counted(told.days, 'day', 'days')} of weather taken in, from ${dateWords(told.first)} on.`
      setReport([what, ...told.notes])
      await again('/api/waters/{water_id}/lake-year', '/api/pictures', '/api/choices', '/api/day-strips')
    },
  })
  return (
    <div className="mt-6 border-t-2 border-ink pt-2">
      <h2 className="plate text-xl font-bold">A weather station near by</h2>
      <p className="max-w-3xl text-soft">
        Its log as CSV: a column of time, and any of air, wind, humidity, cloud, sunlight and pressure, with
        the unit in each name, such as <code>time,air_c,wind_kmh,humidity_pct</code>. It counts before the
        weather service. Of a reservoir it may tell what flows through, too: <code>inflow_m3s</code>,{' '}
        <code>inflow_c</code>, <code>outlet_m</code> (how deep the outlet lies) and <code>drawn_down_m</code>{' '}
        (how far below full it stands); a level or a flow holds until the next one.
      </p>
      <FileDoor
        accept=".csv,text/csv"
        className="mt-2"
        onFile={(file) => {
          setReport([])
          bring.mutate(file)
        }}
      >
        Take in a station’s log
      </FileDoor>
      {bring.isPending && <p role="status">Taking it in…</p>}
      {report.length > 0 && (
        <ul role="status" className="mt-1">
          {report.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {bring.error && <Trouble error={bring.error} />}
    </div>
  )
}
