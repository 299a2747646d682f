import { gainToDb } from '@fulgor/core/signal'
import { loudness, type Loudness, type Signal } from './loudness'
import { survey, thirdOctavesOf, type Band } from './spectrum'

/** What the Sheet shows after every stage. Levels in dBFS; nulls where silence allows no figure. */
export interface StageMeasures {
  readonly rmsDbfs: number | null
  readonly peakDbfs: number | null
  readonly truePeakDbtp: number | null
  readonly crestDb: number | null
  readonly centroidHz: number | null
}

/** Levels, loudness and brightness of a whole output. */
export interface OutputLevels extends StageMeasures, Loudness {}

/** What is measured of a whole output or recording. */
export interface OutputMeasures extends OutputLevels {
  readonly thirdOctave: readonly Band[]
}

const SILENCE = 1e-7
const level = (linear: number): number | null => (linear > SILENCE ? gainToDb(linear) : null)

/** Level, crest (true peak over RMS) and brightness. */
export function stageMeasures(signal: Signal, sampleRate: number): StageMeasures {
  const { rms: linear, peak, truePeak, centroidHz } = survey(signal, sampleRate)
  const rmsDbfs = level(linear)
  const truePeakDbtp = level(truePeak)
  return {
    rmsDbfs,
    peakDbfs: level(peak),
    truePeakDbtp,
    crestDb: rmsDbfs === null || truePeakDbtp === null ? null : truePeakDbtp - rmsDbfs,
    centroidHz: rmsDbfs === null ? null : centroidHz,
  }
}

/** All measures of an output; `stage` may bring those that are already known. */
export function outputMeasures(signal: Signal, sampleRate: number, stage = stageMeasures(signal, sampleRate)): OutputMeasures {
  return { ...stage, ...loudness(signal, sampleRate), thirdOctave: thirdOctavesOf(signal, sampleRate) }
}
