import { gainToDb } from '@fulgor/core/signal'
import { loudness, type Loudness, type Signal } from './loudness'
import { averageSpectrum, centroid, thirdOctaves, type Band } from './spectrum'
import { samplePeak, truePeak } from './truePeak'

/** What the Sheet shows after every stage. Levels in dBFS; nulls where silence allows no figure. */
export interface StageMeasures {
  readonly rmsDbfs: number | null
  readonly peakDbfs: number | null
  readonly truePeakDbtp: number | null
  readonly crestDb: number | null
  readonly centroidHz: number | null
}

/** What is measured of a whole output or recording. */
export interface OutputMeasures extends StageMeasures, Loudness {
  readonly thirdOctave: readonly Band[]
}

/** Root mean square over all channels, linear: a stereo signal's is the mean of both sides' power. */
export function rms(signal: Signal): number {
  let sum = 0
  for (const data of signal) for (let n = 0; n < data.length; n++) sum += data[n] * data[n]
  return Math.sqrt(sum / Math.max(1, signal.length * signal[0].length))
}

const SILENCE = 1e-7
const level = (linear: number): number | null => (linear > SILENCE ? gainToDb(linear) : null)

/** Level, crest (true peak over RMS) and brightness. */
export function stageMeasures(signal: Signal, sampleRate: number): StageMeasures {
  const rmsDbfs = level(rms(signal))
  const truePeakDbtp = level(truePeak(signal))
  return {
    rmsDbfs,
    peakDbfs: level(samplePeak(signal)),
    truePeakDbtp,
    crestDb: rmsDbfs === null || truePeakDbtp === null ? null : truePeakDbtp - rmsDbfs,
    centroidHz: rmsDbfs === null ? null : centroid(averageSpectrum(signal, sampleRate, 4096, 4096)),
  }
}

/** All measures of an output; `stage` may bring those that are already known. */
export function outputMeasures(signal: Signal, sampleRate: number, stage = stageMeasures(signal, sampleRate)): OutputMeasures {
  return { ...stage, ...loudness(signal, sampleRate), thirdOctave: thirdOctaves(averageSpectrum(signal, sampleRate)) }
}
