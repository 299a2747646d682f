import { describe, expect, it } from 'vitest'
import { controllerName, isReserved, readMidiMessage, writeMidiMessage, type MidiMessage } from '@fulgor/core/formats'
import { demoPresets } from '@fulgor/core/demo'
import { createControl, createSwitch, DEFAULT_MIDI, EMPTY_BOARD, type MidiPlan, type Preset } from '@fulgor/core/preset'
import { hears, midiClashes, midiList, snapshotOf } from '.'

const bare: Preset = { ...demoPresets[0].preset, controls: [], board: undefined }
const by = (midiPlan: Partial<MidiPlan>): Preset => ({ ...bare, midiPlan: { ...DEFAULT_MIDI, ...midiPlan } })
const message = (type: MidiMessage['type'], channel: number, number: number, value = 0): MidiMessage => ({ type, channel, number, value })

// MIDI 1.0 Detailed Specification, MIDI Manufacturers Association, 1996, tables II and III (from memory)
describe('bytes', () => {
  it.each([
    [message('program', 1, 0), [0xc0, 0x00]],
    [message('program', 16, 127), [0xcf, 0x7f]],
    [message('cc', 1, 11, 127), [0xb0, 0x0b, 0x7f]],
    [message('cc', 10, 64, 0), [0xb9, 0x40, 0x00]],
    [message('note', 2, 60, 100), [0x91, 0x3c, 0x64]],
  ])('of %o are those of the specification, and are read back', (own, bytes) => {
    expect(writeMidiMessage(own)).toEqual(bytes)
    expect(readMidiMessage(bytes)).toEqual(own)
  })

  it('are refused outside of 7 bits and 16 channels', () => {
    expect(() => writeMidiMessage(message('cc', 17, 1))).toThrow('A MIDI channel is 1 to 16, not 17.')
    expect(() => writeMidiMessage(message('cc', 0, 1))).toThrow(RangeError)
    expect(() => writeMidiMessage(message('cc', 1, 128))).toThrow('0 to 127')
    expect(() => writeMidiMessage(message('cc', 1, 1, 1.5))).toThrow('0 to 127')
  })

  it('have the usual names where the specification gives one', () => {
    expect([0, 1, 4, 7, 10, 11, 32, 64].map(controllerName)).toEqual([
      'bank select, coarse',
      'modulation wheel',
      'foot pedal',
      'channel volume',
      'pan',
      'expression',
      'bank select, fine',
      'sustain pedal',
    ])
    expect([80, 102, 119].map(controllerName)).toEqual([null, null, null])
    expect([120, 123, 127].map(controllerName)).toEqual(['channel mode', 'channel mode', 'channel mode'])
    expect([0, 32, 99, 121].every(isReserved)).toBe(true)
    expect([1, 4, 11, 80, 119].some(isReserved)).toBe(false)
  })
})

describe('the list of a preset', () => {
  it('begins with its program, the bank before it in 14 bits', () => {
    // 259 = 2·128 + 3: controller 0 carries the upper seven bits, 32 the lower
    expect(midiList(by({ channel: 3, program: 12, bank: 259 }))[0].messages.map(writeMidiMessage)).toEqual([
      [0xb2, 0, 2],
      [0xb2, 32, 3],
      [0xc2, 12],
    ])
    expect(midiList(by({ program: null })).some((r) => r.kind === 'preset')).toBe(false)
  })

  it.each([
    { by: 'controller', controller: 80, first: 10 },
    { by: 'program', controller: 80, first: 10 },
  ] as const)('tells each snapshot by $by, and knows it again', (snapshots) => {
    const preset = by({ snapshots, channel: 5 })
    const rows = midiList(preset).filter((r) => r.kind === 'snapshot')
    expect(rows).toHaveLength(6)
    rows.forEach((row, i) => {
      expect(snapshotOf(preset, row.messages[0])?.id).toBe(preset.snapshots[i].id)
      expect(snapshotOf(preset, { ...row.messages[0], channel: 6 })).toBeUndefined()
    })
    const last = rows[5].messages[0]
    expect(snapshotOf(preset, snapshots.by === 'program' ? { ...last, number: 16 } : { ...last, value: 16 })).toBeUndefined()
    expect(snapshotOf(preset, snapshots.by === 'program' ? { ...last, number: 9 } : { ...last, value: 9 })).toBeUndefined()
    expect(snapshotOf(preset, { ...last, type: 'note' })).toBeUndefined()
  })

  it('leaves out snapshots beyond the last value', () => {
    expect(midiList(by({ snapshots: { by: 'program', controller: 80, first: 124 } })).filter((r) => r.kind === 'snapshot')).toHaveLength(4)
  })

  it('holds what sources and switches listen to', () => {
    const cc11 = { type: 'cc', channel: 0, number: 11 } as const
    const own = {
      ...createSwitch('s', { page: 'singles', bank: 0, index: 0 }),
      press: { do: 'tap' },
      midi: { type: 'note', channel: 2, number: 36 },
    } as const
    const preset: Preset = {
      ...by({ channel: 7 }),
      controls: [{ ...createControl('p', 'pedal', 'Pedal'), midi: cc11 }],
      board: { ...EMPTY_BOARD, switches: [own] },
    }
    const rows = midiList(preset)
    expect(rows.find((r) => r.id === 'p')?.messages.map(writeMidiMessage)).toEqual([
      [0xb6, 11, 0],
      [0xb6, 11, 127],
    ])
    expect(rows.find((r) => r.id === 's')).toMatchObject({ name: 'Tap', kind: 'switch' })
    expect(hears(cc11, message('cc', 9, 11, 3))).toBe(true)
    expect(hears(own.midi, message('note', 1, 36, 3))).toBe(false)
    expect(hears(null, message('note', 1, 36, 3))).toBe(false)
  })

  it('tells of one message for two things', () => {
    const pedal = (id: string, number: number, channel = 0) => ({
      ...createControl(id, 'pedal', id),
      midi: { type: 'cc', channel, number } as const,
    })
    const names = (preset: Preset) => midiClashes(preset).map(([a, b]) => `${a.name} ${b.name}`)
    expect(names({ ...bare, controls: [pedal('a', 11), pedal('b', 12)] })).toEqual([])
    expect(names({ ...bare, controls: [pedal('a', 11), pedal('b', 11)] })).toEqual(['a b'])
    expect(names({ ...bare, controls: [pedal('a', 11, 1), pedal('b', 11, 2)] })).toEqual([])
    // the snapshots' own controller
    expect(names({ ...bare, controls: [pedal('a', 80)] })).toHaveLength(6)
    // the preset's program among those of the snapshots
    expect(names(by({ program: 2, snapshots: { by: 'program', controller: 80, first: 0 } }))).toEqual(['Salt Road, pit main Storm lead'])
    // two uses of one pedal
    const switched = {
      ...createSwitch('s', { page: 'singles', bank: 0, index: 0 }),
      press: { do: 'pedals', controls: ['a', 'b'] },
    } as const
    expect(names({ ...bare, controls: [pedal('a', 11), pedal('b', 11)], board: { ...EMPTY_BOARD, switches: [switched] } })).toEqual([])
  })
})
