/** Build a leader to a length or a depth of one's own: what to cut, and whether a fish can be landed with it. */
import { keepPreviousData, useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { api, thrown, useAskAgain } from '../queries/api'
import { answer, client, Refusal, type Schemas } from '../api/client'
import { useRods } from '../queries/hooks'
import { cutLength, words } from '../format/units'
import { useUnits } from '../state/person'
import { Button } from '../ui/Button'
import { ChoiceField, QuantityField } from '../ui/Field'
import { Trouble } from '../ui/Notice'
import { useSettled } from '../ui/useSettled'

const SPACING_M = 1.8

export function LeaderBuilder() {
  const units = useUnits()
  const again = useAskAgain()
  const rods = useRods()
  const [floats, setFloats] = useState<Schemas['FloatItemIn']['kind'] | ''>('')
  const [lengthM, setLengthM] = useState(4.5)
  const [flies, setFlies] = useState(1)
  const [hook, setHook] = useState(12)
  const apart = Math.min(SPACING_M, (lengthM - 0.9) / Math.max(flies - 1, 1))
  const body = useSettled<Schemas['LeaderBuildIn']>(
    {
      under_indicator: floats !== '',
      length_m: lengthM,
      droppers_m: Array.from({ length: flies - 1 }, (_, i) => Math.round(100 * (i + 1) * apart) / 100),
      hook_size: hook,
      secchi_m: 3,
      brightness: 0.3,
      weed_m: 0,
      fish_kg: 1,
      fluorocarbon: 'when-bright',
      thin_m: 2.13,
      below_m: 0.6,
      rod_m: rods.data?.items[0]?.length_m ?? 3.05,
      indicator: floats || 'fixed',
    },
    200,
  )
  const built = thrown(
    api.useQuery('post', '/api/leader-builds', { body }, { placeholderData: keepPreviousData, retry: false }),
  )
  const keep = useMutation({
    mutationFn: (leader: Schemas['LeaderIn']) => answer(client.POST('/api/leaders', { body: leader })),
    onSuccess: () => again('/api/leaders', '/api/choices'),
  })
  const refusal = built.error instanceof Refusal ? built.error : null
  return (
    <section aria-label="Build a leader" className="mt-4 border-t-2 border-ink pt-2 text-sm">
      <h3 className="plate text-xl font-bold">Build one</h3>
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="Hangs from"
          value={floats}
          options={[
            { value: '', text: 'The line' },
            { value: 'fixed', text: 'A fixed float' },
            { value: 'quick-release', text: 'A quick-release float' },
            { value: 'sliding', text: 'A sliding float' },
          ]}
          onValueChange={(kind) => setFloats(kind as typeof floats)}
        />
        <QuantityField
          label={floats ? 'Float to point' : 'Line to point'}
          quantity="depth"
          value={lengthM}
          least={floats ? 0.6 : 0.9}
          most={floats ? 10 : 12}
          error={refusal?.at('droppers', 'length_m', 'total_m', 'target_m')}
          onValueChange={setLengthM}
        />
        <ChoiceField
          label="Flies"
          value={String(flies)}
          options={['1', '2', '3'].map((n) => ({ value: n, text: n }))}
          onValueChange={(n) => setFlies(Number(n))}
        />
        <ChoiceField
          label="Smallest hook"
          value={String(hook)}
          options={['8', '10', '12', '14', '16', '18'].map((n) => ({ value: n, text: n }))}
          onValueChange={(n) => setHook(Number(n))}
        />
      </div>
      {built.error && Object.keys(refusal?.fields ?? {}).length === 0 && <Trouble error={built.error} />}
      {built.data && !built.error && (
        <>
          <table className="mt-2 w-full">
            <caption className="eyebrow text-left">Cut, knots allowed for</caption>
            <tbody>
              {built.data.build.cuts.map((cut, i) => (
                <tr key={i} className="border-t border-rule">
                  <th scope="row" className="py-0.5 text-left font-normal">
                    {cut.what}
                  </th>
                  <td className="text-right font-bold">{cutLength(cut.cut_m, units)}</td>
                  <td className="pl-2 text-right whitespace-nowrap">
                    {(cut.diameter_m * 1000).toFixed(2)} mm
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="mt-1 text-soft">
            Tippet {built.data.build.tippet_x}X: {built.data.build.tippet_why.join(', ')}.{' '}
            {built.data.build.hints.map((hint) => words(hint, units)).join(' ')}
          </p>
          {built.data.landing && (
            <p
              className={
                built.data.landing.ok ? '' : 'border-l-[6px] border-hot bg-care px-3 py-1 font-semibold'
              }
            >
              {words(built.data.landing.why, units)}
            </p>
          )}
          <Button className="mt-1" disabled={keep.isPending} onClick={() => keep.mutate(built.data.leader)}>
            Keep it in the box
          </Button>
          {keep.error && <Trouble error={keep.error} />}
        </>
      )}
    </section>
  )
}
