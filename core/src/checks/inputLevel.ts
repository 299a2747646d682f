import type { Preset } from '@fulgor/core/preset'
import { inputsOf, type Reading } from '@fulgor/core/reading'

/** What stands before a stage: the reading of the stage, sum or lane that it hears, or of the guitar. */
export function readingBefore(preset: Preset, reading: Reading, stage: string): Reading['guitar'] | Reading['stages'][string] | undefined {
  const before = inputsOf(preset.chain)[stage] as string | undefined
  return before === undefined ? undefined : before === '' ? reading.guitar : reading.stages[before]
}

/** Peak of the riff before a stage, dBFS; null for silence. */
export const inputLevel = (preset: Preset, reading: Reading, stage: string): number | null =>
  readingBefore(preset, reading, stage)?.peakDbfs ?? null
