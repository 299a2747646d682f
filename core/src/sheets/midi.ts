import { midiList } from '@fulgor/core/board'
import type { MidiMessage } from '@fulgor/core/formats'
import { playedSongs, songEnd, type Metre, type Song } from '@fulgor/core/show'
import type { Night } from './gig'

/** Ticks of a quarter note. */
export const NIGHT_TICKS = 480
/** bpm where a song has none. */
const NO_TEMPO = 120
/** Steps in which a pedal travels. */
const STEPS = 32

/** What stands in the file of a night, in the order of time. */
export type NightEvent = { readonly tick: number } & (
  | { readonly is: 'tempo'; readonly bpm: number }
  | { readonly is: 'metre'; readonly metre: Metre }
  | { readonly is: 'marker'; readonly text: string }
  | { readonly is: 'message'; readonly message: MidiMessage }
)

export interface NightFile {
  readonly events: readonly NightEvent[]
  readonly end: number
  /** What could not be written, and why. */
  readonly missing: readonly string[]
}

/**
 * A whole night as a sequence: tempo map, metres, a marker at every song and part, and the messages that load sounds, press switches and
 * move pedals at their bars. The time before a song runs in its own tempo.
 * @throws RangeError for an order that is not there
 */
export function nightFile({ show, order, plan, presets }: Night): NightFile {
  const events: NightEvent[] = []
  const missing = new Set<string>()
  let now = 0
  let loaded: string | null = null
  playedSongs(show, order).forEach(({ song, cue, gap }, item) => {
    const bpm = song.tempo ?? NO_TEMPO
    events.push({ tick: now, is: 'tempo', bpm }, { tick: now, is: 'metre', metre: song.metre })
    const start = now + Math.round((gap * bpm * NIGHT_TICKS) / 60)
    const tickOf = (at: number) => start + Math.round(at * ticksOf(song, bpm))
    events.push({ tick: start, is: 'marker', text: [cue, song.name].filter(Boolean).join(' ') })
    for (const part of song.parts) events.push({ tick: tickOf(part.at), is: 'marker', text: `${song.name}: ${part.name}` })
    for (const { change } of plan.changes) {
      if (change.item !== item) continue
      const shown = presets.find((p) => p.id === change.wanted.preset)
      if (!shown) continue
      const rows = midiList(shown.preset)
      let tick = tickOf(change.at)
      const send = (messages: readonly MidiMessage[]) => {
        for (const message of messages) events.push({ tick: tick++, is: 'message', message })
      }
      if (loaded !== shown.id) {
        loaded = shown.id
        const row = rows.find((r) => r.kind === 'preset')
        if (row) send(row.messages)
        else missing.add(`“${shown.preset.name}” has no program: nothing loads it.`)
      }
      if (change.does === 'sound') {
        const row = rows.find((r) => r.kind === 'snapshot' && r.id === change.wanted.snapshot)
        if (row) send(row.messages)
        else missing.add(`A snapshot of “${shown.preset.name}” has no message.`)
      }
      for (const stage of Object.keys(change.wanted.on)) {
        const own = shown.preset.board?.switches.find((s) => s.press?.do === 'stages' && s.press.stages.join() === stage)
        const row = own && rows.find((r) => r.kind === 'switch' && r.id === own.id)
        if (row) send(row.messages)
        else
          missing.add(`No switch of “${shown.preset.name}” with a MIDI message of its own turns ${stage} in ${song.name}: it is left out.`)
      }
    }
    for (const part of song.parts)
      for (const move of part.moves) {
        if (move.do !== 'pedal') continue
        const preset = presets.find((p) => p.id === part.sound?.preset)?.preset
        const control = preset?.controls?.find((c) => c.id === move.control)
        const row = preset && control ? midiList(preset).find((r) => r.kind === 'source' && r.id === control.id) : undefined
        if (!row || row.messages[0].type !== 'cc') {
          missing.add(`${control?.name ?? 'A pedal'} has no controller: its move in ${song.name} is left out.`)
          continue
        }
        for (let i = 0; i <= STEPS; i++) {
          const value = Math.round(127 * (move.from + ((move.to - move.from) * i) / STEPS))
          events.push({
            tick: tickOf(part.at + move.at + (move.length * i) / STEPS),
            is: 'message',
            message: { ...row.messages[0], value },
          })
        }
      }
    now = tickOf(songEnd(song))
  })
  return { events: [...events].sort((a, b) => a.tick - b.tick), end: now, missing: [...missing] }
}

/** Ticks of one count of a song: a beat of its metre, or a second. */
const ticksOf = ({ counted, metre }: Song, bpm: number): number =>
  counted === 'beats' ? (NIGHT_TICKS * 4) / metre.unit : (NIGHT_TICKS * bpm) / 60
