import type { Plan } from '@fulgor/core/render'

/** From the page to the audio thread. */
export type ToWorklet =
  | { type: 'responses'; responses: Readonly<Record<string, Float64Array>> }
  /** `gain`: linear, after the engine, for level-matched comparison. */
  | { type: 'plan'; plan: Plan; gain: number }
  | { type: 'riff'; samples: Float32Array }
  | { type: 'play'; on: boolean; loop: boolean; mono: boolean }
  | { type: 'seek'; share: number }

/** From the audio thread to the page, about 20 times a second while it plays, and once at each end. */
export interface MeterMessage {
  readonly type: 'meter'
  /** Place in the riff, 0–1. */
  readonly position: number
  /** Peaks since the last message, linear. */
  readonly input: number
  readonly left: number
  readonly right: number
  /** LUFS of the last 400 ms. */
  readonly momentary: number
}

export type FromWorklet = MeterMessage | { type: 'ended' } | { type: 'failed'; reason: string } | { type: 'applied'; structural: boolean }

/** How a node starts. */
export interface EngineOptions {
  /** Taken at once, before the first block: for offline renders through the worklet. */
  readonly initial?: readonly ToWorklet[]
}
