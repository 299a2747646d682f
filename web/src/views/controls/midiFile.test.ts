import MIDIFile from 'midifile'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { midiList } from '@fulgor/core/board'
import { demoPresets } from '@fulgor/core/demo'
import { applyEdit, createControl, DEFAULT_MIDI, type Preset } from '@fulgor/core/preset'
import { hexOf, midiCsv, midiFile } from './midiFile'

const base: Preset = { ...demoPresets[0].preset, controls: [], board: undefined }
const preset: Preset = applyEdit(
  {
    ...base,
    name: 'Salzstraße, pit “main”',
    midiPlan: { ...DEFAULT_MIDI, channel: 3, program: 12, bank: 259, snapshots: { by: 'controller', controller: 80, first: 4 } },
  },
  {
    type: 'all',
    edits: [
      { type: 'addControl', control: { ...createControl('p', 'pedal', '=Swell'), midi: { type: 'cc', channel: 0, number: 11 } } },
      { type: 'addControl', control: { ...createControl('m', 'momentary', 'Hold'), midi: { type: 'note', channel: 5, number: 60 } } },
    ],
  },
)
const rows = midiList(preset)

/** Read by a package that has nothing to do with the one that wrote. */
const file = new MIDIFile(midiFile(rows, preset.name, 96))
const events = file.getMidiEvents()

// event subtypes of midievents: note off 8, note on 9, controller B, program C: MIDI 1.0, table II
describe('Standard MIDI File, read back by an independent package', () => {
  it('has a head of format 1, its tempo and a marker for each bar', () => {
    expect(file.header.getFormat()).toBe(1)
    expect(file.header.getTracksCount()).toBe(2)
    expect(file.header.getTicksPerBeat()).toBe(480)
    const head = file.getTrackEvents(0)
    const text = (subtype: number) =>
      head.filter((e) => e.subtype === subtype).map((e) => new TextDecoder().decode(Uint8Array.from(e.data ?? [])))
    expect(text(0x03)).toEqual([preset.name])
    expect(text(0x06)).toEqual(rows.map((r) => r.name))
    expect(head.find((e) => e.subtype === 0x51)?.tempo).toBe(625_000)
  })

  it('selects the bank and the program, then each snapshot a bar later', () => {
    const channel3 = events.filter((e) => e.channel === 2)
    const at = (e: { playTime: number }) => Math.round(e.playTime)
    // a bar of four quarters at 96 bpm lasts 2,500 ms; 259 is 2·128 + 3
    expect(channel3.slice(0, 4).map((e) => [e.subtype, e.param1, e.param2, at(e)])).toEqual([
      [0xb, 0, 2, 0],
      [0xb, 32, 3, 1],
      [0xc, 12, undefined, 3],
      [0xb, 80, 4, 2_500],
    ])
    expect(channel3.filter((e) => e.param1 === 80).map((e) => [e.param2, at(e)])).toEqual(
      preset.snapshots.map((_, i) => [4 + i, 2_500 * (1 + i)]),
    )
  })

  it('takes a pedal from heel to toe, and a note down and up', () => {
    const travel = events.filter((e) => e.subtype === 0xb && e.param1 === 11).map((e) => e.param2 ?? -1)
    expect(travel).toHaveLength(33)
    expect([travel[0], travel[32]]).toEqual([0, 127])
    expect(travel.every((v, i) => i === 0 || v > travel[i - 1])).toBe(true)
    expect(events.filter((e) => e.channel === 4).map((e) => [e.subtype, e.param1])).toEqual([
      [0x9, 60],
      [0x8, 60],
    ])
  })
})

describe('table of messages', () => {
  it('is read back with its names and bytes', () => {
    const { data } = Papa.parse<Record<string, string>>(midiCsv(rows), { header: true })
    expect(data).toHaveLength(rows.reduce((n, r) => n + r.messages.length, 0))
    expect(data[0]).toMatchObject({
      kind: 'preset',
      name: preset.name,
      message: 'controller',
      channel: '3',
      number: '0',
      value: '2',
      bytes: 'B2 00 02',
    })
    expect(data[0]['usual name']).toBe('bank select, coarse')
    expect(data[2]).toMatchObject({ message: 'program change', number: '12', value: '', bytes: 'C2 0C' })
    expect(data.find((d) => d.name.endsWith('=Swell'))?.name).toBe("'=Swell")
  })

  // MIDI 1.0, table II: status, then data bytes
  it('shows bytes in hexadecimal', () => {
    expect(hexOf({ type: 'cc', channel: 16, number: 11, value: 127 })).toBe('BF 0B 7F')
    expect(hexOf({ type: 'note', channel: 1, number: 60, value: 64 })).toBe('90 3C 40')
    expect(hexOf({ type: 'program', channel: 10, number: 5, value: 0 })).toBe('C9 05')
  })
})
