/** A channel message that a source can listen to. */
export interface MidiMessage {
  readonly type: 'cc' | 'note' | 'program'
  /** 1–16. */
  readonly channel: number
  /** Controller, note or program, 0–127. */
  readonly number: number
  /** Value or velocity, 0–127; 0 for a note that ends and for a program change. */
  readonly value: number
}

/**
 * Reads a channel voice message: note off 8n, note on 9n (velocity 0 ends the note), control change Bn, program change Cn.
 * Source: MIDI 1.0 Detailed Specification, MIDI Manufacturers Association 1996, table II (from memory).
 * @returns null for every other message, and for one that is cut short
 */
export function readMidiMessage(bytes: ArrayLike<number>): MidiMessage | null {
  const status = bytes[0] & 0xf0
  const channel = (bytes[0] & 0x0f) + 1
  const data = (i: number) => (i < bytes.length && bytes[i] < 0x80 ? bytes[i] : null)
  const [first, second] = [data(1), data(2)]
  if (first === null) return null
  if (status === 0xc0) return { type: 'program', channel, number: first, value: 0 }
  if (second === null) return null
  if (status === 0xb0) return { type: 'cc', channel, number: first, value: second }
  if (status === 0x90) return { type: 'note', channel, number: first, value: second }
  if (status === 0x80) return { type: 'note', channel, number: first, value: 0 }
  return null
}

/**
 * A channel voice message as bytes: control change Bn, note on 9n, program change Cn.
 * Source: as {@link readMidiMessage}.
 * @throws RangeError for a channel outside of 1–16 or a number or value outside of 0–127
 */
export function writeMidiMessage({ type, channel, number, value }: MidiMessage): number[] {
  const fits = (n: number, low: number, high: number) => Number.isInteger(n) && n >= low && n <= high
  if (!fits(channel, 1, 16)) throw new RangeError(`A MIDI channel is 1 to 16, not ${channel}.`)
  if (!fits(number, 0, 127) || !fits(value, 0, 127)) throw new RangeError(`MIDI data run from 0 to 127, not ${number}, ${value}.`)
  if (type === 'program') return [0xc0 | (channel - 1), number]
  return [(type === 'cc' ? 0xb0 : 0x90) | (channel - 1), number, value]
}

/** What the specification says of some controllers; others are free to use. Source: as {@link readMidiMessage}, table III (from memory). */
const CONTROLLERS: Readonly<Record<number, string>> = {
  0: 'bank select, coarse',
  1: 'modulation wheel',
  2: 'breath',
  4: 'foot pedal',
  5: 'portamento time',
  6: 'data entry',
  7: 'channel volume',
  8: 'balance',
  10: 'pan',
  11: 'expression',
  32: 'bank select, fine',
  38: 'data entry, fine',
  64: 'sustain pedal',
  65: 'portamento on and off',
  66: 'sostenuto',
  67: 'soft pedal',
  96: 'data increment',
  97: 'data decrement',
  98: 'parameter number',
  99: 'parameter number',
  100: 'parameter number',
  101: 'parameter number',
}

export const controllerName = (number: number): string | null => (number >= 120 ? 'channel mode' : (CONTROLLERS[number] ?? null))

/** Controllers that mean something else to every device: bank select, parameter numbers and channel mode messages. */
export const isReserved = (number: number): boolean => number === 0 || number === 32 || (number >= 98 && number <= 101) || number >= 120
