import { quantity } from '@fulgor/core/catalogue'
import { capacityFields, type CapacityCount, type DeviceCapacity } from '@fulgor/core/preset'
import { NumberField } from '../ui/NumberField'

const COUNTS: readonly (readonly [CapacityCount, string])[] = [
  ['switches', 'switches'],
  ['banks', 'banks'],
  ['pedals', 'pedals'],
  ['snapshots', 'snapshots'],
  ['sources', 'sources'],
  ['assignments', 'assignments'],
]

/** How much a device holds, number by number; without `onChange` to be read only. */
export function CapacityFields({
  capacity,
  onChange,
}: {
  capacity: DeviceCapacity
  onChange?: (part: Partial<DeviceCapacity>, key: string) => void
}) {
  return COUNTS.map(([key, words]) => (
    <span key={key} className="flex items-baseline gap-1">
      {onChange ? (
        <NumberField
          spec={quantity('count', `Number of ${words}`, capacityFields[key].range)}
          value={capacity[key]}
          className="num min-h-6 w-[26px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
          onChange={(n) => onChange({ [key]: n }, key)}
        />
      ) : (
        <b className="num font-semibold">{capacity[key]}</b>
      )}
      {words}
    </span>
  ))
}
