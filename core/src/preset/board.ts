import type { Control } from './controls'
import type { DeviceCapacity } from './device'
import { findSnapshot, partsOf, type Preset } from './preset'

/** Faces of the foot controller: one for snapshots, one for single stages. */
export const BOARD_PAGES = ['snapshots', 'singles'] as const
export type BoardPage = (typeof BOARD_PAGES)[number]

/** What a foot can do with a switch. */
export const GESTURES = ['press', 'hold', 'double'] as const
export type Gesture = (typeof GESTURES)[number]

/** What a gesture does. */
export type SwitchFunction =
  | { readonly do: 'snapshot'; readonly snapshot: string }
  /** `each`: every stage goes to its other state, as a swap; `together`: all go on, or off where all are on. */
  | { readonly do: 'stages'; readonly stages: readonly string[]; readonly how: 'each' | 'together' }
  /** Moves a source from heel to toe: while it is down with a momentary one, there and back with any other. */
  | { readonly do: 'source'; readonly control: string }
  /** One source: acts, or leaves its targets to the snapshot. Two: one of them acts, then the other. */
  | { readonly do: 'pedals'; readonly controls: readonly string[] }
  | { readonly do: 'tap' }
  | { readonly do: 'tuner' }
  | { readonly do: 'page' }
  | { readonly do: 'bank'; readonly by: 1 | -1 }
  | { readonly do: 'preset'; readonly by: 1 | -1 }

export type FunctionKind = SwitchFunction['do']
export const FUNCTION_KINDS: readonly FunctionKind[] = ['snapshot', 'stages', 'source', 'pedals', 'tap', 'tuner', 'page', 'bank', 'preset']

/** A place on the board: page, bank from 0, switch from 0. */
export interface BoardPlace {
  readonly page: BoardPage
  readonly bank: number
  readonly index: number
}

export interface BoardSwitch extends BoardPlace {
  readonly id: string
  /** Empty: named by what it does. */
  readonly label: string
  readonly press: SwitchFunction | null
  readonly hold: SwitchFunction | null
  readonly double: SwitchFunction | null
  /** Controller or note that presses it; channel 0 listens to all. */
  readonly midi: Control['midi']
}

/** What the foot controller does in this preset. Only switches that do something stand in it. */
export interface Board {
  /** Page that it shows when the preset is loaded. */
  readonly start: BoardPage
  /** ms from which on a switch is held. */
  readonly holdMs: number
  /** ms within which a second press makes it a double one. */
  readonly doubleMs: number
  readonly switches: readonly BoardSwitch[]
}

export const BOARD_LIMITS = { holdMs: [150, 2_000], doubleMs: [100, 800], label: 24, stages: 12 } as const
/** Two pages of eight banks of twelve. */
export const MAX_SWITCHES = 192
export const EMPTY_BOARD: Board = { start: 'snapshots', holdMs: 400, doubleMs: 300, switches: [] }

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

export const samePlace = (a: BoardPlace, b: BoardPlace): boolean => a.page === b.page && a.bank === b.bank && a.index === b.index

export const switchAt = (board: Board, place: BoardPlace): BoardSwitch | undefined => board.switches.find((s) => samePlace(s, place))

/** False for a switch that the device has no room for. */
export const hasRoom = ({ switches, banks }: DeviceCapacity, { index, bank }: BoardPlace): boolean => index < switches && bank < banks

/** The gestures of a switch that do something, in the order of {@link GESTURES}. */
export const functionsOf = (own: BoardSwitch): { gesture: Gesture; fn: SwitchFunction }[] =>
  GESTURES.flatMap((gesture) => {
    const fn = own[gesture]
    return fn === null ? [] : [{ gesture, fn }]
  })

/** A function without what is no longer in the preset; null where nothing is left of it. */
function known(preset: Preset, fn: SwitchFunction | null): SwitchFunction | null {
  const hasControl = (id: string) => (preset.controls ?? []).some((c) => c.id === id)
  switch (fn?.do) {
    case 'snapshot':
      return findSnapshot(preset, fn.snapshot) ? fn : null
    case 'stages': {
      const there = new Set(partsOf(preset.chain).map((s) => s.id))
      const stages = fn.stages.filter((id) => there.has(id))
      return stages.length === fn.stages.length ? fn : stages.length === 0 ? null : { ...fn, stages }
    }
    case 'source':
      return hasControl(fn.control) ? fn : null
    case 'pedals': {
      const controls = fn.controls.filter(hasControl)
      return controls.length === fn.controls.length ? fn : controls.length === 0 ? null : { ...fn, controls }
    }
    default:
      return fn ?? null
  }
}

/** Forgets what switches did with snapshots, stages and sources that are gone. */
export function forgetFunctions(preset: Preset): Preset {
  const { board } = preset
  if (!board) return preset
  const switches = board.switches.map((own) => {
    const left = { press: known(preset, own.press), hold: known(preset, own.hold), double: known(preset, own.double) }
    return GESTURES.every((g) => left[g] === own[g]) ? own : { ...own, ...left }
  })
  return switches.every((own, i) => own === board.switches[i]) ? preset : { ...preset, board: { ...board, switches } }
}
