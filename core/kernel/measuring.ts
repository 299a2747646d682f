/** Kernels of the measures, f32 SIMD: power spectra of windowed frames, and the peak between samples. */
import { alloc } from './memory'
import { forward } from './splitting'

let size: i32 = 0
let window: usize = 0
let factors: usize = 0
let frame: usize = 0
let power: usize = 0
let signal: usize = 0
let beside: usize = 0

/** Room for spectra of 2·points frames and for two channels of `frames`. */
export function setup(points: i32, frames: i32): void {
  size = points
  const bytes = (<usize>points) << 2
  window = alloc(bytes * 2)
  factors = alloc(bytes * 2)
  frame = alloc(bytes * 2)
  power = alloc(bytes)
  signal = alloc(((<usize>frames) << 2) + 256)
  beside = alloc(((<usize>frames) << 2) + 256)
}

export function windowAt(): usize {
  return window
}
export function factorsAt(): usize {
  return factors
}
export function powerAt(): usize {
  return power
}
export function signalAt(): usize {
  return signal
}

/** Adds the power of the frame that starts `start` samples behind sample 12 to the sums, in the splitting's order. */
export function addFrame(start: i32): void {
  const bytes = (<usize>size) << 2
  const from = signal + 48 + ((<usize>start) << 2)
  for (let o: usize = 0; o < bytes * 2; o += 16) v128.store(frame + o, f32x4.mul(v128.load(from + o), v128.load(window + o)))
  forward(frame, size, factors)
  for (let o: usize = 0; o < bytes; o += 16) {
    const re = v128.load(frame + o)
    const im = v128.load(frame + bytes + o)
    v128.store(power + o, f32x4.add(v128.load(power + o), f32x4.add(f32x4.mul(re, re), f32x4.mul(im, im))))
  }
}

export function clearPower(): void {
  memory.fill(power, 0, (<usize>size) << 2)
}

let filters: usize = 0

/** Three interpolating filters of 24 taps each, one after another. */
export function filtersAt(): usize {
  if (filters == 0) filters = alloc(3 * 24 * 4)
  return filters
}

/** Of the filters' first halves: half the sum and half the difference of a quarter's tap and its mirror, and the middle's. */
const folded = alloc(12 * 12)

/** A quarter's filter is three quarters' turned around and the middle's is even: both quarters share their products. */
function fold(): void {
  for (let k: usize = 0; k < 12; k++) {
    const tap = load<f32>(filters + (k << 2)), mirror = load<f32>(filters + ((23 - k) << 2))
    store<f32>(folded + k * 12, 0.5 * (tap + mirror))
    store<f32>(folded + k * 12, 0.5 * (tap - mirror), 4)
    store<f32>(folded + k * 12, load<f32>(filters + 96 + (k << 2)), 8)
  }
}

let highest = f32x4.splat(0), bent = f32x4.splat(0)

/** Finds of 16 samples the largest magnitude of each lane and the largest second difference around one of them. */
@inline
function look(start: i32): void {
  const at = signal + ((<usize>(start + 12)) << 2)
  let most = f32x4.splat(0), bend = f32x4.splat(0)
  for (let p = at, end = at + 64; p < end; p += 16) {
    const x = v128.load(p)
    most = larger(most, f32x4.abs(x))
    const around = f32x4.add(v128.load(p - 4), v128.load(p + 4))
    bend = larger(bend, f32x4.abs(f32x4.sub(around, f32x4.add(x, x))))
  }
  highest = most
  bent = bend
}

/** Of magnitudes; the plain maximum, since it is one instruction. */
@inline
function larger(x: v128, y: v128): v128 {
  return f32x4.pmax(x, y)
}

@inline
function largestOf(x: v128): f32 {
  const two = larger(x, v128.shuffle<f32>(x, x, 2, 3, 2, 3))
  return f32x4.extract_lane(larger(two, v128.shuffle<f32>(two, two, 1, 1, 1, 1)), 0)
}

/**
 * Largest magnitude at four times the rate, at least `known`. The signal stands at signalAt() with what comes before it (12 samples) and
 * after it, that is from sample 12 on. Between two samples it exceeds the higher of both by no more than `bend` times the largest second
 * difference near by: stretches of 16 that stay below the peak so are skipped.
 */
export function peakBetween(frames: i32, known: f32, bend: f32): f32 {
  fold()
  let peak = known
  // what bends before the first stretch is not looked at: that one is never skipped
  let bentBefore = f32x4.splat(Infinity)
  look(0)
  let here = highest, bentHere = bent
  for (let start = 0; start < frames; start += 16) {
    look(start + 16)
    const most = largestOf(larger(here, highest)) + bend * largestOf(larger(bentBefore, larger(bentHere, bent)))
    bentBefore = bentHere
    here = highest
    bentHere = bent
    if (most <= peak) continue
    for (let n = start; n < start + 16; n += 4) {
      let even = f32x4.splat(0)
      let odd = f32x4.splat(0)
      let middle = f32x4.splat(0)
      // tap t meets sample n + t − 11, which stands one further on
      let early = signal + ((<usize>(n + 1)) << 2), late = early + 92
      for (let f = folded; f < folded + 144; f += 12) {
        const x = v128.load(early), y = v128.load(late)
        const sum = f32x4.add(x, y)
        even = f32x4.add(even, f32x4.mul(sum, v128.load32_splat(f)))
        odd = f32x4.add(odd, f32x4.mul(f32x4.sub(x, y), v128.load32_splat(f, 4)))
        middle = f32x4.add(middle, f32x4.mul(sum, v128.load32_splat(f, 8)))
        early += 4
        late -= 4
      }
      // |even + odd| and |even − odd|
      const above = larger(f32x4.add(f32x4.abs(even), f32x4.abs(odd)), f32x4.abs(middle))
      peak = max(peak, largestOf(above))
    }
  }
  return peak
}

const halving = alloc(64)

/** Forgets what {@link halve} remembers: x and y of two sections, both paths of both channels side by side. */
export function clearHalving(): void {
  memory.fill(halving, 0, 64)
}

/**
 * Half the rate, in place: `frames` pairs of the signal, from sample 12 on, and of the one beside it through two paths of two allpasses
 * each, coefficients of one path before those of the other; see halved.ts.
 */
export function halve(frames: i32, first0: f32, first1: f32, second0: f32, second1: f32): void {
  const pair = f32x4.replace_lane(f32x4.splat(first0), 1, first1), next = f32x4.replace_lane(f32x4.splat(second0), 1, second1)
  // the first path takes the later sample of a pair
  const c = v128.shuffle<f32>(pair, pair, 1, 0, 1, 0), d = v128.shuffle<f32>(next, next, 1, 0, 1, 0)
  const half = f32x4.splat(0.5), tiny = f32x4.splat(1e-20)
  let x0 = v128.load(halving), y0 = v128.load(halving, 16), x1 = v128.load(halving, 32), y1 = v128.load(halving, 48)
  let from = signal + 48, other = beside, to = from, beyond = other
  for (let end = to + ((<usize>frames) << 2); to < end; to += 4) {
    const x = v128.load64_lane(other, v128.load64_zero(from), 1)
    const a = f32x4.add(f32x4.mul(f32x4.sub(x, y0), c), f32x4.add(x0, tiny))
    const b = f32x4.add(f32x4.mul(f32x4.sub(a, y1), d), f32x4.add(x1, tiny))
    x0 = x
    y0 = a
    x1 = a
    y1 = b
    const mean = f32x4.mul(half, f32x4.add(b, v128.shuffle<f32>(b, b, 1, 0, 3, 2)))
    v128.store32_lane(to, mean, 0)
    v128.store32_lane(beyond, mean, 2)
    from += 8
    other += 8
    beyond += 4
  }
  v128.store(halving, x0)
  v128.store(halving, y0, 16)
  v128.store(halving, x1, 32)
  v128.store(halving, y1, 48)
}

/** Most steps of a loudness that are taken at once. */
const STEPS: usize = 1024
const weights = alloc(7 * 8), weighing = alloc(4 * 16), sums = alloc(STEPS * 8)
/** Coefficients of the K-weighting: b0, b1, b2, a1, a2 of the shelf, a1, a2 of the high-pass. */
export function weightsAt(): usize {
  return weights
}
export function sumsAt(): usize {
  return sums
}
export function besideAt(): usize {
  return beside
}
export function clearWeighing(): void {
  memory.fill(weighing, 0, 64)
}

@inline
function both(at: usize): v128 {
  return f64x2.splat(load<f64>(at))
}

/** K-weighted squares of some frames, summed, of two channels in the two lanes; goes on from where it ended. */
function weighed(left: usize, right: usize, frames: i32): v128 {
  const b0 = both(weights), b1 = both(weights + 8), b2 = both(weights + 16), a1 = both(weights + 24), a2 = both(weights + 32)
  const c1 = both(weights + 40), c2 = both(weights + 48), tiny = f64x2.splat(1e-18)
  let p1 = v128.load(weighing), p2 = v128.load(weighing, 16), q1 = v128.load(weighing, 32), q2 = v128.load(weighing, 48)
  let sum = f64x2.splat(0)
  for (let end = left + ((<usize>frames) << 2); left < end; left += 4) {
    const x = f64x2.add(f64x2.promote_low_f32x4(v128.load32_lane(right, v128.load32_zero(left), 1)), tiny)
    const y = f64x2.add(f64x2.mul(b0, x), p1)
    p1 = f64x2.sub(f64x2.add(f64x2.mul(b1, x), p2), f64x2.mul(a1, y))
    p2 = f64x2.sub(f64x2.mul(b2, x), f64x2.mul(a2, y))
    const z = f64x2.add(y, q1)
    q1 = f64x2.sub(f64x2.sub(q2, f64x2.add(y, y)), f64x2.mul(c1, z))
    q2 = f64x2.sub(y, f64x2.mul(c2, z))
    sum = f64x2.add(sum, f64x2.mul(z, z))
    right += 4
  }
  v128.store(weighing, p1)
  v128.store(weighing, p2, 16)
  v128.store(weighing, q1, 32)
  v128.store(weighing, q2, 48)
  return sum
}

/**
 * K-weighted squares of `steps` steps of `step` frames, summed over the channels: the signal from sample 12 on and, where `two`, the one
 * beside it.
 */
export function weigh(steps: i32, step: i32, two: bool): void {
  const bytes = (<usize>step) << 2
  let left = signal + 48, right = two ? beside : left
  for (let k: usize = 0; k < <usize>steps; k++) {
    const sum = weighed(left, right, step)
    store<f64>(sums + (k << 3), two ? f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1) : f64x2.extract_lane(sum, 0))
    left += bytes
    right += bytes
  }
}

/** The same of two channels from a frame on, without steps. */
export function weighOn(from: i32, frames: i32): f64 {
  const bytes = (<usize>from) << 2
  const sum = weighed(signal + 48 + bytes, beside + bytes, frames)
  return f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1)
}

/** Largest magnitude of `frames` samples, a multiple of four. */
export function peakAt(at: usize, frames: i32): f32 {
  let most = f32x4.splat(0)
  for (let end = at + ((<usize>frames) << 2); at < end; at += 16) most = larger(most, f32x4.abs(v128.load(at)))
  return largestOf(most)
}

let squares: f64 = 0

/** Squares summed by the last {@link scan}. */
export function squaresOf(): f64 {
  return squares
}

/** One pass over `frames` samples from sample 12 on: returns the largest magnitude and sums the squares, 64 at a time in f32. */
export function scan(frames: i32): f32 {
  const from = signal + 48
  let most = f32x4.splat(0)
  let sum = f64x2.splat(0)
  const whole = frames & ~63
  for (let p = from, end = from + ((<usize>whole) << 2); p < end; p += 256) {
    let a = f32x4.splat(0), b = f32x4.splat(0)
    for (let q = p; q < p + 256; q += 32) {
      const x = v128.load(q), y = v128.load(q, 16)
      most = larger(most, larger(f32x4.abs(x), f32x4.abs(y)))
      a = f32x4.add(a, f32x4.mul(x, x))
      b = f32x4.add(b, f32x4.mul(y, y))
    }
    const c = f32x4.add(a, b)
    sum = f64x2.add(sum, f64x2.add(f64x2.promote_low_f32x4(c), f64x2.promote_low_f32x4(v128.shuffle<f32>(c, c, 2, 3, 2, 3))))
  }
  let largest = largestOf(most)
  squares = f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1)
  for (let n = whole; n < frames; n++) {
    const x = load<f32>(from + ((<usize>n) << 2))
    largest = max(largest, abs(x))
    squares += <f64>x * <f64>x
  }
  return largest
}
