/** One side of the tank: what is tied on and how it is fished. */
import type { Schemas } from '../api/client'
import { format } from '../format/units'
import { useUnits } from '../state/person'
import { Dial } from '../ui/Dial'
import { ChoiceField } from '../ui/Field'
import { Segments } from '../ui/Segments'
import { deepestSet, type Box, type Side } from './sides'
import { USUAL } from '../api/trade'

export interface SideFormProps {
  name: 'A' | 'B'
  side: Side
  box: Box
  retrieves: readonly Schemas['RetrieveOut'][]
  onSideChange(changes: Partial<Side>): void
}

const INKS = { A: 'border-hot', B: 'border-calm border-dashed' } as const

export function SideForm({ name, side, box, retrieves, onSideChange }: SideFormProps) {
  const units = useUnits()
  const leader = box.leaders.find((l) => l.id === side.leaderId)
  const named = (items: readonly { id: number; name: string }[]) =>
    items.map((item) => ({ value: String(item.id), text: item.name }))
  return (
    <fieldset className={`min-w-0 space-y-1.5 border-t-4 pt-1 ${INKS[name]}`}>
      <legend className="sr-only">Rig {name}</legend>
      <p className="plate text-xl font-bold" aria-hidden="true">
        {name}
      </p>
      <Segments
        label="Method"
        value={side.method}
        options={[
          { value: 'cast', text: 'Cast' },
          { value: 'indicator', text: 'Indicator' },
        ]}
        onValueChange={(method) => onSideChange({ method: method as Side['method'] })}
      />
      {side.method === 'cast' && (
        <ChoiceField
          label="Line"
          value={String(side.lineId)}
          options={named(box.lines)}
          onValueChange={(id) => onSideChange({ lineId: Number(id) })}
        />
      )}
      <ChoiceField
        label="Leader"
        value={String(side.leaderId)}
        options={named(box.leaders)}
        onValueChange={(id) => onSideChange({ leaderId: Number(id) })}
      />
      <ChoiceField
        label="Point fly"
        value={String(side.flyId)}
        options={named(box.flies)}
        onValueChange={(id) => onSideChange({ flyId: Number(id) })}
      />
      <ChoiceField
        label="Fly above"
        value={String(side.upperFlyId ?? '')}
        options={[{ value: '', text: 'none' }, ...named(box.flies)]}
        onValueChange={(id) => onSideChange({ upperFlyId: id ? Number(id) : null })}
      />
      <Dial
        label="Mended every"
        value={side.mendS}
        least={0}
        most={60}
        step={5}
        said={side.mendS === 0 ? 'never' : `${side.mendS} s`}
        onValueChange={(mendS) => onSideChange({ mendS })}
      />
      {side.method === 'cast' ? (
        <>
          <ChoiceField
            label="Retrieve"
            value={side.retrieveKey}
            options={retrieves.map((r) => ({ value: r.key, text: r.name }))}
            onValueChange={(retrieveKey) => onSideChange({ retrieveKey })}
          />
          <Dial
            label="Count"
            value={side.countS}
            least={0}
            most={USUAL.dialCountS}
            step={1}
            said={`${side.countS} s`}
            onValueChange={(countS) => onSideChange({ countS })}
          />
          <Segments
            label="Line during the count"
            value={side.fed ? 'fed' : 'tight'}
            options={[
              { value: 'tight', text: 'held' },
              { value: 'fed', text: 'fed out' },
            ]}
            onValueChange={(value) => onSideChange({ fed: value === 'fed' })}
          />
          <Dial
            label="Boat drifts on to it"
            value={side.boatMps}
            least={0}
            most={0.5}
            step={0.01}
            said={side.boatMps === 0 ? 'anchored' : format('lineSpeed', side.boatMps, units)}
            onValueChange={(boatMps) => onSideChange({ boatMps })}
          />
        </>
      ) : (
        <Dial
          label="Set depth"
          value={Math.min(side.setDepthM, deepestSet(leader))}
          least={0.5}
          most={deepestSet(leader)}
          step={0.1}
          said={format('depth', Math.min(side.setDepthM, deepestSet(leader)), units)}
          onValueChange={(setDepthM) => onSideChange({ setDepthM })}
        />
      )}
    </fieldset>
  )
}
