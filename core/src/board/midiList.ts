import type { MidiMessage } from '@fulgor/core/formats'
import { DEFAULT_MIDI, functionsOf, type Control, type Preset, type Snapshot } from '@fulgor/core/preset'
import { arePaired, functionLabel } from './functions'

/** Something that can be sent to a device, or comes from one: its messages, and what they mean. */
export interface MidiRow {
  readonly kind: 'preset' | 'snapshot' | 'source' | 'switch'
  /** Of the snapshot, source or switch. */
  readonly id: string
  readonly name: string
  /** What it does, as a sentence's end. */
  readonly what: string
  /** In this order. Of a source: heel, then toe; of a switch: down, then up. */
  readonly messages: readonly MidiMessage[]
}

/** Messages of the preset: its program, its snapshots, and what sources and switches listen to. */
export function midiList(preset: Preset): MidiRow[] {
  const plan = preset.midiPlan ?? DEFAULT_MIDI
  const { channel, program, bank } = plan
  const message = (type: MidiMessage['type'], number: number, value = 0): MidiMessage => ({ type, channel, number, value })
  const select = bank === null ? [] : [message('cc', 0, bank >> 7), message('cc', 32, bank & 0x7f)]
  const own: MidiRow[] =
    program === null
      ? []
      : [{ kind: 'preset', id: '', name: preset.name, what: 'loads the preset', messages: [...select, message('program', program)] }]
  const snapshots = preset.snapshots.flatMap((snapshot, i): MidiRow[] => {
    const number = plan.snapshots.first + i
    if (number > 127) return []
    const how = plan.snapshots.by === 'program' ? message('program', number) : message('cc', plan.snapshots.controller, number)
    return [{ kind: 'snapshot', id: snapshot.id, name: snapshot.name, what: 'loads the snapshot', messages: [how] }]
  })
  const sources = (preset.controls ?? []).flatMap((control): MidiRow[] => {
    if (control.midi === null) return []
    return [
      {
        kind: 'source',
        id: control.id,
        name: control.name,
        what: `moves ${control.targets.length} ${control.targets.length === 1 ? 'target' : 'targets'}`,
        messages: ends(control.midi, channel),
      },
    ]
  })
  const switches = (preset.board?.switches ?? []).flatMap((own): MidiRow[] => {
    if (own.midi === null) return []
    const fns = functionsOf(own)
    const label = own.label || (fns.length > 0 ? functionLabel(preset, fns[0].fn) : 'Switch')
    return [{ kind: 'switch', id: own.id, name: label, what: 'presses the switch', messages: ends(own.midi, channel) }]
  })
  return [...own, ...snapshots, ...sources, ...switches]
}

/** From one end to the other; what listens to all channels is sent on the preset's. */
const ends = (midi: NonNullable<Control['midi']>, channel: number): MidiMessage[] =>
  [0, 127].map((value) => ({ type: midi.type, channel: midi.channel === 0 ? channel : midi.channel, number: midi.number, value }))

/** The snapshot that a message loads; undefined where it loads none. */
export function snapshotOf(preset: Preset, { type, channel, number, value }: MidiMessage): Snapshot | undefined {
  const plan = preset.midiPlan ?? DEFAULT_MIDI
  if (channel !== plan.channel) return undefined
  const { by, controller, first } = plan.snapshots
  if (by === 'program')
    return type === 'program' ? preset.snapshots.at(number - first < 0 ? preset.snapshots.length : number - first) : undefined
  return type === 'cc' && number === controller && value >= first ? preset.snapshots.at(value - first) : undefined
}

/** Whether a message is for what listens; channel 0 hears all. */
export const hears = (midi: Control['midi'], { type, channel, number }: MidiMessage): boolean =>
  midi?.type === type && midi.number === number && (midi.channel === 0 || midi.channel === channel)

/** Rows of which two would be meant by the same message. */
export function midiClashes(preset: Preset): (readonly [MidiRow, MidiRow])[] {
  const rows = midiList(preset)
  const keys = (row: MidiRow) =>
    row.messages.map(({ type, channel, number, value }) => {
      // a source or switch takes every value of its number, the others only theirs
      const wide = row.kind === 'source' || row.kind === 'switch'
      return { type, channel, number, value: type === 'program' ? null : wide ? null : value }
    })
  return rows.flatMap((a, i) =>
    rows.slice(i + 1).flatMap((b) => {
      // two uses of one pedal
      if (arePaired(preset, a.id, b.id)) return []
      const same = keys(a).some((x) =>
        keys(b).some(
          (y) =>
            x.type === y.type &&
            x.channel === y.channel &&
            x.number === y.number &&
            (x.value === y.value || x.value === null || y.value === null),
        ),
      )
      return same ? [[a, b] as const] : []
    }),
  )
}
