import { writeMidi, type MidiEvent } from 'midi-file'
import Papa from 'papaparse'
import type { MidiRow } from '@fulgor/core/board'
import { controllerName, writeMidiMessage, type MidiMessage } from '@fulgor/core/formats'

/** Ticks of a quarter note. */
const TICKS = 480
const BAR = 4 * TICKS
/** Steps in which a source travels over its bar. */
const STEPS = 32

interface Timed {
  readonly tick: number
  readonly event: MidiEvent
}

/** Text as UTF-8, byte by byte, as the writer wants it. */
const utf8 = (text: string): string => String.fromCharCode(...new TextEncoder().encode(text))

function eventOf({ type, channel: from1, number, value }: MidiMessage): MidiEvent {
  const channel = from1 - 1
  if (type === 'program') return { deltaTime: 0, type: 'programChange', channel, programNumber: number }
  if (type === 'cc') return { deltaTime: 0, type: 'controller', channel, controllerType: number, value }
  return value > 0
    ? { deltaTime: 0, type: 'noteOn', channel, noteNumber: number, velocity: value }
    : { deltaTime: 0, type: 'noteOff', channel, noteNumber: number, velocity: 0 }
}

/** What stands in the bar of a row: a program at its start, a source's whole travel, a switch down for a beat. */
function inBar({ kind, messages }: MidiRow): readonly { tick: number; message: MidiMessage }[] {
  if (kind === 'preset' || kind === 'snapshot') return messages.map((message, i) => ({ tick: i, message }))
  const [low, high] = messages
  if (kind === 'switch' || low.type === 'note')
    return [
      { tick: 0, message: high },
      { tick: TICKS, message: low },
    ]
  return Array.from({ length: STEPS + 1 }, (_, i) => ({
    tick: Math.round((i * (BAR - TICKS)) / STEPS),
    message: { ...low, value: Math.round((127 * i) / STEPS) },
  }))
}

const withDeltas = (events: readonly Timed[]): MidiEvent[] => {
  let before = 0
  return [...events]
    .sort((a, b) => a.tick - b.tick)
    .map(({ tick, event }) => {
      const timed = { ...event, deltaTime: tick - before }
      before = tick
      return timed
    })
}

/**
 * All messages as a Standard MIDI File of format 1, for a sequencer: one bar a row, its name as a marker, so that each can be cut out and
 * put where it belongs.
 * @param tempo bpm
 */
export function midiFile(rows: readonly MidiRow[], name: string, tempo: number): Uint8Array<ArrayBuffer> {
  const end = rows.length * BAR
  const head: Timed[] = [
    { tick: 0, event: { deltaTime: 0, type: 'trackName', text: utf8(name) } },
    { tick: 0, event: { deltaTime: 0, type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / tempo) } },
    { tick: 0, event: { deltaTime: 0, type: 'timeSignature', numerator: 4, denominator: 4, metronome: 24, thirtyseconds: 8 } },
    ...rows.map((row, bar): Timed => ({ tick: bar * BAR, event: { deltaTime: 0, type: 'marker', text: utf8(row.name) } })),
    { tick: end, event: { deltaTime: 0, type: 'endOfTrack' } },
  ]
  const messages: Timed[] = [
    ...rows.flatMap((row, bar) => inBar(row).map(({ tick, message }) => ({ tick: bar * BAR + tick, event: eventOf(message) }))),
    { tick: end, event: { deltaTime: 0, type: 'endOfTrack' } },
  ]
  const header = { format: 1, numTracks: 2, ticksPerBeat: TICKS } as const
  return Uint8Array.from(writeMidi({ header, tracks: [withDeltas(head), withDeltas(messages)] }))
}

export const hexOf = (message: MidiMessage): string =>
  writeMidiMessage(message)
    .map((byte) => byte.toString(16).toUpperCase().padStart(2, '0'))
    .join(' ')

export const TYPE_NAMES: Record<MidiMessage['type'], string> = { cc: 'controller', note: 'note', program: 'program change' }

/** All messages as a table, one a row. */
export const midiCsv = (rows: readonly MidiRow[]): string =>
  Papa.unparse(
    rows.flatMap(({ kind, name, what, messages }) =>
      messages.map((message) => ({
        kind,
        name,
        what,
        message: TYPE_NAMES[message.type],
        channel: message.channel,
        number: message.number,
        'usual name': message.type === 'cc' ? (controllerName(message.number) ?? '') : '',
        value: message.type === 'program' ? '' : message.value,
        bytes: hexOf(message),
      })),
    ),
    // a name that begins as a formula does stays text in a spreadsheet
    { escapeFormulae: true, newline: '\r\n' },
  )
