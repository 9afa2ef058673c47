/** How deep each fly of a team is at the moment drawn, and where it works. */
import type { Run } from '../../api/client'
import { interpolate } from '../../column/geometry'
import { bandAt, UNSURE_M } from '../../column/RigDrawing'
import { format, range } from '../../format/units'
import { useUnits } from '../../state/person'

export interface FliesNowProps {
  run: Run
  timeS: number
}

export function FliesNow({ run, timeS }: FliesNowProps) {
  const units = useUnits()
  return (
    <table className="mt-1 w-full text-left text-sm">
      <thead className="eyebrow">
        <tr>
          <th className="font-semibold">Fly</th>
          <th className="text-right font-semibold">now</th>
          <th className="text-right font-semibold">8 times in 10</th>
          <th className="text-right font-semibold">works at</th>
        </tr>
      </thead>
      <tbody>
        {[...run.flies].reverse().map((fly, i) => {
          const [shallow, deep] = bandAt(run, run.flies.length - 1 - i, timeS)
          return (
            <tr key={i} className="border-t border-rule">
              <th scope="row" className="w-full max-w-0 truncate py-0.5 pr-2 font-normal">
                {fly.name}
                {i === run.flies.length - 1 && ' (point)'}
              </th>
              <td className="text-right font-semibold">
                {format('depth', interpolate(run.time_s, fly.depth_m, timeS), units)}
              </td>
              <td className="pl-2 text-right whitespace-nowrap text-soft">
                {deep - shallow > UNSURE_M && range('depth', shallow, deep, units)}
              </td>
              <td className="pl-2 text-right whitespace-nowrap">
                {range('depth', fly.low_m, fly.high_m, units)}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
