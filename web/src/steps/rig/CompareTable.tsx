/** Up to three choices side by side. */
import type { Ranked } from '../../api/client'
import { range, words } from '../../format/units'
import { useUnits } from '../../state/person'
import { handling, headline, takes } from './sayings'

export function CompareTable({ chosen }: { chosen: readonly Ranked[] }) {
  const units = useUnits()
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
        {each('Rig', (one) => headline(one, units))}
        {each('Flies', (one) => one.flies.map((placed) => placed.fly.name).join(', '))}
        {each('Hands', (one) => handling(one, units))}
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
