import { gainToDb } from '@fulgor/core/signal'
import { loudnessOfSteps, loudnessSteps, type Signal } from './loudness'
import { stageMeasures, type OutputLevels, type StageMeasures } from './measures'
import type { Band } from './spectrum'

/** dB below which a measure says silence. */
const SILENT_DB = -140

const moved = (level: number | null, db: number): number | null => (level === null || level + db <= SILENT_DB ? null : level + db)

/** The measures of a sound that is a measured one times a gain: what the gain does to each is known. @param gain linear, above 0 */
export function scaledStage(of: StageMeasures, gain: number): StageMeasures {
  const db = gainToDb(gain)
  const rmsDbfs = moved(of.rmsDbfs, db)
  return {
    rmsDbfs,
    peakDbfs: moved(of.peakDbfs, db),
    truePeakDbtp: moved(of.truePeakDbtp, db),
    crestDb: rmsDbfs === null ? null : of.crestDb,
    centroidHz: rmsDbfs === null ? null : of.centroidHz,
  }
}

/** An output with what its loudness is gated from: the gates stand still when a level moves. */
export interface MeasuredOutput {
  readonly stage: StageMeasures
  readonly steps: Float64Array
}

/** @param known what is known already */
export const measuredOutput = (signal: Signal, sampleRate: number, known: Partial<MeasuredOutput> = {}): MeasuredOutput => ({
  stage: known.stage ?? stageMeasures(signal, sampleRate),
  steps: known.steps ?? loudnessSteps(signal, sampleRate),
})

/** All levels of a measured output times a gain. @param gain linear, above 0 */
export function scaledOutput({ stage, steps }: MeasuredOutput, gain: number): OutputLevels {
  return {
    ...(gain === 1 ? stage : scaledStage(stage, gain)),
    ...loudnessOfSteps(gain === 1 ? steps : steps.map((power) => power * gain * gain)),
  }
}

/** Third octaves of a sound times a gain. @param gain linear, above 0 */
export const scaledBands = (bands: readonly Band[], gain: number): readonly Band[] =>
  gain === 1 ? bands : bands.map(({ hz, db }) => ({ hz, db: moved(db, gainToDb(gain)) }))
