import { choice, nullable, record, whole, type RecordOf } from '@fulgor/core/document'

/** A controller or note that is listened to; channel 0 listens to all. */
export const bindingField = record({
  type: choice(['cc', 'note']),
  channel: whole([0, 16]),
  number: whole([0, 127]),
})

export type MidiBinding = RecordOf<typeof bindingField.fields>

export const midiPlanField = record({
  /** 1–16. */
  channel: whole([1, 16]),
  /** Program change of this preset, 0–127; null: none. */
  program: nullable(whole([0, 127])),
  /** Bank select before it, 0–16383; null: none. */
  bank: nullable(whole([0, 16_383])),
  /** Snapshots by programs from `first` on, or by values from `first` on of one controller. */
  snapshots: record({
    by: choice(['program', 'controller']),
    controller: whole([0, 119]),
    first: whole([0, 120]),
  }),
})

/** By which messages the player's device is told what to load. */
export type MidiPlan = RecordOf<typeof midiPlanField.fields>

export const DEFAULT_MIDI: MidiPlan = {
  channel: 1,
  program: 0,
  bank: null,
  snapshots: { by: 'controller', controller: 80, first: 0 },
}
