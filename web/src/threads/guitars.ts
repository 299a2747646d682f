import { readSound } from '@fulgor/core/formats'
import {
  dryChannel,
  measureGuitar,
  measureSteps,
  strokesOn,
  UnfitRecording,
  type GuitarMeasure,
  type GuitarProfile,
  type Voice,
} from '@fulgor/core/guitar'
import { averageSpectrum, centroid } from '@fulgor/core/measure'
import type { Strength } from '@fulgor/core/riffs'
import type { Task } from '../background/tasks'
import { SAMPLE_RATE } from './rate'
import { outlineOf } from './recordings'

type Strings = Pick<GuitarProfile, 'a4' | 'strings'>

/** What a dropped file is, with its outline to be shown. */
export interface MeasuredFile {
  readonly measure: GuitarMeasure
  /** Loudest sample of each of {@link OUTLINE} stretches. */
  readonly outline: Float32Array
}

const OUTLINE = 480

/** The sentence begins with the file that it is about. */
const told = (name: string, error: unknown): never => {
  if (error instanceof UnfitRecording) throw new Error(`“${name}” ${error.message}`)
  throw new Error(`“${name}”: ${error instanceof Error ? error.message : String(error)}`)
}

export const guitarTasks = {
  /** Rest and strums of a dropped recording. @param channel which side, where the player says so */
  measureFile(_task: Task, name: string, bytes: Uint8Array, guitar: Strings, channel: 0 | 1 | null): MeasuredFile {
    try {
      const { channels, sampleRate } = readSound(bytes)
      const { samples, note } = dryChannel(channels, channel ?? undefined)
      return { measure: measureGuitar(samples, sampleRate, guitar, note), outline: outlineOf([samples], OUTLINE) }
    } catch (error) {
      return told(name, error)
    }
  },

  measurePlayed: (_task: Task, steps: Readonly<Record<'rest' | Strength, Float32Array>>, guitar: Strings): GuitarMeasure =>
    measureSteps(steps, SAMPLE_RATE, guitar),

  /** Brightness of a normal strum as the string model plays it, Hz. */
  modelBrightness: (_task: Task, voice: Voice): number | null =>
    centroid(averageSpectrum([strokesOn(voice, 'normal', SAMPLE_RATE)], SAMPLE_RATE)),

  /** A bar of strums, to be heard. */
  strums: (_task: Task, voice: Voice, strength: Strength): Float32Array => strokesOn(voice, strength, SAMPLE_RATE),
}
