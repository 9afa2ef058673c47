/** Takes an hour, in any grouping. */
import type { Schemas } from '../../api/client'
import { words } from '../../format/units'
import { useRates } from '../../queries/lookback'
import { useUnits } from '../../state/person'
import { ChoiceField } from '../../ui/Field'
import { Trouble, Waiting } from '../../ui/Notice'
import { Segments } from '../../ui/Segments'
import { AskBar } from './AskBar'
import { LogNav } from './LogNav'
import { RateChart, type Chart } from './RateChart'
import { useAsked } from './useAsked'

const BY: readonly { value: Chart['by']; text: string }[] = [
  { value: 'depth', text: 'Depth' },
  { value: 'above_bottom', text: 'Height above the bottom' },
  { value: 'fly', text: 'Fly' },
  { value: 'method', text: 'Method' },
  { value: 'line', text: 'Line' },
  { value: 'retrieve', text: 'Retrieve' },
  { value: 'spot', text: 'Spot' },
  { value: 'hour', text: 'Hour' },
  { value: 'month', text: 'Month' },
  { value: 'temperature', text: 'Temperature at the top' },
  { value: 'light', text: 'Light' },
  { value: 'wind', text: 'Wind' },
]

export function RatesPage() {
  const [asked, ask, params] = useAsked()
  const units = useUnits()
  const by = BY.find((one) => one.value === params.get('by')) ?? { value: 'depth' as const, text: 'Depth' }
  const of: Schemas['RatesOut']['of'] = params.get('of') === 'landed' ? 'landed' : 'takes'
  const found = useRates(by.value, of, asked)
  const set = (changes: object) => ask(changes)
  return (
    <div className="mx-auto max-w-[1100px] px-4 py-2 lg:px-6">
      <LogNav params={params} />
      <AskBar asked={asked} onAsk={ask} />
      <div className="screen-only mt-3 flex flex-wrap items-end gap-5">
        <ChoiceField
          label="By"
          value={by.value}
          options={BY}
          onValueChange={(value) => set({ by: value })}
          className="w-64"
        />
        <Segments
          label="Count"
          value={of}
          options={[
            { value: 'takes', text: 'Takes' },
            { value: 'landed', text: 'Landed' },
          ]}
          onValueChange={(value) => set({ of: value })}
          className="w-48"
        />
      </div>
      {found.isError && <Trouble error={found.error} />}
      {!found.data && !found.isError && <Waiting what="Counting hours…" />}
      {found.data && (
        <section aria-label={by.text} aria-busy={found.isPlaceholderData} className="mt-4">
          <h1 className="text-lg font-semibold" aria-live="polite">
            {words(found.data.words, units)}
          </h1>
          {found.data.by === 'fly' && (
            <p className="text-sm text-soft">
              By the point fly: the log does not know which of a team was taken.
            </p>
          )}
          {found.data.by === 'spot' && found.data.ways.length === 0 && (
            <p className="text-sm text-soft">
              A spot is known once you say on the chart where you stand, near a mark.
            </p>
          )}
          <div className="mt-2">
            <RateChart
              chart={found.data}
              title={`Takes an hour by ${by.text.toLowerCase()}`}
              file={`rates-by-${by.value}`}
            />
          </div>
        </section>
      )}
    </div>
  )
}
