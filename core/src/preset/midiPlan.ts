/** By which messages the player's device is told what to load. */
export interface MidiPlan {
  /** 1–16. */
  readonly channel: number
  /** Program change of this preset, 0–127; null: none. */
  readonly program: number | null
  /** Bank select before it, 0–16383; null: none. */
  readonly bank: number | null
  /** Snapshots by programs from `first` on, or by values from `first` on of one controller. */
  readonly snapshots: { readonly by: 'program' | 'controller'; readonly controller: number; readonly first: number }
}

export const DEFAULT_MIDI: MidiPlan = {
  channel: 1,
  program: 0,
  bank: null,
  snapshots: { by: 'controller', controller: 80, first: 0 },
}
