import { layerSpecs } from '@fulgor/core/catalogue'
import type { RiffChoice } from './preset'

/** One sound of a mix: a snapshot of this or another preset, played on a take of its own. */
export interface Layer {
  readonly id: string
  /** Id of another preset; null is this one. */
  readonly preset: string | null
  readonly snapshot: string
  readonly riff: RiffChoice
  readonly on: boolean
  readonly level: number
  readonly pan: number
  readonly delay: number
  readonly detune: number
}

export const MAX_LAYERS = 8
/** Takes of a shipped riff: the same notes, struck again. */
export const MAX_RIFF_TAKES = 4

export const createLayer = (id: string, preset: string | null, snapshot: string, riff: RiffChoice): Layer => ({
  id,
  preset,
  snapshot,
  riff,
  on: true,
  level: layerSpecs.level.initial,
  pan: layerSpecs.pan.initial,
  delay: layerSpecs.delay.initial,
  detune: layerSpecs.detune.initial,
})
