import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { quantity } from '@fulgor/core/catalogue'
import {
  boardFields,
  CAPACITIES,
  capacityOf,
  deviceOf,
  EMPTY_BOARD,
  type BoardPage,
  type DeviceCapacity,
  type Preset,
} from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { Chevron } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { CapacityFields } from '../../device/CapacityFields'
import { DeviceChoice } from '../../device/DeviceChoice'
import { NUMBER_FIELD, PAGE_NAMES } from './words'

/** The size of the player's device, as a sentence whose numbers can be changed. */
export function DeviceLine({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const device = deviceOf(preset.device)
  const capacity = capacityOf(preset.device)
  const board = preset.board ?? EMPTY_BOARD
  const change = (part: Partial<DeviceCapacity>) =>
    dispatch(edit({ type: 'setDevice', device: { ...device, capacity: { ...capacity, ...part } } }))
  // a device of the Kit is changed there, for every preset that it is the device of
  const own = device.kit === undefined
  const gesture = (key: 'hold' | 'double' | 'both', words: string, time?: 'holdMs' | 'doubleMs') => (
    <span className="flex items-baseline gap-1.5">
      <label className="flex items-baseline gap-1">
        <input
          type="checkbox"
          className="self-center accent-ember"
          checked={capacity[key] === true}
          disabled={!own}
          onChange={() => change({ [key]: !capacity[key] })}
        />
        {words}
      </label>
      {time && capacity[key] && (
        <NumberField
          spec={quantity('ms', `Time of ${words}`, boardFields[time].range)}
          value={board[time]}
          className={NUMBER_FIELD}
          onChange={(ms) => dispatch(edit({ type: 'changeBoard', change: { [time]: ms } }))}
        />
      )}
    </span>
  )
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 gap-y-0.5 text-[12px]" role="group" aria-label="Device">
      <DeviceChoice preset={preset} />
      <CapacityFields capacity={capacity} {...(own ? { onChange: change } : {})} />
      {gesture('hold', 'hold', 'holdMs')}
      {gesture('double', 'double press', 'doubleMs')}
      {gesture('both', 'two at once')}
      <span className="flex items-baseline gap-1.5">
        <span className="text-ink2">starts on</span>
        <Pick
          label="Page that the board starts on"
          value={board.start}
          options={(['snapshots', 'singles'] as const).map((p) => [p, PAGE_NAMES[p].toLowerCase()] as const)}
          onChange={(start: BoardPage) => dispatch(edit({ type: 'changeBoard', change: { start } }))}
        />
      </span>
      {own && (
        <Menu>
          <MenuButton className="act">
            Sizes
            <Chevron />
          </MenuButton>
          <MenuItems modal={false} anchor="bottom end" className="menu">
            {CAPACITIES.map(({ name, capacity: of }) => (
              <MenuItem key={name}>
                <button
                  type="button"
                  className="menu-item"
                  onClick={() => dispatch(edit({ type: 'setDevice', device: { ...device, name, capacity: of } }))}
                >
                  {name} <kbd>{of.switches} switches</kbd>
                </button>
              </MenuItem>
            ))}
          </MenuItems>
        </Menu>
      )}
    </div>
  )
}
