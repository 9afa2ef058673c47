/** The world in outline, to say where a water lies by a click: shores and borders, a graticule, no tiles. */
import { useQuery } from '@tanstack/react-query'
import { geoGraticule10, geoMercator, geoPath, type GeoPermissibleObjects } from 'd3-geo'
import { useMemo, useState } from 'react'
import { feature, mesh } from 'topojson-client'
import type { GeometryCollection, Topology } from 'topojson-specification'
import outlines from 'world-atlas/countries-50m.json?url'
import { useGrip } from '../map/useGrip'
import { viewOf, zoomed, type Frame, type Point } from '../map/view'
import { useWidth } from '../column/useWidth'
import { distance } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Trouble, Waiting } from '../ui/Notice'

type World = Topology<{ countries: GeometryCollection; land: GeometryCollection }>

const HEIGHT = 300
/** The map's sheet: Mercator, so that shapes are right where one looks, on a globe of this radius, y upward. */
const RADIUS = 1000
const WIDTH = 2 * Math.PI * RADIUS
const SHEET = geoMercator().scale(RADIUS).translate([0, 0])
const EARTH_KM = 6371
/** How well a finger or a mouse hits. */
const HIT_PX = 4

interface WorldMapProps {
  place: { latitude_deg: number; longitude_deg: number } | null
  onPick(latitudeDeg: number, longitudeDeg: number): void
}

export function WorldMap({ place, onPick }: WorldMapProps) {
  const units = useUnits()
  const [ref, width] = useWidth()
  const [moved, setMoved] = useState<Frame | null>(null)
  const world = useQuery({
    queryKey: ['world', outlines],
    queryFn: async () => (await (await fetch(outlines)).json()) as World,
    staleTime: Infinity,
  })
  const paths = useMemo(() => world.data && drawn(world.data), [world.data])
  const at = place && on(place)
  const first: Frame = at
    ? { middle: at, pxPerM: 0.6 }
    : { middle: { x: 0, y: 350 }, pxPerM: Math.max(width, 1) / WIDTH }
  const frame = moved ?? first
  const view = viewOf(frame.middle, frame.pxPerM, width, HEIGHT)
  const move = (next: Frame) => setMoved({ ...next, pxPerM: Math.max(next.pxPerM, width / WIDTH) })
  const pick = ({ x, y }: Point) => {
    const [longitude, latitude] = SHEET.invert?.([x, -y]) ?? [0, 0]
    if (Math.abs(latitude) <= 85 && Math.abs(longitude) <= 180) onPick(latitude, longitude)
  }
  const grip = useGrip(view, move, pick)
  const [, latitude = 0] = SHEET.invert?.([frame.middle.x, -frame.middle.y]) ?? []
  const kmPerPx = (EARTH_KM / RADIUS / frame.pxPerM) * Math.cos((latitude * Math.PI) / 180)
  if (world.isError) return <Trouble error={world.error} />
  return (
    <div>
      <div ref={ref} className="border-y-2 border-ink">
        {!paths && <Waiting what="Unrolling the map…" />}
        {paths && width > 0 && (
          <svg
            width={width}
            height={HEIGHT}
            role="img"
            aria-label="Map of the world. A click takes the place; coordinates can be typed below it."
            className="block cursor-crosshair touch-none bg-(--water-light)"
            {...grip}
          >
            <g
              transform={`translate(${width / 2 - frame.middle.x * frame.pxPerM} ${HEIGHT / 2 + frame.middle.y * frame.pxPerM}) scale(${frame.pxPerM})`}
              fill="none"
            >
              <path
                d={paths.land}
                fill="var(--paper)"
                stroke="var(--ink)"
                vectorEffect="non-scaling-stroke"
              />
              <path
                d={paths.graticule}
                stroke="var(--ink)"
                strokeOpacity={0.25}
                vectorEffect="non-scaling-stroke"
              />
              <path
                d={paths.borders}
                stroke="var(--soft)"
                strokeDasharray="4 3"
                vectorEffect="non-scaling-stroke"
              />
            </g>
            {at && (
              <g transform={`translate(${view.left(at.x)} ${view.top(at.y)})`} aria-hidden="true">
                <circle r={9} fill="none" stroke="var(--sheet)" strokeWidth={5} />
                <circle r={9} fill="none" stroke="var(--hot)" strokeWidth={2.5} />
                <path d="M-14 0H14M0 -14V14" stroke="var(--hot)" strokeWidth={1.5} />
              </g>
            )}
          </svg>
        )}
      </div>
      <div className="mt-1 flex items-center gap-2">
        <Button aria-label="Nearer" onClick={() => move(zoomed(frame, 3, frame.middle))}>
          +
        </Button>
        <Button aria-label="Farther" onClick={() => move(zoomed(frame, 1 / 3, frame.middle))}>
          −
        </Button>
        <p className="text-sm text-soft">
          Drag it, zoom in, and tap the water: here a tap is good to{' '}
          {distance(HIT_PX * kmPerPx * 1000, units)}.
        </p>
      </div>
    </div>
  )
}

function on({ latitude_deg, longitude_deg }: NonNullable<WorldMapProps['place']>): Point {
  const [x, y] = SHEET([longitude_deg, Math.min(Math.max(latitude_deg, -85), 85)]) ?? [0, 0]
  return { x, y: -y }
}

function drawn(world: World): { land: string; borders: string; graticule: string } {
  const path = geoPath(SHEET).digits(2)
  const line = (shape: GeoPermissibleObjects) => path(shape) ?? ''
  return {
    land: line(feature(world, world.objects.land)),
    borders: line(mesh(world, world.objects.countries, (a, b) => a !== b)),
    graticule: line(geoGraticule10()),
  }
}
