/** Where a water lies: from the device, from a map, or as coordinates; and with it the clock that is kept there. */
import { useMutation } from '@tanstack/react-query'
import { lazy, Suspense, useId, useState } from 'react'
import { answer, client, Refusal } from '../api/client'
import { clockThere, ZONES } from '../format/zones'
import { Button } from '../ui/Button'
import { CONTROL, Field } from '../ui/Field'
import { Waiting } from '../ui/Notice'

const WorldMap = lazy(() => import('./WorldMap').then((m) => ({ default: m.WorldMap })))

export interface Place {
  latitude_deg: number
  longitude_deg: number
  time_zone: string
}

interface PlaceFieldsProps {
  place: Place | null
  /** What the server would not take of it. */
  error?: string | undefined
  /** A new place; `altitudeM` where its writing told it. */
  onPlaceChange(place: Place, altitudeM: number | null): void
}

interface Asked {
  text: string
  /** On the map. */
  tapped?: boolean
}

const SEEN_MS = 20_000

export function PlaceFields({ place, error, onPlaceChange }: PlaceFieldsProps) {
  const [typed, setTyped] = useState<string | null>(null)
  const [map, setMap] = useState(false)
  const [jumps, setJumps] = useState(0)
  const find = useMutation({
    mutationFn: ({ text }: Asked) => answer(client.GET('/api/place', { params: { query: { text } } })),
    onSuccess: ({ altitude_m, latitude_deg, longitude_deg, time_zone }, { tapped }) => {
      setTyped(null)
      // What was not tapped may lie out of the map's sight.
      if (!tapped) setJumps((before) => before + 1)
      onPlaceChange({ latitude_deg, longitude_deg, time_zone }, altitude_m)
    },
  })
  const here = useMutation({
    mutationFn: whereIAm,
    onSuccess: (text) => find.mutate({ text }),
  })
  const refused = find.error instanceof Refusal ? (find.error.at('text') ?? find.error.message) : undefined
  const shown = typed ?? (place ? degreesAndMinutes(place) : '')
  const take = () => {
    if (typed?.trim()) find.mutate({ text: typed })
  }
  return (
    <fieldset className="space-y-2" aria-busy={find.isPending || here.isPending}>
      <legend className="eyebrow">Where it lies</legend>
      <div className="grid grid-cols-2 gap-3">
        <Button disabled={here.isPending} onClick={() => here.mutate()}>
          {here.isPending ? 'Asking the device…' : 'Where I am'}
        </Button>
        <Button aria-expanded={map} onClick={() => setMap(!map)}>
          {map ? 'Close the map' : 'On a map'}
        </Button>
      </div>
      {here.error && <Said>{here.error.message}</Said>}
      {map && (
        <Suspense fallback={<Waiting what="Unrolling the map…" />}>
          <WorldMap
            key={jumps}
            place={place}
            onPick={(latitude, longitude) =>
              find.mutate({ text: `${latitude.toFixed(4)}, ${longitude.toFixed(4)}`, tapped: true })
            }
          />
        </Suspense>
      )}
      <Field
        label="Or its coordinates"
        error={refused ?? error}
        hint={place ? '' : 'From any map: 61.2, 8.5'}
      >
        {({ id, describedBy, invalid }) => (
          <div className="flex gap-2">
            <input
              id={id}
              className={`${CONTROL} font-semibold`}
              autoComplete="off"
              value={shown}
              aria-invalid={invalid || undefined}
              aria-describedby={describedBy}
              onChange={(event) => {
                setTyped(event.target.value)
                find.reset()
              }}
              onBlur={take}
              onKeyDown={(event) => {
                if (event.key !== 'Enter') return
                event.preventDefault()
                take()
              }}
            />
          </div>
        )}
      </Field>
      {place && (
        <Zone
          zone={place.time_zone}
          onZoneChange={(time_zone) => onPlaceChange({ ...place, time_zone }, null)}
        />
      )}
    </fieldset>
  )
}

function Zone({ zone, onZoneChange }: { zone: string; onZoneChange(zone: string): void }) {
  const known = useId()
  const clock = clockThere(zone)
  return (
    <Field
      label="Time zone, found from the place"
      error={clock ? undefined : 'No such time zone. Choose one of the list.'}
      {...(clock && { hint: `There it is ${clock} now.` })}
    >
      {({ id, describedBy, invalid }) => (
        <>
          <input
            id={id}
            list={known}
            className={`${CONTROL} font-semibold`}
            autoComplete="off"
            value={zone}
            aria-invalid={invalid || undefined}
            aria-describedby={describedBy}
            onChange={(event) => onZoneChange(event.target.value)}
          />
          <datalist id={known}>
            {ZONES.map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </>
      )}
    </Field>
  )
}

function Said({ children }: { children: string }) {
  return (
    <p role="alert" className="text-sm font-semibold text-hot">
      {children}
    </p>
  )
}

/** The device's position as a geo: address; asked for only when wanted. */
function whereIAm(): Promise<string> {
  return new Promise((found, failed) => {
    if (!('geolocation' in navigator)) {
      failed(new Error('This device does not tell its position. Use the map, or type coordinates.'))
      return
    }
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        const altitude = coords.altitude === null ? '' : `,${coords.altitude.toFixed(0)}`
        found(`geo:${coords.latitude.toFixed(5)},${coords.longitude.toFixed(5)}${altitude}`)
      },
      (refusal) =>
        failed(
          new Error(
            refusal.code === refusal.PERMISSION_DENIED
              ? 'The device keeps its position to itself. Use the map, or type coordinates.'
              : 'The device could not find its position. Use the map, or type coordinates.',
          ),
        ),
      { timeout: SEEN_MS, maximumAge: 600_000 },
    )
  })
}

function degreesAndMinutes({ latitude_deg, longitude_deg }: Omit<Place, 'time_zone'>): string {
  const side = (deg: number, letters: string) => {
    const thousandths = Math.round(Math.abs(deg) * 60_000)
    const minutes = ((thousandths % 60_000) / 1000).toFixed(3).padStart(6, '0')
    return `${Math.floor(thousandths / 60_000)}° ${minutes}′ ${letters[deg < 0 ? 1 : 0]}`
  }
  return `${side(latitude_deg, 'NS')} ${side(longitude_deg, 'EW')}`
}
