import ical, { ICalEventTransparency } from 'ical-generator'
import { writeMidi, type MidiEvent } from 'midi-file'
import Papa from 'papaparse'
import type { MidiMessage } from '@fulgor/core/formats'
import { gigRows, NIGHT_TICKS, nightFile, orderOf, songAbout, type Night } from '@fulgor/core/sheets'
import { playedSongs } from '@fulgor/core/show'

/** h that a night without tempos is taken to last. */
const HOURS = 2

/** Text as UTF-8, byte by byte, as the writer wants it. */
const utf8 = (text: string): string => String.fromCharCode(...new TextEncoder().encode(text))

function messageOf({ type, channel, number, value }: MidiMessage): MidiEvent {
  const on = channel - 1
  if (type === 'program') return { deltaTime: 0, type: 'programChange', channel: on, programNumber: number }
  if (type === 'cc') return { deltaTime: 0, type: 'controller', channel: on, controllerType: number, value }
  return { deltaTime: 0, type: value > 0 ? 'noteOn' : 'noteOff', channel: on, noteNumber: number, velocity: value }
}

function timed(rows: readonly { readonly tick: number; readonly event: MidiEvent }[], end: number): MidiEvent[] {
  let before = 0
  return [...rows, { tick: Math.max(end, rows.at(-1)?.tick ?? 0), event: { deltaTime: 0, type: 'endOfTrack' } as MidiEvent }].map(
    ({ tick, event }) => {
      const made = { ...event, deltaTime: tick - before }
      before = tick
      return made
    },
  )
}

/** The night as a Standard MIDI File of format 1: tempo map and markers in the first track, all messages in the second. */
export function nightMidi(night: Night): { bytes: Uint8Array<ArrayBuffer>; missing: readonly string[] } {
  const { events, end, missing } = nightFile(night)
  const head: { tick: number; event: MidiEvent }[] = [{ tick: 0, event: { deltaTime: 0, type: 'trackName', text: utf8(night.show.name) } }]
  const messages: { tick: number; event: MidiEvent }[] = []
  for (const e of events) {
    if (e.is === 'message') messages.push({ tick: e.tick, event: messageOf(e.message) })
    else if (e.is === 'marker') head.push({ tick: e.tick, event: { deltaTime: 0, type: 'marker', text: utf8(e.text) } })
    else if (e.is === 'tempo')
      head.push({ tick: e.tick, event: { deltaTime: 0, type: 'setTempo', microsecondsPerBeat: Math.round(60_000_000 / e.bpm) } })
    else
      head.push({
        tick: e.tick,
        event: {
          deltaTime: 0,
          type: 'timeSignature',
          numerator: e.metre.beats,
          denominator: e.metre.unit,
          metronome: 24,
          thirtyseconds: 8,
        },
      })
  }
  const header = { format: 1, numTracks: 2, ticksPerBeat: NIGHT_TICKS } as const
  return { bytes: Uint8Array.from(writeMidi({ header, tracks: [timed(head, end), timed(messages, end)] })), missing }
}

/** The running order as a table. */
export const nightCsv = (night: Night): string =>
  // a name that begins as a formula does stays text in a spreadsheet
  Papa.unparse(gigRows(night), { escapeFormulae: true, newline: '\r\n' })

/**
 * The night as a calendar file, by the clock of the place (RFC 5545, floating time).
 * @throws RangeError where the night has no day
 */
export function nightCalendar(night: Night): string {
  const order = orderOf(night)
  if (order.day === null) throw new RangeError('The night has no day yet: write it under Night.')
  const [y, m, d] = order.day.split('-').map(Number)
  const [hour, minute] = (order.time ?? '00:00').split(':').map(Number)
  const start = new Date(y, m - 1, d, hour, minute)
  const songs = playedSongs(night.show, night.order)
  const seconds = songs.at(-1)?.to ?? HOURS * 3600
  const calendar = ical({ name: night.show.name, prodId: { company: 'Fulgor', product: 'Set', language: 'EN' } })
  calendar.createEvent({
    id: `${night.show.name}-${order.id}-${order.day}`.replace(/[^A-Za-z0-9-]+/g, '-'),
    start,
    end: order.time === null ? undefined : new Date(start.getTime() + 1000 * seconds),
    allDay: order.time === null,
    floating: true,
    summary: `${night.show.name}, ${order.name}`,
    location: order.venue === '' ? undefined : order.venue,
    description: songs.map(({ song, cue }) => [cue, song.name, songAbout(song)].filter(Boolean).join(' ')).join('\n'),
    transparency: ICalEventTransparency.OPAQUE,
  })
  return calendar.toString()
}
