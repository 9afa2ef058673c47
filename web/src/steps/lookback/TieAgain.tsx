/** What was fished then, tied on again now: one press, and the count is ready. */
import { useMutation } from '@tanstack/react-query'
import { useNavigate } from 'react-router'
import { answer, client, type Day, type Schemas, type Water } from '../../api/client'
import { clockAt } from '../../format/clock'
import { outingLikeDay, useOuting } from '../../state/outing'
import { usePerson } from '../../state/person'
import { Button } from '../../ui/Button'
import { Trouble } from '../../ui/Notice'
import { startFishing } from '../fish/logging'

interface TieAgainProps {
  day: Day
  fished: Schemas['LoggedPresentationOut']
  water: Water
}

export function TieAgain({ day, fished, water }: TieAgainProps) {
  const { username } = usePerson()
  const { outing, replace } = useOuting()
  const navigate = useNavigate()
  const tie = useMutation({
    mutationFn: async () => {
      // Today's reading where there is one of this water, else what was read that day.
      const here =
        outing?.conditions.water_id === water.id
          ? outing
          : outingLikeDay(water, day, clockAt(water.time_zone))
      if (here !== outing) replace(here)
      const { conditions } = here
      const bottom = [{ distance_m: 0, depth_m: conditions.bottom_depth_m }]
      const { rig, action } = fished
      const run = await answer(
        client.POST('/api/runs', {
          body: {
            bottom,
            water_c: conditions.readings[0]?.water_c ?? 12,
            weed_m: conditions.weed_m,
            wind_speed_mps: conditions.wind_speed_mps,
            fished: { rig, action },
          },
        }),
      )
      await startFishing({
        username,
        conditions,
        timeZone: water.time_zone,
        run: { ...run, bottom },
        doing: { action, line: rig.line, fly_names: rig.flies.map((placed) => placed.fly.name), ladder: [] },
        picture: null,
        rig,
        action,
        longLeaderOk: true,
      })
      await navigate('/fish')
    },
  })
  return (
    <>
      <Button
        className="screen-only my-1.5 min-h-11 px-3 text-sm"
        disabled={tie.isPending}
        onClick={() => tie.mutate()}
      >
        Tie this on again
      </Button>
      {tie.error && <Trouble error={tie.error} />}
    </>
  )
}
