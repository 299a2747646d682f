import {
  BOARD_LIMITS,
  BOARD_PAGES,
  FUNCTION_KINDS,
  GESTURES,
  MAX_SWITCHES,
  samePlace,
  type Board,
  type BoardSwitch,
  type SwitchFunction,
} from './board'
import { CAPACITY_RANGES, type CapacityCount, type DeviceCapacity } from './device'
import { array, flag, noOthers, numberIn, object, oneOf, PresetError, readId, text, wholeIn } from './fields'
import { findStage, findSnapshot, type Preset } from './preset'
import type { MidiPlan } from './midiPlan'

/** Documents of the first year call the page of single switches “stomps”. */
const readPage = (value: unknown, path: string) => oneOf(value === 'stomps' ? 'singles' : value, path, BOARD_PAGES)

export function readCapacity(value: unknown, path: string): DeviceCapacity {
  const o = object(value, path)
  noOthers(o, path, [...Object.keys(CAPACITY_RANGES), 'hold', 'double'])
  const count = (key: CapacityCount) => wholeIn(o[key], `${path}.${key}`, CAPACITY_RANGES[key])
  return {
    switches: count('switches'),
    banks: count('banks'),
    hold: flag(o.hold, `${path}.hold`),
    double: flag(o.double, `${path}.double`),
    pedals: count('pedals'),
    sources: count('sources'),
    assignments: count('assignments'),
    snapshots: count('snapshots'),
  }
}

/** A controller or note that is listened to. @throws PresetError */
export function readMidiBinding(value: unknown, path: string): BoardSwitch['midi'] {
  const o = object(value, path)
  noOthers(o, path, ['type', 'channel', 'number'])
  return {
    type: oneOf(o.type, `${path}.type`, ['cc', 'note'] as const),
    channel: wholeIn(o.channel, `${path}.channel`, [0, 16]),
    number: wholeIn(o.number, `${path}.number`, [0, 127]),
  }
}

export function readMidiPlan(value: unknown, path: string): MidiPlan {
  const o = object(value, path)
  noOthers(o, path, ['channel', 'program', 'bank', 'snapshots'])
  const by = object(o.snapshots, `${path}.snapshots`)
  noOthers(by, `${path}.snapshots`, ['by', 'controller', 'first'])
  return {
    channel: wholeIn(o.channel, `${path}.channel`, [1, 16]),
    program: o.program === null ? null : wholeIn(o.program, `${path}.program`, [0, 127]),
    bank: o.bank === null ? null : wholeIn(o.bank, `${path}.bank`, [0, 16_383]),
    snapshots: {
      by: oneOf(by.by, `${path}.snapshots.by`, ['program', 'controller'] as const),
      controller: wholeIn(by.controller, `${path}.snapshots.controller`, [0, 119]),
      first: wholeIn(by.first, `${path}.snapshots.first`, [0, 120]),
    },
  }
}

/** The foot controller of a preset whose chain, snapshots and sources are read. @throws PresetError */
export function readBoard(value: unknown, preset: Preset): Board {
  const o = object(value, 'board')
  noOthers(o, 'board', ['start', 'holdMs', 'doubleMs', 'switches'])
  const ids = new Set<string>()
  const switches = array(o.switches, 'board.switches', MAX_SWITCHES).map((s, i) => readSwitch(s, `board.switches[${i}]`, preset, ids))
  switches.forEach((own, i) => {
    if (switches.slice(0, i).some((other) => samePlace(own, other)))
      throw new PresetError(`board.switches[${i}]`, 'stands where another switch stands.')
  })
  return {
    start: readPage(o.start, 'board.start'),
    holdMs: numberIn(o.holdMs, 'board.holdMs', BOARD_LIMITS.holdMs),
    doubleMs: numberIn(o.doubleMs, 'board.doubleMs', BOARD_LIMITS.doubleMs),
    switches,
  }
}

function readSwitch(value: unknown, path: string, preset: Preset, ids: Set<string>): BoardSwitch {
  const o = object(value, path)
  noOthers(o, path, ['id', 'page', 'bank', 'index', 'label', 'midi', ...GESTURES])
  const fn = (gesture: (typeof GESTURES)[number]) => (o[gesture] === null ? null : readFunction(o[gesture], `${path}.${gesture}`, preset))
  return {
    id: readId(o.id, `${path}.id`, ids),
    page: readPage(o.page, `${path}.page`),
    bank: wholeIn(o.bank, `${path}.bank`, [0, CAPACITY_RANGES.banks[1] - 1]),
    index: wholeIn(o.index, `${path}.index`, [0, CAPACITY_RANGES.switches[1] - 1]),
    label: text(o.label, `${path}.label`, BOARD_LIMITS.label, 0),
    press: fn('press'),
    hold: fn('hold'),
    double: fn('double'),
    midi: o.midi === null ? null : readMidiBinding(o.midi, `${path}.midi`),
  }
}

const FIELDS: Record<SwitchFunction['do'], readonly string[]> = {
  snapshot: ['snapshot'],
  stages: ['stages', 'how'],
  source: ['control'],
  pedals: ['controls'],
  tap: [],
  tuner: [],
  page: [],
  bank: ['by'],
  preset: ['by'],
}

function readFunction(value: unknown, path: string, preset: Preset): SwitchFunction {
  const o = object(value, path)
  const kind = oneOf(o.do, `${path}.do`, FUNCTION_KINDS)
  noOthers(o, path, ['do', ...FIELDS[kind]])
  const named = (raw: unknown, at: string, what: string, there: (id: string) => boolean): string => {
    const id = text(raw, at, 40, 1)
    if (!there(id)) throw new PresetError(at, `there is no ${what} “${id}”.`)
    return id
  }
  const control = (raw: unknown, at: string) => named(raw, at, 'source', (id) => (preset.controls ?? []).some((c) => c.id === id))
  switch (kind) {
    case 'snapshot':
      return { do: kind, snapshot: named(o.snapshot, `${path}.snapshot`, 'snapshot', (id) => findSnapshot(preset, id) !== undefined) }
    case 'stages':
      return {
        do: kind,
        stages: listed(o.stages, `${path}.stages`, BOARD_LIMITS.stages, (s, at) =>
          named(s, at, 'stage or lane', (id) => findStage(preset, id) !== undefined),
        ),
        how: oneOf(o.how, `${path}.how`, ['each', 'together'] as const),
      }
    case 'source':
      return { do: kind, control: control(o.control, `${path}.control`) }
    case 'pedals':
      return { do: kind, controls: listed(o.controls, `${path}.controls`, 2, control) }
    case 'bank':
    case 'preset':
      if (o.by !== 1 && o.by !== -1) throw new PresetError(`${path}.by`, 'must be 1 or −1.')
      return { do: kind, by: o.by }
    default:
      return { do: kind }
  }
}

function listed(value: unknown, path: string, most: number, read: (raw: unknown, path: string) => string): string[] {
  const list = array(value, path, most).map((raw, i) => read(raw, `${path}[${i}]`))
  if (list.length === 0) throw new PresetError(path, 'must name at least one.')
  if (new Set(list).size < list.length) throw new PresetError(path, 'names one twice.')
  return list
}
