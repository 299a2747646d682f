import {
  choice,
  constant,
  DocumentError,
  id,
  list,
  named,
  nullable,
  number,
  optional,
  record,
  refined,
  tagged,
  text,
  whole,
  type Of,
  type RecordOf,
} from '@fulgor/core/document'
import { bindingField } from '../midi/description'
import { capacityFields } from '../takes/description'

/** Faces of the foot controller: one for snapshots, one for single stages. */
export const BOARD_PAGES = ['snapshots', 'singles'] as const
export type BoardPage = (typeof BOARD_PAGES)[number]

/** What a foot can do with a switch; `both`: press it together with the next one of its row. */
export const GESTURES = ['press', 'hold', 'double', 'both'] as const
export type Gesture = (typeof GESTURES)[number]

/** Two pages of eight banks of twelve. */
export const MAX_SWITCHES = 192

/** Stages that one switch turns. */
export const MAX_SWITCH_STAGES = 12

const page = choice(BOARD_PAGES)
const reference = text(40)
const references = (most: number) => list(reference, most, { least: 1, none: 'must name at least one.', unique: true })

const by = choice([1, -1])

/** What a gesture does. */
const functions = {
  snapshot: record({ do: constant('snapshot'), snapshot: reference }),
  /** `each`: every stage goes to its other state, as a swap; `together`: all go on, or off where all are on. */
  stages: record({ do: constant('stages'), stages: references(MAX_SWITCH_STAGES), how: choice(['each', 'together']) }),
  /** Moves a source from heel to toe: while it is down with a momentary one, there and back with any other. */
  source: record({ do: constant('source'), control: reference }),
  /** One source: acts, or leaves its targets to the snapshot. Two: one of them acts, then the other. */
  pedals: record({ do: constant('pedals'), controls: references(2) }),
  tap: record({ do: constant('tap') }),
  tuner: record({ do: constant('tuner') }),
  page: record({ do: constant('page') }),
  bank: record({ do: constant('bank'), by }),
  preset: record({ do: constant('preset'), by }),
}

export type FunctionKind = keyof typeof functions
export const FUNCTION_KINDS = Object.keys(functions) as FunctionKind[]

const functionField = named('function', () => tagged('do', functions))
export type SwitchFunction = Of<typeof functionField>

const gesture = nullable(functionField)

const switchField = record({
  id: id(),
  page,
  bank: whole([0, capacityFields.banks.range[1] - 1]),
  index: whole([0, capacityFields.switches.range[1] - 1]),
  /** Empty: named by what it does. */
  label: text(24, { least: 0, about: 'Empty: named by what it does.' }),
  press: gesture,
  hold: gesture,
  double: gesture,
  both: optional(gesture),
  /** Controller or note that presses it. */
  midi: nullable(bindingField),
})

export const switchFields = switchField.fields

export type BoardSwitch = RecordOf<typeof switchField.fields>

/** A place on the board: page, bank from 0, switch from 0. */
export type BoardPlace = Pick<BoardSwitch, 'page' | 'bank' | 'index'>

export const samePlace = (a: BoardPlace, b: BoardPlace): boolean => a.page === b.page && a.bank === b.bank && a.index === b.index

const boardRecord = record({
  /** Page that it shows when the preset is loaded. */
  start: page,
  /** ms from which on a switch is held. */
  holdMs: number([150, 2_000]),
  /** ms within which a second press makes it a double one. */
  doubleMs: number([100, 800]),
  switches: list(
    named('switch', () => switchField),
    MAX_SWITCHES,
    { ids: 'own' },
  ),
})

/** What the foot controller does in this preset. Only switches that do something stand in it. */
export type Board = RecordOf<typeof boardRecord.fields>

export const boardFields = boardRecord.fields

export const boardField = refined(boardRecord, ({ switches }, path) => {
  switches.forEach((own, i) => {
    if (switches.slice(0, i).some((other) => samePlace(own, other)))
      throw new DocumentError(`${path}.switches[${i}]`, 'stands where another switch stands.')
  })
})

export const EMPTY_BOARD: Board = { start: 'snapshots', holdMs: 400, doubleMs: 300, switches: [] }
