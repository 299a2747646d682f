import { averageSpectrum, type Spectrum } from '@fulgor/core/measure'

/**
 * A stretch up to the last whole window of a spectrum: its end is a click, and clicks hold every frequency. Shorter than a window it
 * stays as it is.
 */
export function wholeWindows(sides: readonly Float32Array[], size: number): Float32Array[] {
  const hop = size / 2
  const { length } = sides[0]
  const frames = length < size ? length : size + hop * Math.floor((length - size) / hop)
  return sides.map((x) => x.subarray(0, frames))
}

const BLOCK_S = 0.5
/** dB under the loudest half second that still sound: rests and what rings out say nothing of a tone, but hold the noise. */
const REST_DB = 25

/** Half seconds that sound: their first samples, and the length of one. */
export function soundingBlocks(sides: readonly Float32Array[], sampleRate: number): { starts: readonly number[]; frames: number } {
  const frames = Math.min(sides[0].length, Math.round(BLOCK_S * sampleRate))
  const starts = Array.from({ length: Math.floor(sides[0].length / frames) }, (_, k) => k * frames)
  const levels = starts.map((at) => {
    let power = 1e-30
    for (const x of sides) for (let n = at; n < at + frames; n++) power += x[n] * x[n]
    return 10 * Math.log10(power)
  })
  const loudest = Math.max(...levels)
  return { starts: starts.filter((_, k) => levels[k] > loudest - REST_DB), frames }
}

/** Long-time spectrum of what sounds, run by run; a run that is shorter than a window counts only where there is no other. */
export function soundingSpectrum(sides: readonly Float32Array[], sampleRate: number, size: number): Spectrum {
  const { starts, frames } = soundingBlocks(sides, sampleRate)
  const runs: [from: number, to: number][] = []
  for (const at of starts) {
    const last = runs.at(-1)
    if (last && last[1] === at) last[1] = at + frames
    else runs.push([at, at + frames])
  }
  const long = runs.filter(([from, to]) => to - from >= size)
  const power = new Float64Array(size / 2)
  let windows = 0
  for (const [from, to] of long.length > 0 ? long : runs) {
    const part = wholeWindows(
      sides.map((x) => x.subarray(from, to)),
      size,
    )
    const count = Math.max(1, Math.floor((part[0].length - size) / (size / 2)) + 1)
    const found = averageSpectrum(part, sampleRate, size).power
    for (let b = 0; b < power.length; b++) power[b] += count * found[b]
    windows += count
  }
  return { power: power.map((p) => p / Math.max(1, windows)), binHz: sampleRate / size }
}
