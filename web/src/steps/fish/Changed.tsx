/** The water has changed: two taps say how. What was learnt goes on; what no longer holds fades to the new reading. */
import { useState } from 'react'
import { answer, client, Refusal, type Conditions } from '../../api/client'
import { SKIES } from '../../format/skies'
import { format } from '../../format/units'
import { store, written, type Fishing, type Search } from '../../offline/store'
import { withRead, without } from '../../state/readings'
import { useTrade } from '../../queries/hooks'
import { useUnits } from '../../state/person'
import { Button } from '../../ui/Button'

const WINDS_MPS = [0.5, 2, 4, 6, 9] as const
const STEPS_C = [-2, -1, -0.5, 0.5, 1, 2] as const
const CLEAR_M = [0.5, 1, 1.5, 2.5, 3.5, 5] as const
const DEEPER_M = [-3, -2, -1, 1, 2, 3] as const
const LEAST_BOTTOM_M = 1
type What = 'Wind' | 'Sky' | 'Water' | 'Clarity' | 'Depth' | 'Sign' | 'Eaten'
const WHATS: readonly What[] = ['Wind', 'Sky', 'Water', 'Clarity', 'Depth', 'Sign', 'Eaten']
/** Of one food, where nobody counted. */
const SEVERAL = 6

interface ChangedProps {
  fishing: Fishing
  search: Search
}

export function Changed({ fishing, search }: ChangedProps) {
  const units = useUnits()
  const trade = useTrade()
  const [what, setWhat] = useState<What | null>(null)
  const { conditions } = fishing
  const surface = [...(fishing.picture?.readings ?? conditions.readings)].sort(
    (a, b) => a.depth_m - b.depth_m,
  )[0]
  const last = (search.changes ?? []).at(-1)
  const save = (said: string, changes: Partial<Conditions>) => {
    setWhat(null)
    void changeWater(fishing, search, said, changes)
  }
  const choices: { text: string; changes: Partial<Conditions> }[] = []
  if (what === 'Wind')
    choices.push(
      ...WINDS_MPS.map((ms) => ({ text: format('wind', ms, units), changes: { wind_speed_mps: ms } })),
    )
  if (what === 'Sky')
    choices.push(...SKIES.map(({ text, share }) => ({ text, changes: { cloud_fraction: share } })))
  if (what === 'Clarity')
    choices.push(...CLEAR_M.map((m) => ({ text: format('depth', m, units), changes: { secchi_m: m } })))
  if (what === 'Depth')
    choices.push(
      ...DEEPER_M.map((by) => conditions.bottom_depth_m + by)
        .filter((m) => m >= LEAST_BOTTOM_M)
        .map((m) => ({ text: format('depth', m, units), changes: { bottom_depth_m: m } })),
    )
  if (what === 'Water' && surface)
    choices.push(
      ...STEPS_C.map((by) => surface.water_c + by)
        .filter((c) => c >= 0 && c <= 30)
        .map((c) => ({
          text: format('temperature', c, units),
          changes: {
            // The whole lowering is older than this: what lies below is worked out from the top again.
            readings: [{ depth_m: surface.depth_m, water_c: c, trusted: false }],
            earlier: [],
            assumed: without(conditions.assumed, 'surface_c'),
          },
        })),
    )
  if (what === 'Sign')
    choices.push(
      ...(trade.data?.signs ?? []).map(({ key, name }) => ({
        text: name,
        changes: { signs: [...new Set([...conditions.signs, key])] },
      })),
    )
  if (what === 'Eaten')
    choices.push(
      ...(trade.data?.foods ?? [])
        .filter(({ key }) => key !== 'attractor')
        .map(({ key, name }) => ({
          text: name,
          changes: {
            sample: { items: [{ food_key: key, count: SEVERAL, size_mm: null, colour: '' }], age_h: 0 },
          },
        })),
    )
  return (
    <section aria-label="Water changed" className="space-y-1">
      <div className="flex items-center gap-2 text-sm">
        <span className="shrink-0 font-semibold">Changed?</span>
        <div className="grid grow grid-cols-4 gap-1.5">
          {WHATS.map((one) => (
            <Button
              key={one}
              className={`min-h-12 px-1 text-sm ${what === one ? 'bg-ink! text-paper' : ''}`}
              aria-expanded={what === one}
              onClick={() => setWhat(what === one ? null : one)}
            >
              {one}
            </Button>
          ))}
        </div>
      </div>
      {what && (
        <div className="grid grid-cols-3 gap-2" role="group" aria-label={`${what} now`}>
          {choices.map(({ text, changes }) => (
            <Button
              key={text}
              className="min-h-12 px-1 text-sm leading-tight"
              onClick={() => save(`${what}: ${text}`, changes)}
            >
              {text}
            </Button>
          ))}
        </div>
      )}
      {last && (
        <p className="text-sm" role="status">
          {last.what}.{' '}
          {last.stated
            ? 'The water is read anew.'
            : (last.refused ?? 'No connection: what was learnt counts less until the water is read anew.')}
        </p>
      )}
    </section>
  )
}

/** Keep the change on the device at once; then ask for the water's new reading, where it can be asked for. */
async function changeWater(fishing: Fishing, search: Search, what: string, changes: Partial<Conditions>) {
  const conditions = withRead(fishing.conditions, {
    ...changes,
    read_at_local: new Date().toISOString(),
  })
  const change = { at: Date.now(), what, stated: null, wanted: null }
  await written(() =>
    store.transaction('rw', store.fishing, store.searches, async () => {
      await store.fishing.update('now', { conditions })
      const now = await store.searches.get(search.dayId)
      await store.searches.update(search.dayId, { changes: [...(now?.changes ?? []), change] })
    }),
  )
  if (!search.asked) return
  const body = { ...search.asked, conditions: { ...conditions, at_local: new Date().toISOString() } }
  try {
    const { table, fish } = await answer(client.POST('/api/searches', { body }))
    await written(() =>
      store.transaction('rw', store.searches, async () => {
        const now = await store.searches.get(search.dayId)
        if (!now) return
        const { grid } = now.table
        const { stated, wanted, centres_m: centresM, rate_pmin: ratePmin } = table.grid
        // What each could be met by was worked out for a bottom and for how far they rise: either may have changed.
        const fits = alike(centresM, grid.centres_m) && alike(table.grid.reaches_m, grid.reaches_m)
        await store.searches.update(search.dayId, {
          changes: (now.changes ?? []).map((one) =>
            one.at === change.at ? { ...one, stated, wanted, centresM, ratePmin } : one,
          ),
          // The grid stays that with which the day began: what was learnt stands on it.
          table: {
            ...now.table,
            options: fits ? table.options : table.options.map((one) => ({ ...one, met: {} })),
            flies: { ...now.table.flies, ...table.flies },
          },
          tableAt: change.at,
          fish: { ...now.fish, ...fish },
        })
      }),
    )
  } catch (error) {
    if (!(error instanceof Refusal)) return
    const now = await store.searches.get(search.dayId)
    await store.searches.update(search.dayId, {
      changes: (now?.changes ?? []).map((one) =>
        one.at === change.at ? { ...one, refused: error.message } : one,
      ),
    })
  }
}

function alike(a: readonly number[], b: readonly number[]): boolean {
  return a.length === b.length && a.every((x, i) => Math.abs(x - (b[i] ?? NaN)) < 1e-6)
}
