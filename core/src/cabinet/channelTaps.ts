import { resample } from '@fulgor/core/signal'
import type { ChannelSource, MicBench } from './bench'
import { Kept } from './kept'
import { cepstralMinimumPhase } from './minimumPhase'
import { micResponse } from './radiation'

/** A decoded impulse response. */
export interface SoundFile {
  readonly sampleRate: number
  readonly channels: readonly Float32Array[]
}

/** Gives a stored file by its hash; null where it is not on this machine. */
export type FileSource = (file: string) => SoundFile | null

const kept = new Kept<Float64Array>(4_000_000, (taps) => taps.length)

/**
 * The raw response of one channel at a sample rate, before level, delay and cuts; null where its file is missing. Kept for the next
 * time: only what was moved is computed anew.
 */
export function sourceTaps(
  cab: MicBench['cab'],
  source: ChannelSource,
  minimumPhase: boolean,
  sampleRate: number,
  frames: number,
  files: FileSource,
): Float64Array | null {
  const key = `${JSON.stringify(source.kind === 'mic' ? [cab, source] : [source.file, source.side])} ${minimumPhase} ${sampleRate} ${frames}`
  const known = kept.get(key)
  if (known) return known
  const raw = source.kind === 'mic' ? micResponse(cab, source, sampleRate, frames) : fileTaps(files(source.file), source.side, sampleRate)
  if (!raw) return null
  const whole = minimumPhase ? cepstralMinimumPhase(raw) : raw
  return kept.keep(key, whole.length === frames ? whole : cutTo(whole, frames))
}

function fileTaps(file: SoundFile | null, side: 'sum' | 'left' | 'right', sampleRate: number): Float64Array | null {
  if (!file) return null
  const [left, right = left] = file.channels
  const one = side === 'left' ? left : side === 'right' ? right : left === right ? left : left.map((x, n) => 0.5 * (x + right[n]))
  return resampledResponse(one, file.sampleRate, sampleRate)
}

/**
 * A response at another rate that filters alike: resampled by {@link resample} (Kaiser-windowed sinc) and scaled by the ratio of the
 * rates, so that the gain at each frequency stays.
 */
export function resampledResponse(taps: Float32Array, from: number, to: number): Float64Array {
  const scale = from / to
  return Float64Array.from(resample(taps, from, to), (x) => x * scale)
}

function cutTo(taps: Float64Array, frames: number): Float64Array {
  const out = new Float64Array(frames)
  out.set(taps.subarray(0, frames))
  if (taps.length > frames) fadeOut(out, Math.min(frames >> 2, 512))
  return out
}

/** A half cosine over the last frames. */
export function fadeOut(taps: Float64Array, frames: number): void {
  for (let n = 0; n < frames; n++) taps[taps.length - 1 - n] *= 0.5 - 0.5 * Math.cos((Math.PI * n) / frames)
}
