/** Change to what the search proposes: begin the next presentation of the day with it. */
import { answer, client } from '../../api/client'
import { useWaters } from '../../queries/hooks'
import type { Fishing, Search } from '../../offline/store'
import { startFishing } from './logging'

/** Where the water was not read. */
const USUAL_C = 12

export function useChange(
  fishing: Fishing,
  search: Search | null,
  onTrouble: (error: unknown) => void,
): (key: string) => Promise<void> {
  const waters = useWaters()
  return async (key) => {
    const way = search?.fish[key]
    const one = search?.table.options.find((option) => option.key === key)
    const water = waters.data?.items.find(({ id }) => id === fishing.conditions.water_id)
    if (!way || !one || !water) return
    onTrouble(null)
    const { conditions } = fishing
    const bottom = fishing.run.bottom ?? [{ distance_m: 0, depth_m: conditions.bottom_depth_m }]
    try {
      const run = await answer(
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
      await startFishing({
        username: fishing.username,
        conditions,
        timeZone: water.time_zone,
        run: { ...run, bottom },
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
        key,
        advice: { standing: 'move', method_key: one.method },
      })
    } catch (error) {
      console.error(error)
      onTrouble(error)
    }
  }
}
