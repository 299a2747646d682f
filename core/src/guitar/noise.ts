import { Fft } from '@fulgor/core/signal'

/** Harmonics of the mains that are counted as hum. */
const HARMONICS = 24
/** Hz that the mains may be off, and a line is wide for what lies beside it. */
const OFF_HZ = 0.4
/** Times what lies between the lines that a line has at least: less is chance. */
const LINE_OVER = 2
const LEAST_DBFS = -140

const toDbfs = (power: number): number => Math.max(LEAST_DBFS, 10 * Math.log10(power + 1e-14))

/**
 * Hum and hiss of a guitar at rest, as RMS in dBFS. Lines at the harmonics of 50 and of 60 Hz are summed in a Blackman window's main
 * lobe, less what goes on under them; the mains whose lines hold more is the one. What is left is hiss.
 * @param rest at least some tenths of a second
 */
export function noiseIn(rest: Float32Array, sampleRate: number): { humDbfs: number; mains: 50 | 60; hissDbfs: number } {
  const mean = rest.reduce((sum, v) => sum + v, 0) / rest.length
  let size = 1
  while (size < 2 * rest.length) size *= 2
  const re = new Float64Array(size)
  const im = new Float64Array(size)
  let energy = 0
  for (let n = 0; n < rest.length; n++) {
    const p = (2 * Math.PI * (n + 0.5)) / rest.length
    const w = 0.42 - 0.5 * Math.cos(p) + 0.08 * Math.cos(2 * p)
    const x = rest[n] - mean
    energy += w * w
    re[n] = x * w
  }
  new Fft(size).forward(re, im)
  // power of a bin of the padded transform, so that all bins of a sound sum to its mean square
  const scale = 2 / (energy * size)
  const binHz = sampleRate / size
  const power = (from: number, to: number): number => {
    let sum = 0
    for (let b = Math.max(1, Math.round(from / binHz)); b <= Math.min(size / 2 - 1, Math.round(to / binHz)); b++)
      sum += (re[b] * re[b] + im[b] * im[b]) * scale
    return sum
  }
  // half of the main lobe of a Blackman window: three bins of its own length
  const lobe = (3 * sampleRate) / rest.length
  const lines = (mains: number): number => {
    let sum = 0
    for (let k = 1; k <= HARMONICS; k++) {
      const hz = k * mains
      const half = lobe + k * OFF_HZ
      const reach = mains / 2
      // what lies between the lines goes on under them
      const between = (power(hz - reach, hz - half) + power(hz + half, hz + reach)) / (2 * (reach - half))
      const under = between * 2 * half
      const line = power(hz - half, hz + half)
      if (line > LINE_OVER * under) sum += line - under
    }
    return sum
  }
  const [fifty, sixty] = [lines(50), lines(60)]
  // through the same window, so that what is left of it is as exact as it
  const whole = power(binHz, sampleRate / 2)
  const hum = Math.min(whole, Math.max(fifty, sixty))
  return { humDbfs: toDbfs(hum), mains: sixty > fifty ? 60 : 50, hissDbfs: toDbfs(whole - hum) }
}

/** Hum and hiss together, dBFS. */
export const restDbfs = ({ humDbfs, hissDbfs }: { readonly humDbfs: number; readonly hissDbfs: number }): number =>
  10 * Math.log10(Math.pow(10, humDbfs / 10) + Math.pow(10, hissDbfs / 10))
