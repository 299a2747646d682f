import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react'
import { quantity } from '@fulgor/core/catalogue'
import {
  boardFields,
  CAPACITIES,
  capacityFields,
  capacityOf,
  deviceFields,
  deviceOf,
  EMPTY_BOARD,
  type BoardPage,
  type CapacityCount,
  type DeviceCapacity,
  type Preset,
} from '@fulgor/core/preset'
import { edit } from '../../state/actions'
import { useAppDispatch } from '../../state/store'
import { Chevron } from '../../ui/marks'
import { Pick } from '../../ui/Pick'
import { NumberField } from '../../ui/NumberField'
import { TextField } from '../../ui/TextField'
import { NUMBER_FIELD, PAGE_NAMES } from './words'

const COUNTS: readonly (readonly [CapacityCount, string])[] = [
  ['switches', 'switches'],
  ['banks', 'banks'],
  ['pedals', 'pedals'],
  ['snapshots', 'snapshots'],
  ['sources', 'sources'],
  ['assignments', 'assignments'],
]

/** The size of the player's device, as a sentence whose numbers can be changed. */
export function DeviceLine({ preset }: { preset: Preset }) {
  const dispatch = useAppDispatch()
  const device = deviceOf(preset.device)
  const capacity = capacityOf(preset.device)
  const board = preset.board ?? EMPTY_BOARD
  const change = (part: Partial<DeviceCapacity>) =>
    dispatch(edit({ type: 'setDevice', device: { ...device, capacity: { ...capacity, ...part } } }))
  const gesture = (key: 'hold' | 'double', words: string, time: 'holdMs' | 'doubleMs') => (
    <span className="flex items-baseline gap-1.5">
      <label className="flex items-baseline gap-1">
        <input
          type="checkbox"
          className="self-center accent-ember"
          checked={capacity[key]}
          onChange={() => change({ [key]: !capacity[key] })}
        />
        {words}
      </label>
      {capacity[key] && (
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
      <TextField
        label="Name of the device"
        value={device.name}
        maxLength={deviceFields.name.most}
        className="min-w-[80px] max-w-[220px] [field-sizing:content] border-b border-transparent bg-transparent font-head text-section font-bold outline-none [font-stretch:var(--head-width)] hover:border-control focus:border-ink"
        onCommit={(text) => {
          if (text.trim() === '') return 'A device needs a name.'
          dispatch(edit({ type: 'setDevice', device: { ...device, name: text.trim() } }))
          return null
        }}
      />
      {COUNTS.map(([key, words]) => (
        <span key={key} className="flex items-baseline gap-1">
          <NumberField
            spec={quantity('count', `Number of ${words}`, capacityFields[key].range)}
            value={capacity[key]}
            className="num min-h-6 w-[26px] border-b border-control bg-transparent text-right outline-none focus:border-ink"
            onChange={(n) => change({ [key]: n })}
          />
          {words}
        </span>
      ))}
      {gesture('hold', 'hold', 'holdMs')}
      {gesture('double', 'double press', 'doubleMs')}
      <span className="flex items-baseline gap-1.5">
        <span className="text-ink2">starts on</span>
        <Pick
          label="Page that the board starts on"
          value={board.start}
          options={(['snapshots', 'singles'] as const).map((p) => [p, PAGE_NAMES[p].toLowerCase()] as const)}
          onChange={(start: BoardPage) => dispatch(edit({ type: 'changeBoard', change: { start } }))}
        />
      </span>
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
    </div>
  )
}
