/** Whether the rig is chosen out of every method, or worked on line by line with the dials. */
import { Segments } from '../../ui/Segments'

export type RigView = 'method' | 'line'

export function RigViews({ view, onViewChange }: { view: RigView; onViewChange(view: RigView): void }) {
  return (
    <Segments
      label="Choose by"
      value={view}
      className="mb-2"
      options={[
        { value: 'method', text: 'Method' },
        { value: 'line', text: 'Line, with dials' },
      ]}
      onValueChange={(next) => onViewChange(next as RigView)}
    />
  )
}
