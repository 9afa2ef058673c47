/** What was read as the day began, put right: what stood there before is kept. */
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client, type Conditions, type Day } from '../../api/client'
import { SKIES } from '../../format/skies'
import { COMPASS, sky } from '../../format/units'
import { useAskAgain } from '../../queries/api'
import { Button } from '../../ui/Button'
import { ChoiceField, QuantityField } from '../../ui/Field'
import { Trouble } from '../../ui/Notice'
import { within } from '../../api/within'

export function DayRead({ day }: { day: Day }) {
  const [open, setOpen] = useState(false)
  return (
    <details className="screen-only mt-2" open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="flex min-h-11 cursor-pointer items-center text-sm font-semibold underline underline-offset-4">
        Put right what was read
      </summary>
      {open && <ReadAgain day={day} onDone={() => setOpen(false)} />}
    </details>
  )
}

function ReadAgain({ day, onDone }: { day: Day; onDone(): void }) {
  const again = useAskAgain()
  const [read, setRead] = useState<Conditions>(day.conditions)
  const change = (changes: Partial<Conditions>) => setRead({ ...read, ...changes })
  const top = read.readings.find((reading) => reading.depth_m === 0)
  const save = useMutation({
    mutationFn: () =>
      answer(
        client.PATCH('/api/days/{day_id}', {
          params: { path: { day_id: day.id } },
          body: { conditions: { ...read, assumed: stillAssumed(day.conditions, read) } },
        }),
      ),
    onSuccess: async () => {
      await again('/api/days/{day_id}', '/api/days/{day_id}/changes')
      onDone()
    },
  })
  const nearest = COMPASS.reduce((a, b) => (apart(b.deg, read) < apart(a.deg, read) ? b : a))
  const sunny = SKIES.map(({ share }) => share).reduce<number>(
    (a, b) => (off(b, read) < off(a, read) ? b : a),
    0,
  )
  return (
    <div className="grid grid-cols-2 items-end gap-2 border-2 border-ink bg-sheet p-3 sm:grid-cols-3">
      {top && (
        <QuantityField
          label="Top of the water"
          quantity="temperature"
          value={top.water_c}
          {...within('ReadingIn', 'water_c')}
          onValueChange={(water_c) =>
            change({ readings: read.readings.map((one) => (one === top ? { ...one, water_c } : one)) })
          }
        />
      )}
      <QuantityField
        label="Wind"
        quantity="wind"
        value={read.wind_speed_mps}
        {...within('ConditionsIn', 'wind_speed_mps')}
        onValueChange={(wind_speed_mps) => change({ wind_speed_mps })}
      />
      <ChoiceField
        label="Wind from"
        value={String(nearest.deg)}
        options={COMPASS.map((point) => ({ value: String(point.deg), text: point.name }))}
        onValueChange={(deg) => change({ wind_from_deg: Number(deg) })}
      />
      <ChoiceField
        label="Sky"
        value={String(sunny)}
        options={SKIES.map(({ value, share }) => ({ value, text: sky(share) }))}
        onValueChange={(share) => change({ cloud_fraction: Number(share) })}
      />
      <QuantityField
        label="Seen down to"
        quantity="depth"
        value={read.secchi_m}
        {...within('ConditionsIn', 'secchi_m')}
        onValueChange={(secchi_m) => change({ secchi_m })}
      />
      <QuantityField
        label="Bottom"
        quantity="depth"
        value={read.bottom_depth_m}
        {...within('ConditionsIn', 'bottom_depth_m')}
        onValueChange={(bottom_depth_m) => change({ bottom_depth_m })}
      />
      <div className="col-span-full">
        <Button look="hot" disabled={save.isPending} onClick={() => save.mutate()}>
          Keep what was read
        </Button>
      </div>
      {save.error && (
        <div className="col-span-full">
          <Trouble error={save.error} />
        </div>
      )}
    </div>
  )
}

/** What nobody read and nobody has put right now. */
function stillAssumed(before: Conditions, now: Conditions): NonNullable<Conditions['assumed']> {
  return before.assumed.filter((name) =>
    name === 'surface_c' ? before.readings === now.readings : before[name] === now[name],
  )
}

const apart = (deg: number, { wind_from_deg: from }: Conditions) => Math.abs(((deg - from + 540) % 360) - 180)
const off = (share: number, { cloud_fraction: cloud }: Conditions) => Math.abs(share - cloud)
