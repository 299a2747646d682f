import { Fft } from '@fulgor/core/signal'
import { bandsDb } from './compare'
import { MAX_PLACE_BANDS, placeBandFields, type PlaceBand } from './description'

/** A measured response: dB at each frequency, Hz, in order. */
export type Curve = readonly (readonly [hz: number, db: number])[]

/** Hz that a response is read over: beyond them most measurements tell of the microphone. */
const FROM_HZ = 30
const TO_HZ = 16_000
/** Longest impulse that is read, samples. */
const MOST_SAMPLES = 262_144
/** Points that a curve must hold. */
const LEAST_POINTS = 8

/** A file that says nothing of a place; the sentence goes on after its name. */
export class UnfitCurve extends Error {}

/**
 * Reads a text of lines “Hz dB”, with blanks, tabs, commas or semicolons between; what else stands in a line is left out, and so are
 * lines that begin otherwise.
 * @throws UnfitCurve
 */
export function readCurve(text: string): Curve {
  const points = text.split(/\r?\n/).flatMap((line) => {
    // a comma is a decimal one only where nothing else could be
    const plain = line.includes('.') || !/[\s;]/.test(line.trim()) ? line.replaceAll(',', ' ') : line.replaceAll(',', '.')
    const [hz, db] = plain
      .trim()
      .split(/[\s;]+/)
      .map(Number)
    return /^[\d.]/.test(line.trim()) && hz > 0 && Number.isFinite(db) ? [[hz, db] as const] : []
  })
  return checked(points.sort((a, b) => a[0] - b[0]))
}

/** The response of a recorded impulse. @throws UnfitCurve */
export function curveOfImpulse(samples: Float32Array | Float64Array, sampleRate: number): Curve {
  const size = Math.pow(2, Math.ceil(Math.log2(Math.min(MOST_SAMPLES, Math.max(4_096, samples.length)))))
  const [re, im] = [new Float64Array(size), new Float64Array(size)]
  re.set(samples.subarray(0, size))
  new Fft(size).forward(re, im)
  const binHz = sampleRate / size
  const points: (readonly [number, number])[] = []
  // a sixth of an octave at a time
  for (let hz = FROM_HZ; hz < Math.min(TO_HZ * 1.1, 0.45 * sampleRate); hz *= Math.pow(2, 1 / 6)) {
    const low = Math.max(1, Math.floor((hz * Math.pow(2, -1 / 12)) / binHz))
    const high = Math.max(low + 1, Math.ceil((hz * Math.pow(2, 1 / 12)) / binHz))
    let sum = 0
    for (let b = low; b < high; b++) sum += re[b] ** 2 + im[b] ** 2
    points.push([hz, 10 * Math.log10(sum / (high - low) + 1e-30)])
  }
  return checked(points)
}

function checked(points: Curve): Curve {
  const inside = points.filter(([hz]) => hz >= FROM_HZ / 2 && hz <= 2 * TO_HZ)
  if (inside.length < LEAST_POINTS)
    throw new UnfitCurve(`holds ${inside.length} points of a response; ${LEAST_POINTS} are needed, one “Hz dB” a line.`)
  if (inside[0][0] > 500 || inside[inside.length - 1][0] < 2_000)
    throw new UnfitCurve(
      `runs from ${Math.round(inside[0][0])} to ${Math.round(inside[inside.length - 1][0])} Hz; 500 Hz to 2 kHz at least are needed.`,
    )
  return inside
}

const CENTRES = Array.from({ length: MAX_PLACE_BANDS }, (_, k) =>
  Math.round(FROM_HZ * Math.pow(TO_HZ / FROM_HZ, k / (MAX_PLACE_BANDS - 1))),
)
const Q = 1.5
/** Keeps neighbours from working against each other, dB² a dB². */
const RIDGE = 0.02
const POINTS = Array.from({ length: 73 }, (_, k) => FROM_HZ * Math.pow(TO_HZ / FROM_HZ, k / 72))

/** A curve at a frequency, straight on a logarithmic axis, level beyond its ends. */
function at(curve: Curve, hz: number): number {
  const next = curve.findIndex(([f]) => f >= hz)
  if (next === 0) return curve[0][1]
  if (next < 0) return curve[curve.length - 1][1]
  const [[f0, d0], [f1, d1]] = [curve[next - 1], curve[next]]
  return d0 + ((d1 - d0) * Math.log(hz / f0)) / Math.log(f1 / f0)
}

/**
 * Bands that do to a sound what a measured response does, level with the middle (500 Hz to 2 kHz).
 * @returns the bands, and the mean deviation that is left, dB
 */
export function bandsFrom(curve: Curve): { bands: readonly PlaceBand[]; leftDb: number } {
  const raw = POINTS.map((hz) => at(curve, hz))
  const middle = raw.filter((_, k) => POINTS[k] >= 500 && POINTS[k] <= 2_000)
  const level = middle.reduce((sum, db) => sum + db, 0) / middle.length
  const [low, high] = placeBandFields.db.range
  const wanted = raw.map((db) => Math.max(low, Math.min(high, db - level)))
  const gains = new Float64Array(CENTRES.length)
  const bandsOf = (): PlaceBand[] => CENTRES.map((hz, k) => ({ kind: 'bell', hz, db: Math.max(low, Math.min(high, gains[k])), q: Q }))
  // a bell's dB grow nearly as its gain does: a few rounds of the linear problem
  const shapes = CENTRES.map((hz) => bandsDb([{ kind: 'bell', hz, db: 6, q: Q }], POINTS).map((db) => db / 6))
  for (let round = 0; round < 4; round++) {
    const has = bandsDb(bandsOf(), POINTS)
    const step = leastSquares(
      shapes,
      wanted.map((db, k) => db - has[k]),
    )
    step.forEach((db, k) => (gains[k] += db))
  }
  const bands = bandsOf()
    .map((b) => ({ ...b, db: Math.round(10 * b.db) / 10 }))
    .filter((b) => Math.abs(b.db) >= 0.2)
  const left = bandsDb(bands, POINTS).map((db, k) => Math.abs(db - wanted[k]))
  return { bands, leftDb: left.reduce((sum, db) => sum + db, 0) / left.length }
}

/** Shares of each shape that add up nearest to what is wanted. */
function leastSquares(shapes: readonly (readonly number[])[], wanted: readonly number[]): number[] {
  const dot = (a: readonly number[], b: readonly number[]) => a.reduce((sum, v, k) => sum + v * b[k], 0)
  const rows = shapes.map((a, i) => [...shapes.map((b, j) => dot(a, b) + (i === j ? RIDGE * wanted.length : 0)), dot(a, wanted)])
  const n = rows.length
  for (let i = 0; i < n; i++) {
    for (let j = i + 1; j < n; j++) {
      const share = rows[j][i] / rows[i][i]
      for (let k = i; k <= n; k++) rows[j][k] -= share * rows[i][k]
    }
  }
  const out = new Array<number>(n).fill(0)
  for (let i = n - 1; i >= 0; i--) out[i] = (rows[i][n] - out.reduce((sum, v, k) => (k > i ? sum + rows[i][k] * v : sum), 0)) / rows[i][i]
  return out
}
