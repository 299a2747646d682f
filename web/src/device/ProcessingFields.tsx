import { FAMILIES, quantity } from '@fulgor/core/catalogue'
import { processingOf, type DeviceCapacity } from '@fulgor/core/preset'
import { FAMILY_WORDS } from '../ui/families'
import { NumberField } from '../ui/NumberField'

/** What one stage of each family takes of the device's processing, as its display tells; a field that is empty is not counted. */
export function ProcessingFields({
  capacity,
  onChange,
}: {
  capacity: DeviceCapacity
  onChange: (part: Pick<DeviceCapacity, 'processing'>, key: string) => void
}) {
  const others = (family: string) => (capacity.processing ?? []).filter((p) => p.family !== family)
  return FAMILIES.map((family) => (
    <span key={family} className="flex items-baseline justify-between gap-2 border-b border-rule py-0.5">
      {FAMILY_WORDS[family]}
      <NumberField
        spec={quantity('percent', `Processing of one stage, ${FAMILY_WORDS[family].toLowerCase()}`, [0, 100])}
        value={processingOf(capacity, family)}
        empty={{ word: 'not told', onEmpty: () => onChange({ processing: others(family) }, `processing ${family}`) }}
        onChange={(percent) => onChange({ processing: [...others(family), { family, percent }] }, `processing ${family}`)}
      />
    </span>
  ))
}
