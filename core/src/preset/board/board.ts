import type { DeviceCapacity } from '../takes/description'
import { GESTURES, samePlace, type Board, type BoardPlace, type BoardSwitch, type Gesture, type SwitchFunction } from './description'

export const createSwitch = (id: string, { page, bank, index }: BoardPlace): BoardSwitch => ({
  id,
  page,
  bank,
  index,
  label: '',
  press: null,
  hold: null,
  double: null,
  midi: null,
})

export const switchAt = (board: Board, place: BoardPlace): BoardSwitch | undefined => board.switches.find((s) => samePlace(s, place))

/** False for a switch that the device has no room for. */
export const hasRoom = ({ switches, banks }: DeviceCapacity, { index, bank }: BoardPlace): boolean => index < switches && bank < banks

/** The gestures of a switch that do something, in the order of {@link GESTURES}. */
export const functionsOf = (own: BoardSwitch): { gesture: Gesture; fn: SwitchFunction }[] =>
  GESTURES.flatMap((gesture) => {
    const fn = own[gesture] ?? null
    return fn === null ? [] : [{ gesture, fn }]
  })
