import { expect, it } from 'vitest'
import { readMidiMessage } from '.'

// MIDI 1.0 Detailed Specification, MIDI Manufacturers Association 1996, table II (from memory)
it.each([
  [[0xb0, 11, 64], { type: 'cc', channel: 1, number: 11, value: 64 }],
  [[0xbf, 7, 127], { type: 'cc', channel: 16, number: 7, value: 127 }],
  [[0x90, 60, 100], { type: 'note', channel: 1, number: 60, value: 100 }],
  [[0x90, 60, 0], { type: 'note', channel: 1, number: 60, value: 0 }],
  [[0x83, 60, 64], { type: 'note', channel: 4, number: 60, value: 0 }],
  [[0xc2, 5], { type: 'program', channel: 3, number: 5, value: 0 }],
])('%j', (bytes, message) => expect(readMidiMessage(bytes)).toEqual(message))

it.each([[[0xe0, 0, 64]], [[0xf8]], [[0xb0, 11]], [[0xb0, 200, 1]], [[]], [[64, 1, 2]]])('%j is none', (bytes) => {
  expect(readMidiMessage(bytes)).toBeNull()
})
