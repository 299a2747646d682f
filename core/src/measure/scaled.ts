import { gainToDb } from '@fulgor/core/signal'
import { loudnessOfSteps, loudnessSteps, type Signal } from './loudness'
import { stageMeasures, type OutputMeasures, type StageMeasures } from './measures'
import { thirdOctavesOf, type Band } from './spectrum'

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
  readonly thirdOctave: readonly Band[]
}

/** @param known what is known already */
export const measuredOutput = (signal: Signal, sampleRate: number, known: Partial<MeasuredOutput> = {}): MeasuredOutput => ({
  stage: known.stage ?? stageMeasures(signal, sampleRate),
  steps: known.steps ?? loudnessSteps(signal, sampleRate),
  thirdOctave: known.thirdOctave ?? thirdOctavesOf(signal, sampleRate),
})

/** All measures of a measured output times a gain. @param gain linear, above 0 */
export function scaledOutput({ stage, steps, thirdOctave }: MeasuredOutput, gain: number): OutputMeasures {
  const db = gainToDb(gain)
  return {
    ...(gain === 1 ? stage : scaledStage(stage, gain)),
    ...loudnessOfSteps(gain === 1 ? steps : steps.map((power) => power * gain * gain)),
    thirdOctave: gain === 1 ? thirdOctave : thirdOctave.map((band) => ({ hz: band.hz, db: moved(band.db, db) })),
  }
}
