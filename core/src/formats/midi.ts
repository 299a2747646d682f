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
