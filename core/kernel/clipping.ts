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
let amp: usize = 0 // parameters of the amp, as listed at ampChain
let clean: usize = 0 // what passes beside the drive's clip
let held: usize = 0 // its filters' states

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
  amp = alloc(32 * 8)
  held = alloc(16 * 8)
  clean = alloc(<usize>CHUNK * 32)
  reset()
}

export function baseAt(): usize {
  return base
}
export function dataAt(): usize {
  return data
}
export function ampAt(): usize {
  return amp
}
export function coefficientsAt(): usize {
  return coefficients
}

export function reset(): void {
  memory.fill(states, 0, 4 * <usize>SECTIONS * 32)
  memory.fill(held, 0, 16 * 8)
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

@inline
function at(base: usize, index: i32): f64 {
  return load<f64>(base + (<usize>index << 3))
}

@inline
function put(base: usize, index: i32, value: f64): void {
  store<f64>(base + (<usize>index << 3), value)
}

/**
 * The whole amp between raise and lower; the model is described in core/src/signal/tubeAmp.ts. Parameters at ampAt():
 * 0 gain, bias of the first stage; 2 coupling, Miller coefficient; 4 gain, step, bias of the second; 7 b0 b1 b2 b3 a1 a2 a3 of the
 * tone stack; 14 inverter coefficient; 15 gain, step, bias of the power stage; 18 supply, step; 20 presence coefficient, amount,
 * step; 23 transformer low, high coefficient. Returns the sum of the power stage's magnitudes.
 */
export function ampChain(count: i32, place: i32): f64 {
  clip(0, count, at(amp, 0), 0, place, at(amp, 1))
  couple(count)
  clip(1, count, at(amp, 4), at(amp, 5), place, at(amp, 6))
  shape(count)
  clip(2, count, at(amp, 15), at(amp, 16), place, at(amp, 17))
  return deliver(count, place)
}

function couple(count: i32): void {
  const coupling = at(amp, 2), miller = at(amp, 3)
  const keepC = 1 - coupling, keepM = 1 - miller
  let sc = at(held, 0), sm = at(held, 1)
  for (let i = 0; i < count; i++) {
    const p = data + (<usize>i << 3)
    const x = load<f64>(p)
    sc = keepC * sc + coupling * x
    sm = keepM * sm + miller * (x - sc)
    store<f64>(p, sm)
  }
  put(held, 0, sc), put(held, 1, sm)
}

function shape(count: i32): void {
  const b0 = at(amp, 7), b1 = at(amp, 8), b2 = at(amp, 9), b3 = at(amp, 10), a1 = at(amp, 11), a2 = at(amp, 12), a3 = at(amp, 13)
  const inverter = at(amp, 14), keep = 1 - inverter
  let z1 = at(held, 2), z2 = at(held, 3), z3 = at(held, 4), si = at(held, 5)
  for (let i = 0; i < count; i++) {
    const p = data + (<usize>i << 3)
    const x = load<f64>(p)
    const t = b0 * x + z1
    z1 = b1 * x + z2 - a1 * t
    z2 = b2 * x + z3 - a2 * t
    z3 = b3 * x - a3 * t
    si = keep * si + inverter * t
    store<f64>(p, si)
  }
  put(held, 2, z1), put(held, 3, z2), put(held, 4, z3), put(held, 5, si)
}

function deliver(count: i32, place: i32): f64 {
  const supply = at(amp, 18), supplyStep = at(amp, 19), shelf = at(amp, 20), lift = at(amp, 21), liftStep = at(amp, 22)
  const low = at(amp, 23), high = at(amp, 24)
  const keepS = 1 - shelf, keepL = 1 - low, keepH = 1 - high
  let ss = at(held, 6), sl = at(held, 7), sh = at(held, 8)
  let sum: f64 = 0
  for (let i = 0; i < count; i++) {
    const k = <f64>(place + i)
    const p = data + (<usize>i << 3)
    const x = load<f64>(p)
    sum += Math.abs(x)
    const y = x * (supply + k * supplyStep)
    ss = keepS * ss + shelf * y
    const z = y + (y - ss) * (lift + k * liftStep)
    sl = keepL * sl + low * z
    sh = keepH * sh + high * (z - sl)
    store<f64>(p, sh)
  }
  put(held, 6, ss), put(held, 7, sl), put(held, 8, sh)
  return sum
}

/**
 * The mid-hump drive between raise and lower; the model is described in core/src/signal/midHumpDrive.ts.
 * @param gain of the clipped path over the diodes' level, moving by `step` a sample from sample −place on
 * @param volts of full scale; `diode` volts at which the clipped path saturates
 */
export function driveChain(count: i32, place: i32, gain: f64, step: f64, volts: f64, diode: f64, bass: f64, top: f64): void {
  const keepB = 1 - bass, keepT = 1 - top
  let sb = at(held, 0), st = at(held, 1)
  for (let i = 0; i < count; i++) {
    const p = data + (<usize>i << 3)
    const x = load<f64>(p) * volts
    sb = keepB * sb + bass * x
    store<f64>(clean + (<usize>i << 3), x)
    store<f64>(p, x - sb)
  }
  clip(0, count, gain, step, place, 0)
  const scale = 1 / volts
  for (let i = 0; i < count; i++) {
    const p = data + (<usize>i << 3)
    st = keepT * st + top * scale * (load<f64>(clean + (<usize>i << 3)) + diode * load<f64>(p))
    store<f64>(p, st)
  }
  put(held, 0, sb), put(held, 1, st)
}
