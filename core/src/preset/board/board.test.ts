import { DocumentError } from '@fulgor/core/document'
import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { blankPreset, CAPACITIES, DEFAULT_MIDI, DEFAULT_SCALE, presetSchema, readPreset } from '..'

type Loose = Record<string, unknown>
const plain = (value: unknown): Loose => JSON.parse(JSON.stringify(value)) as Loose
const pit = plain(demoPresets[0].preset)
const ownSwitch = (change: Loose = {}): Loose => ({
  id: 'x',
  page: 'singles',
  bank: 1,
  index: 0,
  label: '',
  press: null,
  hold: null,
  double: null,
  midi: null,
  ...change,
})
const withSwitches = (...switches: readonly Loose[]): Loose => ({
  ...pit,
  board: { start: 'singles', holdMs: 400, doubleMs: 300, switches },
})
const pressing = (press: Loose): Loose => withSwitches(ownSwitch({ press }))
const withMidi = (change: Loose): Loose => ({ ...pit, midiPlan: { ...plain(DEFAULT_MIDI), ...change } })
const withCapacity = (change: Loose): Loose => ({
  ...pit,
  device: { ...DEFAULT_SCALE, capacity: { ...CAPACITIES[2].capacity, ...change } },
})
const schema = new Ajv2020({ strict: false }).compile(presetSchema())

const taken: readonly (readonly [string, Loose])[] = [
  ['an empty board', withSwitches()],
  ['a switch without a function', withSwitches(ownSwitch({ label: 'Spare' }))],
  ['a snapshot', pressing({ do: 'snapshot', snapshot: 'storm' })],
  ['stages', pressing({ do: 'stages', stages: ['drive', 'delay'], how: 'together' })],
  ['a source', pressing({ do: 'source', control: 'throw' })],
  ['two pedals', pressing({ do: 'pedals', controls: ['pedal1', 'pedal2'] })],
  ['what needs nothing', withSwitches(ownSwitch({ press: { do: 'tap' }, hold: { do: 'tuner' }, double: { do: 'page' } }))],
  ['banks and presets', withSwitches(ownSwitch({ press: { do: 'bank', by: -1 }, hold: { do: 'preset', by: 1 } }))],
  ['a note that presses', withSwitches(ownSwitch({ midi: { type: 'note', channel: 16, number: 127 } }))],
  ['a plan of programs', withMidi({ program: null, bank: 16_383, snapshots: { by: 'program', controller: 0, first: 120 } })],
  ['a device of its smallest size', withCapacity({ switches: 2, banks: 1, pedals: 0, sources: 1, assignments: 1, snapshots: 1 })],
]

const refused: readonly (readonly [string, Loose, string, string])[] = [
  ['two switches at one place', withSwitches(ownSwitch(), ownSwitch({ id: 'y' })), 'board.switches[1]', 'where another switch stands'],
  ['an id twice', withSwitches(ownSwitch(), ownSwitch({ index: 3 })), 'board.switches[1].id', 'used twice'],
  ['a thirteenth switch', withSwitches(ownSwitch({ index: 12 })), 'board.switches[0].index', '0 to 11'],
  ['half a switch', withSwitches(ownSwitch({ index: 1.5 })), 'board.switches[0].index', 'whole number'],
  ['a ninth bank', withSwitches(ownSwitch({ bank: 8 })), 'board.switches[0].bank', '0 to 7'],
  ['a page that is none', withSwitches(ownSwitch({ page: 'songs' })), 'board.switches[0].page', 'snapshots or singles'],
  ['a long label', withSwitches(ownSwitch({ label: 'x'.repeat(25) })), 'board.switches[0].label', '0 to 24'],
  [
    'a snapshot that is not there',
    pressing({ do: 'snapshot', snapshot: 'gone' }),
    'board.switches[0].press.snapshot',
    'no snapshot “gone”',
  ],
  [
    'a stage that is not there',
    pressing({ do: 'stages', stages: ['gone'], how: 'each' }),
    'board.switches[0].press.stages[0]',
    'no stage or lane “gone”',
  ],
  ['no stage', pressing({ do: 'stages', stages: [], how: 'each' }), 'board.switches[0].press.stages', 'at least one'],
  ['one stage twice', pressing({ do: 'stages', stages: ['amp', 'amp'], how: 'each' }), 'board.switches[0].press.stages', 'twice'],
  ['a strange way', pressing({ do: 'stages', stages: ['amp'], how: 'maybe' }), 'board.switches[0].press.how', 'each or together'],
  ['a source that is not there', pressing({ do: 'source', control: 'gone' }), 'board.switches[0].press.control', 'no source “gone”'],
  ['three pedals', pressing({ do: 'pedals', controls: ['pedal1', 'pedal2', 'throw'] }), 'board.switches[0].press.controls', 'at most 2'],
  ['a function that is none', pressing({ do: 'dance' }), 'board.switches[0].press.do', 'must be one of snapshot'],
  ['what a function does not know', pressing({ do: 'tap', stages: [] }), 'board.switches[0].press.stages', 'not a known field'],
  ['two banks at once', pressing({ do: 'bank', by: 2 }), 'board.switches[0].press.by', '1 or −1'],
  ['a hold of no time', { ...pit, board: { start: 'singles', holdMs: 0, doubleMs: 300, switches: [] } }, 'board.holdMs', '150 to 2000'],
  ['channel 17', withMidi({ channel: 17 }), 'midiPlan.channel', '1 to 16'],
  ['program 128', withMidi({ program: 128 }), 'midiPlan.program', '0 to 127'],
  ['a bank of 15 bits', withMidi({ bank: 16_384 }), 'midiPlan.bank', '0 to 16383'],
  [
    'a channel mode message',
    withMidi({ snapshots: { by: 'controller', controller: 120, first: 0 } }),
    'midiPlan.snapshots.controller',
    '0 to 119',
  ],
  ['one switch', withCapacity({ switches: 1 }), 'device.capacity.switches', '2 to 12'],
  ['half a pedal', withCapacity({ pedals: 0.5 }), 'device.capacity.pedals', 'whole number'],
  ['a hold that is no yes or no', withCapacity({ hold: 'yes' }), 'device.capacity.hold', 'true or false'],
]

describe('foot controller, MIDI plan and device', () => {
  it.each(taken)('takes %s, as the schema does', (_, document) => {
    expect(plain(readPreset(document))).toEqual(document)
    expect(schema(document), JSON.stringify(schema.errors)).toBe(true)
  })

  it.each(refused)('refuses %s by name', (_, document, path, reason) => {
    try {
      readPreset(document)
    } catch (error) {
      expect(error).toBeInstanceOf(DocumentError)
      expect((error as DocumentError).path).toBe(path)
      expect((error as DocumentError).reason).toContain(reason)
      return
    }
    throw new Error('it was taken')
  })

  it.each(refused.filter(([name]) => !/place|twice|not there/.test(name)))('the schema refuses %s as well', (_, document) => {
    expect(schema(document)).toBe(false)
  })
})

it('the page of single switches is read by its old word', () => {
  const board = (page: string) => ({
    ...blankPreset('Old'),
    version: 1,
    board: { start: page, holdMs: 400, doubleMs: 300, switches: [ownSwitch({ page })] },
  })
  expect(readPreset(board('stomps'))).toEqual(readPreset(board('singles')))
})
