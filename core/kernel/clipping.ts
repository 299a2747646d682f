/**
 * Kernels of the clipping stages, f64 SIMD: half-band resampling by two allpass paths (one lane each) and the soft clip in
 * antiderivative form. One instance serves one processor. The plain TypeScript of both stands in core/src/signal (halfBand.ts,
 * softClip.ts) with the sources; a test holds the two together.
 */
const CHUNK: i32 = 32
const SECTIONS: i32 = 4 // pairs of sections at the most in one half-band
const SLOTS: i32 = 4

let base: usize = 0
let double_: usize = 0
let data: usize = 0
let pairs: usize = 0 // scratch: (even, odd) pairs of the higher rate
let coefficients: usize = 0 // first half-band: 4 pairs; second: 2 pairs
let states: usize = 0 // four chains (first up, first down, second up, second down) of x, y pairs
let clips: usize = 0 // per slot: x, root, y

function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 16)
  memory.fill(at, 0, bytes + 16)
  return (at + 15) & ~15
}

export function setup(): void {
  base = alloc(<usize>CHUNK * 8)
  double_ = alloc(<usize>CHUNK * 16)
  data = alloc(<usize>CHUNK * 32)
  pairs = alloc(<usize>CHUNK * 32)
  coefficients = alloc(6 * 16)
  states = alloc(4 * <usize>SECTIONS * 32)
  clips = alloc(<usize>SLOTS * 24)
  reset()
}

export function baseAt(): usize {
  return base
}
export function dataAt(): usize {
  return data
}
export function coefficientsAt(): usize {
  return coefficients
}

export function reset(): void {
  memory.fill(states, 0, 4 * <usize>SECTIONS * 32)
  for (let s = 0; s < SLOTS; s++) {
    store<f64>(clips + <usize>s * 24, 0)
    store<f64>(clips + <usize>s * 24, 1, 8)
    store<f64>(clips + <usize>s * 24, 0, 16)
  }
}

/** A chain of section pairs over `frames` (even, odd) pairs, in place. */
function chain(at: usize, frames: i32, coefficient: usize, state: usize, count: i32): void {
  for (let k = 0; k < count; k++) {
    const c = v128.load(coefficient + (<usize>k << 4))
    const s = state + (<usize>k << 5)
    let x = v128.load(s)
    let y = v128.load(s, 16)
    for (let i = 0; i < frames; i++) {
      const p = at + (<usize>i << 4)
      const a = v128.load(p)
      y = f64x2.add(f64x2.mul(f64x2.sub(a, y), c), x)
      x = a
      v128.store(p, y)
    }
    v128.store(s, x)
    v128.store(s, y, 16)
  }
}

function raiseTo(input: usize, output: usize, frames: i32, coefficient: usize, state: usize, count: i32): void {
  for (let i = 0; i < frames; i++) v128.store(output + (<usize>i << 4), v128.load64_splat(input + (<usize>i << 3)))
  chain(output, frames, coefficient, state, count)
}

function lowerTo(input: usize, output: usize, frames: i32, coefficient: usize, state: usize, count: i32): void {
  for (let i = 0; i < frames; i++) {
    const p = v128.load(input + (<usize>i << 4))
    v128.store(pairs + (<usize>i << 4), v128.shuffle<f64>(p, p, 1, 0))
  }
  chain(pairs, frames, coefficient, state, count)
  for (let i = 0; i < frames; i++) {
    const p = v128.load(pairs + (<usize>i << 4))
    store<f64>(output + (<usize>i << 3), 0.5 * (f64x2.extract_lane(p, 0) + f64x2.extract_lane(p, 1)))
  }
}

/** base (frames) → data (4·frames). */
export function raise(frames: i32): void {
  raiseTo(base, double_, frames, coefficients, states, 4)
  raiseTo(double_, data, frames * 2, coefficients + 64, states + 256, 2)
}

/** data (4·frames) → base (frames). */
export function lower(frames: i32): void {
  lowerTo(data, double_, frames * 2, coefficients + 64, states + 384, 2)
  lowerTo(double_, base, frames, coefficients, states + 128, 4)
}

/** data ← f(gain·data + bias) − f(bias), f(x) = x/√(1+x²); `count` even, gain moves by `step` a sample from sample −at on. */
export function clip(slot: i32, count: i32, gain: f64, step: f64, at: i32, bias: f64): void {
  const state = clips + <usize>slot * 24
  let x0 = load<f64>(state)
  let root0 = load<f64>(state, 8)
  let y = load<f64>(state, 16)
  const rest = bias / Math.sqrt(1 + bias * bias)
  const ones = f64x2.splat(1)
  const biases = f64x2.splat(bias)
  const rests = f64x2.splat(rest)
  const gains = f64x2.splat(gain)
  const steps = f64x2.splat(step)
  const two = f64x2.splat(2)
  let place = f64x2.replace_lane(f64x2.splat(<f64>at), 1, <f64>(at + 1))
  let before = f64x2.splat(x0)
  let rootBefore = f64x2.splat(root0)
  for (let i = 0; i < count; i += 2) {
    const p = data + (<usize>i << 3)
    const x = f64x2.add(f64x2.mul(f64x2.add(gains, f64x2.mul(place, steps)), v128.load(p)), biases)
    const root = f64x2.sqrt(f64x2.add(ones, f64x2.mul(x, x)))
    const x1 = v128.shuffle<f64>(before, x, 1, 2)
    const root1 = v128.shuffle<f64>(rootBefore, root, 1, 2)
    const c = f64x2.sub(f64x2.div(f64x2.add(x, x1), f64x2.add(root, root1)), rests)
    y = 1.45 * f64x2.extract_lane(c, 0) - 0.45 * y
    store<f64>(p, y)
    y = 1.45 * f64x2.extract_lane(c, 1) - 0.45 * y
    store<f64>(p, y, 8)
    before = x
    rootBefore = root
    place = f64x2.add(place, two)
  }
  store<f64>(state, f64x2.extract_lane(before, 1))
  store<f64>(state, f64x2.extract_lane(rootBefore, 1), 8)
  store<f64>(state, y, 16)
}
