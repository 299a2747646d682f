import { deviceFields, type DeviceDocument } from '@fulgor/core/preset'
import { useDeleteDeviceMutation } from '../../api/api'
import { CapacityFields } from '../../device/CapacityFields'
import { ProcessingFields } from '../../device/ProcessingFields'
import { ScaleFields } from '../../device/ScaleFields'
import { deviceSource } from './deviceSource'
import { KitHead, NotThere } from './KitHead'
import { KitNotes } from './KitNotes'
import { KitRemove } from './KitRemove'
import { UsedIn } from './UsedIn'
import { useKitDocument } from '../../state/useKitDocument'

const KEEPS = ['keeps a copy of it.', 'keep copies of it.'] as const

/** One device: what it holds, how its level control is marked, and which presets are for it. */
export function DeviceSheet({ id }: { id: string }) {
  const editing = useKitDocument(id, deviceSource)
  const [remove] = useDeleteDeviceMutation()
  const { document: device, missing, standing, change } = editing
  if (missing !== null || !device) return <NotThere missing={missing} to="/kit/devices" others="The devices that are there" />
  const put = (part: Partial<DeviceDocument>, key?: string) => change({ ...device, ...part }, key)
  const { capacity } = device
  const gesture = (key: 'hold' | 'double' | 'both', words: string) => (
    <label className="flex items-baseline gap-1">
      <input
        type="checkbox"
        className="self-center accent-ember"
        checked={capacity[key] === true}
        onChange={() => put({ capacity: { ...capacity, [key]: !capacity[key] } })}
      />
      {words}
    </label>
  )
  return (
    <div className="min-h-0 min-w-0 overflow-auto px-4 py-2 text-[12px]" data-sync={standing.sync}>
      <KitHead kind="device" name={device.name} most={deviceFields.name.most} editing={editing} onName={(name) => put({ name })}>
        <KitRemove kind="device" id={id} name={device.name} to="/kit/devices" keeps={KEEPS} remove={remove} />
      </KitHead>
      <KitNotes kind="device" notes={device.notes} onNotes={(notes) => put({ notes })} />
      <h2 className="border-t border-ink pt-1 text-section font-bold">What it holds</h2>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 py-1">
        <CapacityFields capacity={capacity} onChange={(part, key) => put({ capacity: { ...capacity, ...part } }, key)} />
        {gesture('hold', 'a switch can be held')}
        {gesture('double', 'a switch can be pressed twice')}
        {gesture('both', 'two beside each other at once')}
      </div>
      <p className="text-[11.5px] text-ink3">Counted on the board and in the checks of every preset that is for it.</p>
      <h2 className="mt-3 border-t border-ink pt-1 text-section font-bold">What one stage takes of its processing</h2>
      <div className="grid max-w-[760px] grid-cols-[repeat(auto-fill,minmax(170px,1fr))] gap-x-6 py-1">
        <ProcessingFields capacity={capacity} onChange={(part, key) => put({ capacity: { ...capacity, ...part } }, key)} />
      </div>
      <p className="text-[11.5px] text-ink3">
        As the device’s own display tells it. Presets that need more than 100 % are told by the checks; what the night never uses is told in
        the Set.
      </p>
      <h2 className="mt-3 border-t border-ink pt-1 text-section font-bold">How its level control is marked</h2>
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-1">
        <ScaleFields scale={device} onChange={(part, key) => put(part, key)} />
      </div>
      <p className="text-[11.5px] text-ink3">Levels from takes of the device are told in these marks.</p>
      <UsedIn
        id={id}
        name={device.name}
        to={(preset) => `/controls/${preset}/board`}
        none="No preset yet: choose it above the board of one."
      />
    </div>
  )
}
