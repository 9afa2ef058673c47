/** Change to what the search proposes: begin the next presentation of the day with it. */
import { answer, client, NoConnection, type Schemas } from '../../api/client'
import { useWaters } from '../../queries/hooks'
import type { Fishing, Search } from '../../offline/store'
import { drawnFrom } from '../../search/drawn'
import { startFishing } from './logging'

/** Where the water was not read. */
const USUAL_C = 12

export type Proposed = Schemas['BestOut']

export function useChange(
  fishing: Fishing,
  search: Search | null,
  onTrouble: (error: unknown) => void,
): (best: Proposed) => Promise<void> {
  const waters = useWaters()
  return async (best) => {
    const way = search && wayTo(best, search, fishing)
    const water = waters.data?.items.find(({ id }) => id === fishing.conditions.water_id)
    if (!way || !water) return
    onTrouble(null)
    const { conditions } = fishing
    const bottom = fishing.run.bottom ?? [{ distance_m: 0, depth_m: conditions.bottom_depth_m }]
    try {
      const run = await ran(way, fishing, bottom)
      await startFishing({
        username: fishing.username,
        conditions,
        timeZone: water.time_zone,
        run: { ...(run ?? drawnFrom(fishing.run, way.one)), bottom },
        rough: run === null,
        doing: {
          action: way.action,
          line: way.rig.line,
          fly_names: way.rig.flies.map((placed) => placed.fly.name),
          ladder: fishing.doing.ladder,
        },
        picture: fishing.picture,
        rig: way.rig,
        action: way.action,
        longLeaderOk: true,
        key: best.key,
        ...(best.presentation ? { beside: { method: way.one.method, share: way.one.share } } : {}),
        advice: { standing: 'move', method_key: way.one.method },
      })
    } catch (error) {
      console.error(error)
      onTrouble(error)
    }
  }
}

export interface Way {
  one: Schemas['PresentationIO']
  rig: Schemas['RigIn']
  action: Schemas['DoneOut']['action']
}

/** How it is tied and fished; null where the flies or the rig that it steps from are not known here. */
export function wayTo(best: Proposed, search: Search, fishing: Fishing): Way | null {
  const fish: Partial<Search['fish']> = search.fish
  const known = fish[best.key]
  const one = best.presentation ?? search.table.options.find((option) => option.key === best.key)
  if (known && one) return { one, ...known }
  if (!one || !best.fish) return null
  const like = fish[best.fish.like]?.rig ?? fishing.rig
  const flies = like?.flies.map((placed, i) => {
    const name = one.flies[i]?.name
    const fly = placed.fly.name === name ? placed.fly : name === undefined ? undefined : search.tie?.[name]
    return fly && { ...placed, fly }
  })
  if (!like || !flies || flies.length !== one.flies.length || !flies.every((placed) => placed !== undefined))
    return null
  return { one, rig: { ...like, flies }, action: best.fish.action }
}

/** Its run; null where nobody can be asked for it. */
async function ran(way: Way, fishing: Fishing, bottom: Schemas['CornerIn'][]) {
  const { conditions } = fishing
  try {
    return await answer(
      client.POST('/api/runs', {
        body: {
          bottom,
          water_c: fishing.picture?.profile.water_c[0] ?? USUAL_C,
          weed_m: conditions.weed_m,
          wind_speed_mps: conditions.wind_speed_mps,
          fished: { rig: way.rig, action: way.action },
        },
      }),
    )
  } catch (error) {
    if (error instanceof NoConnection) return null
    throw error
  }
}
