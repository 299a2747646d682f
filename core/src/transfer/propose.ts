import { averageSpectrum, centroid, thirdOctaves, THIRD_OCTAVES, type Spectrum } from '@fulgor/core/measure'
import type { Fit } from '@fulgor/core/preset'
import { design, identity, sectionsDb, type Section } from '@fulgor/core/signal'

/** What is set right at the input: gain, and up to three bands. */
export type InputFit = Pick<Fit, 'trim' | 'low' | 'bell' | 'high'> & {
  /** dB at the input where the bands are not taken. */
  readonly trimAlone: number
}

/** Largest gain of a band and of the trim, dB: beyond that it is another guitar. */
const MOST_DB = 15
const MOST_TRIM_DB = 24
/** dB below which a band is not worth having. */
const LEAST_DB = 0.4
const BAND_HZ = [80, 6_300] as const

const LOW_HZ = [120, 180, 260, 380]
const BELL_HZ = [400, 550, 750, 1_000, 1_400, 1_900, 2_600, 3_500]
const BELL_Q = [0.5, 0.9, 1.6]
const HIGH_HZ = [1_600, 2_400, 3_500, 5_000]

type Shape = Required<Pick<Fit, 'low' | 'bell' | 'high'>>

function sectionsOf({ low, bell, high }: Partial<Shape>, sampleRate: number): Section[] {
  const sections: Section[] = []
  const add = (write: (out: Section) => void) => {
    const section = identity()
    write(section)
    sections.push(section)
  }
  if (low) add((out) => design.lowShelf(out, low.hz, low.db, sampleRate))
  if (bell) add((out) => design.bell(out, bell.hz, bell.q, bell.db, sampleRate))
  if (high) add((out) => design.highShelf(out, high.hz, high.db, sampleRate))
  return sections
}

/** dB of the bands at a frequency. */
export const fitDb = (fit: Partial<Shape>, hz: number, sampleRate: number): number =>
  sectionsDb(sectionsOf(fit, sampleRate), hz, sampleRate)

/**
 * The input that makes one guitar another: three bands fitted to the difference of their third octaves by least squares over places
 * that are usual for each, the highest then set so that both are equally bright, and the gain that brings strums to the same peak.
 * @param heard the same parts on both guitars as they reach the first stage that clips, one pair a snapshot
 * @param peakDb of strums as they reach the chain on the guitar that the preset was made on, dBFS
 * @param peakWith the same of the other's behind these bands
 * @param heardWith the other's parts with these bands before the chain, as they reach the stage that clips
 */
export function proposeInput(
  heard: readonly { readonly made: Float32Array; readonly other: Float32Array }[],
  sampleRate: number,
  peakDb: number,
  peakWith: (bands: Partial<Shape>) => number,
  heardWith: (bands: Partial<Shape>) => readonly Float32Array[],
): InputFit {
  const spectra = heard.map(({ made, other }) => [averageSpectrum([made], sampleRate), averageSpectrum([other], sampleRate)] as const)
  const bands = spectra.flatMap(([a, b]) => bandsBetween(a, b))
  let kept: Partial<Shape> = {}
  if (bands.length > 3) {
    const shape = fitShape(bands, sampleRate)
    let bias = 0
    let nearest = Infinity
    // a window's leakage tells of a top that is not there and that no band lifts: what comes of it is heard, and allowed for
    for (let round = 0; round < ROUNDS && nearest >= NEAR; round++) {
      const tried = worthHaving(equallyBright(shape, spectra, sampleRate, bias))
      const heard = heardWith(tried).map((x) => averageSpectrum([x], sampleRate))
      const off = meanOver(heard, spectra)
      if (Math.abs(off) < nearest) {
        nearest = Math.abs(off)
        kept = tried
      }
      bias -= DAMPED * off
    }
  }
  const trimWith = (part: Partial<Shape>) => tenth(held(peakDb - peakWith(part), MOST_TRIM_DB))
  return { trim: trimWith(kept), trimAlone: trimWith({}), ...kept }
}

const tenth = (db: number): number => Math.round(10 * db) / 10
const held = (db: number, most: number): number => Math.min(most, Math.max(-most, db))

const worthHaving = ({ low, bell, high }: Partial<Shape>): Partial<Shape> => ({
  ...(low && Math.abs(low.db) >= LEAST_DB ? { low } : {}),
  ...(bell && Math.abs(bell.db) >= LEAST_DB ? { bell } : {}),
  ...(high && Math.abs(high.db) >= LEAST_DB ? { high } : {}),
})

/** Frequencies and dB by which the first is louder there. */
function bandsBetween(a: Spectrum, b: Spectrum): { hz: number; db: number; weight: number }[] {
  const [one, two] = [thirdOctaves(a), thirdOctaves(b)]
  const loudest = Math.max(...one.map((band) => band.db ?? -200))
  return THIRD_OCTAVES.flatMap((hz, k) => {
    const [x, y] = [one[k].db, two[k].db]
    if (hz < BAND_HZ[0] || hz > BAND_HZ[1] || x === null || y === null) return []
    // what is hardly there is hardly heard
    return [{ hz, db: x - y, weight: Math.max(0.05, Math.min(1, (x - loudest + 50) / 30)) }]
  })
}

/** The best of all places: their gains by weighted least squares on shapes of 6 dB, then the whole response as it is. */
function fitShape(bands: readonly { hz: number; db: number; weight: number }[], sampleRate: number): Shape {
  const unit = (part: Partial<Shape>) => bands.map(({ hz }) => fitDb(part, hz, sampleRate) / 6)
  const lows = LOW_HZ.map((hz) => ({ hz, shape: unit({ low: { hz, db: 6 } }) }))
  const bells = BELL_HZ.flatMap((hz) => BELL_Q.map((q) => ({ hz, q, shape: unit({ bell: { hz, q, db: 6 } }) })))
  const highs = HIGH_HZ.map((hz) => ({ hz, shape: unit({ high: { hz, db: 6 } }) }))
  let best: { error: number; shape: Shape } | null = null
  for (const low of lows)
    for (const bell of bells)
      for (const high of highs) {
        const [l, m, h] = solve([low.shape, bell.shape, high.shape, bands.map(() => 1)], bands).map((db) => tenth(held(db, MOST_DB)))
        const shape = { low: { hz: low.hz, db: l }, bell: { hz: bell.hz, db: m, q: bell.q }, high: { hz: high.hz, db: h } }
        const left = bands.map(({ db }, k) => db - l * low.shape[k] - m * bell.shape[k] - h * high.shape[k])
        const weights = bands.reduce((sum, { weight }) => sum + weight, 0)
        const mean = left.reduce((sum, db, k) => sum + db * bands[k].weight, 0) / weights
        // as little as does it: gains count a little themselves
        const error = left.reduce((sum, db, k) => sum + bands[k].weight * (db - mean) ** 2, 0) / weights + 0.005 * (l * l + m * m + h * h)
        if (!best || error < best.error) best = { error, shape }
      }
  if (!best) throw new RangeError('There is no place for a band.')
  return best.shape
}

/** Share of all weights that a gain itself counts: no large ones against one another. */
const RIDGE = 0.02

/** Weighted least squares of a few columns, by the normal equations with a little damping (Levenberg 1944) and Gaussian elimination. */
function solve(columns: readonly (readonly number[])[], bands: readonly { db: number; weight: number }[]): number[] {
  const n = columns.length
  const weights = bands.reduce((sum, { weight }) => sum + weight, 0)
  const m = columns.map((a, i) => [
    ...columns.map((b, j) => a.reduce((sum, x, k) => sum + bands[k].weight * x * b[k], 0) + (i === j && i < n - 1 ? RIDGE * weights : 0)),
    a.reduce((sum, x, k) => sum + bands[k].weight * x * bands[k].db, 0),
  ])
  for (let i = 0; i < n; i++) {
    const pivot = m.slice(i).reduce((at, row, k) => (Math.abs(row[i]) > Math.abs(m[at][i]) ? k + i : at), i)
    ;[m[i], m[pivot]] = [m[pivot], m[i]]
    for (let j = 0; j < n; j++) {
      if (j === i) continue
      const factor = m[j][i] / m[i][i]
      for (let k = i; k <= n; k++) m[j][k] -= factor * m[i][k]
    }
  }
  return m.map((row, i) => row[n] / row[i])
}

type Pairs = readonly (readonly [made: Spectrum, other: Spectrum])[]

/** Mean of how much brighter these are than the parts as made, as a logarithm. */
const meanOver = (now: readonly Spectrum[], pairs: Pairs): number =>
  now.reduce((sum, spectrum, i) => sum + Math.log((centroid(spectrum) ?? 1) / (centroid(pairs[i][0]) ?? 1)), 0) / now.length

/** Times that what comes of the bands is heard, how much of what is left is allowed for each time, and how near is near enough. */
const ROUNDS = 5
const DAMPED = 0.9
const NEAR = 0.008

/** The high shelf at the gain that makes both equally bright, over all parts; bell and low shelf help where it cannot. */
function equallyBright(shape: Shape, spectra: Pairs, sampleRate: number, bias: number): Shape {
  const over = (next: Shape): number => {
    const sections = sectionsOf(next, sampleRate)
    const { power, binHz } = spectra[0][1]
    const gains = power.map((_, k) => Math.pow(10, sectionsDb(sections, (k + 0.5) * binHz, sampleRate) / 10))
    return (
      meanOver(
        spectra.map(([, other]) => ({ ...other, power: other.power.map((p, k) => p * gains[k]) })),
        spectra,
      ) - bias
    )
  }
  const turn = (set: (db: number) => Shape): Shape => {
    let [low, high] = [-MOST_DB, MOST_DB]
    if (over(set(low)) > 0) return set(low)
    if (over(set(high)) < 0) return set(high)
    for (let i = 0; i < 12; i++) {
      const middle = (low + high) / 2
      if (over(set(middle)) < 0) low = middle
      else high = middle
    }
    return set(tenth((low + high) / 2))
  }
  const first = turn((db) => ({ ...shape, high: { ...shape.high, db } }))
  if (Math.abs(over(first)) < NEAR) return first
  const second = turn((db) => ({ ...first, bell: { ...first.bell, hz: Math.max(2_600, first.bell.hz), db } }))
  if (Math.abs(over(second)) < NEAR) return second
  // fewer lows are as good as more top
  return turn((db) => ({ ...second, low: { ...second.low, db: -db } }))
}
