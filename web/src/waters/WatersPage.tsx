/** Waters: where they lie and how they usually are. */
import { useState } from 'react'
import { Link } from 'react-router'
import type { Water } from '../api/client'
import { useWaters } from '../queries/hooks'
import { distance, toShown, type Units } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { Trouble, Waiting } from '../ui/Notice'
import { WaterForm } from '../lake/WaterForm'

export function WatersPage() {
  const waters = useWaters()
  const units = useUnits()
  const [editing, setEditing] = useState<Water | 'new' | null>(null)
  if (waters.isError) return <Trouble error={waters.error} />
  if (!waters.data) return <Waiting what="Fetching your waters…" />
  const shown = editing ?? (waters.data.items.length === 0 ? 'new' : null)
  return (
    <div className="mx-auto grid max-w-[1100px] grid-cols-[minmax(0,1fr)] gap-8 px-4 py-4 lg:grid-cols-2 lg:px-6">
      <section>
        <h1 className="plate text-3xl font-bold">Waters</h1>
        <ul className="mt-3">
          {waters.data.items.map((water) => (
            <li
              key={water.id}
              className="flex flex-wrap items-start justify-between gap-x-4 gap-y-2 border-t-2 border-ink py-3"
            >
              <div className="min-w-0 grow basis-48">
                <h2 className="plate text-xl font-bold">
                  <Link to={`/waters/${water.id}`} className="underline decoration-2 underline-offset-4">
                    {water.name}
                  </Link>
                </h2>
                <p className="text-soft">
                  {degrees(water.latitude_deg, 'N', 'S')} {degrees(water.longitude_deg, 'E', 'W')} ·{' '}
                  {altitude(water.altitude_m, units)} up · open for {distance(1000 * water.fetch_km, units)}
                </p>
                {water.notes && <p>{water.notes}</p>}
                <p className="text-sm text-soft">{water.rule_words.join(' ')}</p>
                <p>
                  <Link
                    to={`/waters/${water.id}/year`}
                    className="font-semibold underline underline-offset-4"
                  >
                    The water’s year<span className="sr-only"> of {water.name}</span>
                  </Link>
                </p>
                {!water.has_outline && <p className="text-sm">No chart yet: open it to draw the shore.</p>}
              </div>
              <Button aria-label={`Change ${water.name}`} onClick={() => setEditing(water)}>
                Change
              </Button>
            </li>
          ))}
        </ul>
        <Button className="mt-2" onClick={() => setEditing('new')}>
          Add a water
        </Button>
        <p className="mt-3">
          <Link to="/instruments" className="font-semibold underline underline-offset-4">
            Sounder, thermometer, weather station
          </Link>
        </p>
      </section>
      {shown && (
        <WaterForm
          key={shown === 'new' ? 'new' : shown.id}
          water={shown === 'new' ? null : shown}
          onDone={() => setEditing(null)}
        />
      )}
    </div>
  )
}

function altitude(m: number, units: Units): string {
  return `${Math.round(toShown('depth', m, units))} ${units.depth_unit}`
}

function degrees(deg: number, plus: string, minus: string): string {
  return `${Math.abs(deg).toFixed(1)}° ${deg < 0 ? minus : plus}`
}
