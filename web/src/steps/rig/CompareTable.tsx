/** Up to three choices side by side, each with the depths of its flies through one cast or drift. */
import type { Picture, Ranked } from '../../api/client'
import { SmallRun } from '../../column/SmallRun'
import { range, words } from '../../format/units'
import { useUnits } from '../../state/person'
import { handling, headline, takes } from '../../choice/sayings'

interface CompareTableProps {
  chosen: readonly Ranked[]
  picture: Picture
}

/** The most that fit side by side. */
export const MOST_COMPARED = 3

export function CompareTable({ chosen, picture }: CompareTableProps) {
  const units = useUnits()
  const endS = Math.max(60, ...chosen.map((one) => one.run.time_s.at(-1) ?? 0))
  const each = (title: string, say: (one: Ranked) => string) => (
    <tr className="border-t border-rule align-top">
      <th scope="row" className="eyebrow py-1 pr-3 text-left">
        {title}
      </th>
      {chosen.map((one) => (
        <td key={one.method.key} className="py-1 pr-3">
          {say(one)}
        </td>
      ))}
    </tr>
  )
  const rate = (n: number) => n.toFixed(1)
  return (
    <table className="mt-2 w-full table-fixed border-t-2 border-ink text-sm">
      <caption className="eyebrow text-left">Side by side</caption>
      <thead>
        <tr>
          <th className="w-28" />
          {chosen.map((one) => (
            <th key={one.method.key} scope="col" className="plate py-1 pr-3 text-left text-base font-bold">
              {one.method.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <tr>
          <th scope="row" className="eyebrow py-1 pr-3 text-left align-top">
            Depth through a cast
          </th>
          {chosen.map((one) => (
            <td key={one.method.key} className="pr-3 pb-1 align-top">
              <SmallRun run={one.run} picture={picture} endS={endS} name={one.method.name} />
            </td>
          ))}
        </tr>
        {each('Rig', (one) => headline(one, units))}
        {each('Flies', (one) => one.flies.map((placed) => placed.fly.name).join(', '))}
        {each('Hands', (one) => handling(one.action, units))}
        {each('Takes an hour', takes)}
        {each('In the band', (one) => `${Math.round(one.minutes_in_band)} min an hour`)}
        {each('Works', (one) => range('depth', one.low_m, one.high_m, units))}
        {each('If deeper', (one) => rate(one.if_deeper_ph))}
        {each('If higher', (one) => rate(one.if_shallower_ph))}
        {each('If the wind drops', (one) => rate(one.if_calm_ph))}
        {each('Weak point', (one) => words(one.weak_point, units))}
      </tbody>
    </table>
  )
}
