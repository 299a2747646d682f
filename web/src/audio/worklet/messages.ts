import type { Positions } from '@fulgor/core/preset'
import type { Plan } from '@fulgor/core/render'
import type { Quality, ResponseSource } from '@fulgor/core/signal'

/** From the page to the audio thread. */
export type ToWorklet =
  | { type: 'responses'; responses: Readonly<Record<string, ReturnType<ResponseSource>>> }
  /**
   * `gain`: linear, after the engine, for level-matched comparison. `against`: other values of the same chain whose sound is taken off,
   * so that only the difference is heard. `responses`: those that this plan needs and the last one did not; others than its own and
   * the shipped ones are forgotten.
   */
  | {
      type: 'plan'
      plan: Plan
      gain: number
      quality: Quality
      against?: Plan['values']
      responses?: Readonly<Record<string, ReturnType<ResponseSource>>>
    }
  /** Where the sources stand that the player has moved. */
  | { type: 'positions'; positions: Positions }
  | { type: 'riff'; samples: Float32Array }
  | { type: 'play'; on: boolean; loop: boolean; mono: boolean }
  | { type: 'seek'; share: number }
  /** What the engine hears: the riff, or the live input with a trim (linear) and a choice of its channels. */
  | { type: 'source'; live: boolean; channel: 'left' | 'right' | 'sum'; trim: number }
  /** Keeps the input's sound until it is switched off, then sends it whole: the chosen channel after its trim, or both as they come. */
  | { type: 'record'; on: boolean; both?: boolean }
  /** Mutes the output and sends what the engine hears to the tuner, ten times a second. */
  | { type: 'tuner'; on: boolean }
  /** What is heard is heard as at a place: its response, both sides summed or not; null takes it away. */
  | { type: 'place'; taps: Float64Array | null; mono: boolean }
  /** A band that is heard along while it plays, round and round from the same start as the riff; null: none. */
  | { type: 'backing'; sides: readonly [Float32Array, Float32Array] | null }
  /** A recording that can be heard in the preset's place, round and round; null: none. */
  | { type: 'recording'; sides: readonly [Float32Array, Float32Array] | null }
  /** Which of both is heard; `gain`: linear, of the recording. */
  | { type: 'compare'; recording: boolean; gain: number }
  /** Sends a short chirp out and what comes in meanwhile back. */
  | { type: 'ping' }

/** From the audio thread to the page, about 20 times a second while it plays, and once at each end. */
export interface MeterMessage {
  readonly type: 'meter'
  /** Place in the riff, 0–1. */
  readonly position: number
  /** Peaks since the last message, linear; `raw` is the live input before its trim. */
  readonly input: number
  readonly raw: number
  readonly left: number
  readonly right: number
  /** LUFS of the last 400 ms. */
  readonly momentary: number
}

export type FromWorklet =
  | MeterMessage
  | { type: 'ended' }
  | { type: 'failed'; reason: string }
  /** A stage failed while it sounded, and is mute until its values change. */
  | { type: 'muted'; stage: string; reason: string }
  | { type: 'applied'; structural: boolean }
  | { type: 'recorded'; channels: readonly Float32Array[] }
  | { type: 'pinged'; heard: Float32Array }
  | { type: 'heard'; samples: Float32Array }

/** How a node starts. */
export interface EngineOptions {
  /** Taken at once, before the first block: for offline renders through the worklet. */
  readonly initial?: readonly ToWorklet[]
}
