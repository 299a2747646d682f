/** Kernels of the measures, f32 SIMD: power spectra of windowed frames, and the peak between samples. */
import { alloc } from './memory'
import { forward } from './splitting'

let size: i32 = 0
let window: usize = 0
let factors: usize = 0
let frame: usize = 0
let power: usize = 0
let signal: usize = 0

/** Room for spectra of 2·points frames and for signals of `frames`. */
export function setup(points: i32, frames: i32): void {
  size = points
  const bytes = (<usize>points) << 2
  window = alloc(bytes * 2)
  factors = alloc(bytes * 2)
  frame = alloc(bytes * 2)
  power = alloc(bytes)
  signal = alloc(((<usize>frames) << 2) + 256)
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

/**
 * Largest magnitude at four times the rate, at least `known`. The signal stands at signalAt() with 12 zeros before it and 36 after
 * it, that is from sample 12 on. Stretches of 16 whose neighbourhood times `reach` stays below the peak are skipped.
 */
export function peakBetween(frames: i32, known: f32, reach: f32): f32 {
  let peak = known
  let before: f32 = 0
  let here = stretchPeak(0)
  for (let start = 0; start < frames; start += 16) {
    const after = stretchPeak(start + 16)
    const near = max(before, max(here, after))
    before = here
    here = after
    if (near * reach <= peak) continue
    for (let n = start; n < start + 16; n += 4) {
      let a = f32x4.splat(0)
      let b = f32x4.splat(0)
      let c = f32x4.splat(0)
      // tap t meets sample n + t − 11, which stands one further on
      const base = signal + ((<usize>(n + 1)) << 2)
      for (let t: usize = 0; t < 96; t += 4) {
        const x = v128.load(base + t)
        a = f32x4.add(a, f32x4.mul(x, v128.load32_splat(filters + t)))
        b = f32x4.add(b, f32x4.mul(x, v128.load32_splat(filters + t, 96)))
        c = f32x4.add(c, f32x4.mul(x, v128.load32_splat(filters + t, 192)))
      }
      const most = f32x4.max(f32x4.abs(a), f32x4.max(f32x4.abs(b), f32x4.abs(c)))
      peak = max(
        peak,
        max(max(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)), max(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3))),
      )
    }
  }
  return peak
}

function stretchPeak(start: i32): f32 {
  const at = signal + ((<usize>(start + 12)) << 2)
  const m = f32x4.max(
    f32x4.max(f32x4.abs(v128.load(at)), f32x4.abs(v128.load(at, 16))),
    f32x4.max(f32x4.abs(v128.load(at, 32)), f32x4.abs(v128.load(at, 48))),
  )
  return max(max(f32x4.extract_lane(m, 0), f32x4.extract_lane(m, 1)), max(f32x4.extract_lane(m, 2), f32x4.extract_lane(m, 3)))
}

let squares: f64 = 0
let largest: f32 = 0

/** Squares summed by the last {@link scan}. */
export function squaresOf(): f64 {
  return squares
}

/** One pass over `frames` samples from sample 12 on: returns the largest magnitude and sums the squares. */
export function scan(frames: i32): f32 {
  const from = signal + 48
  let most = f32x4.splat(0)
  let low = f64x2.splat(0)
  let high = f64x2.splat(0)
  const whole = frames & ~3
  for (let n = 0; n < whole; n += 4) {
    const x = v128.load(from + ((<usize>n) << 2))
    most = f32x4.max(most, f32x4.abs(x))
    const a = f64x2.promote_low_f32x4(x)
    const b = f64x2.promote_low_f32x4(v128.shuffle<f32>(x, x, 2, 3, 2, 3))
    low = f64x2.add(low, f64x2.mul(a, a))
    high = f64x2.add(high, f64x2.mul(b, b))
  }
  largest = max(
    max(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)),
    max(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3)),
  )
  const sum = f64x2.add(low, high)
  squares = f64x2.extract_lane(sum, 0) + f64x2.extract_lane(sum, 1)
  for (let n = whole; n < frames; n++) {
    const x = load<f32>(from + ((<usize>n) << 2))
    largest = max(largest, abs(x))
    squares += <f64>x * <f64>x
  }
  return largest
}
