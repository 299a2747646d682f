import { resample } from '@fulgor/core/signal'
import type { MicBench } from './bench'
import { blendResponse } from './blend'
import { fadeOut, type FileSource } from './channelTaps'
import { cepstralMinimumPhase } from './minimumPhase'

/** How a blend leaves as a file. */
export interface ExportSettings {
  readonly sampleRate: 44_100 | 48_000 | 96_000
  readonly bits: 16 | 24 | 32
  /** ms. */
  readonly lengthMs: number
  /** ms at the end. */
  readonly fadeMs: number
  readonly minimumPhase: boolean
  /** `peak`: −0.3 dBFS; `loudness`: unity for pink noise, as the bench plays it. */
  readonly normalise: 'peak' | 'loudness'
}

export const PEAK_DBFS = -0.3

export const DEFAULT_EXPORT: ExportSettings = {
  sampleRate: 48_000,
  bits: 24,
  lengthMs: (2_048 / 48_000) * 1000,
  fadeMs: 5,
  minimumPhase: false,
  normalise: 'peak',
}

/** Rate at which a blend is computed before it is resampled. */
const RATE = 48_000

/**
 * A bench's blend for a file: computed at 48 kHz, made minimum-phase if wanted, resampled by a Kaiser-windowed sinc, faded, and
 * brought to its level. Integer formats that would clip at unity loudness are held under full scale.
 * @returns one or two channels, and dB of gain against what the bench plays
 */
export function exportBlend(
  bench: MicBench,
  settings: ExportSettings,
  files: FileSource,
): { channels: Float32Array[]; gainDb: number; heldDb: number } {
  const frames48 = Math.max(16, Math.round((settings.lengthMs / 1000) * RATE))
  const { left, right } = blendResponse(bench, RATE, files, undefined, frames48)
  const sides = (right ? [left, right] : [left]).map((side) => (settings.minimumPhase ? cepstralMinimumPhase(side) : side))
  const frames = Math.round((settings.lengthMs / 1000) * settings.sampleRate)
  const out = sides.map((side) => {
    const scale = RATE / settings.sampleRate
    const moved = settings.sampleRate === RATE ? Float32Array.from(side) : resample(Float32Array.from(side), RATE, settings.sampleRate)
    const taps = new Float64Array(frames)
    for (let n = 0; n < Math.min(frames, moved.length); n++) taps[n] = moved[n] * (settings.sampleRate === RATE ? 1 : scale)
    fadeOut(taps, Math.min(frames - 1, Math.round((settings.fadeMs / 1000) * settings.sampleRate)))
    return taps
  })
  const peak = out.reduce((most, side) => side.reduce((m, x) => Math.max(m, Math.abs(x)), most), 0)
  if (peak === 0) throw new RangeError('The blend is silent: unmute a channel first.')
  const ceiling = Math.pow(10, PEAK_DBFS / 20)
  const gain = settings.normalise === 'peak' ? ceiling / peak : 1
  const held = settings.bits !== 32 && peak * gain > ceiling ? ceiling / (peak * gain) : 1
  return {
    channels: out.map((side) => Float32Array.from(side, (x) => x * gain * held)),
    gainDb: 20 * Math.log10(gain * held),
    heldDb: 20 * Math.log10(held),
  }
}
