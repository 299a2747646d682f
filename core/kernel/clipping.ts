/**
 * Kernel of the clipping stages, f64 SIMD: half-band resampling by two allpass paths (one lane each) to 4, 8 or 16 times the rate,
 * and between them a program of operations over the raised samples. One instance serves one processor, which writes the program as
 * slots of numbers. The plain TypeScript of resampling and clip stands in core/src/signal/plainClipping.ts with the sources; a test
 * holds the two together.
 */
const CHUNK: i32 = 64
const MOST: i32 = 16 // highest factor
const LEVELS: i32 = 4

/** Operations of the program; core/src/signal/clipping.ts writes the same numbers. */
const STAGE: i32 = 1
const SECTION: i32 = 2
const POWER: i32 = 3
const POLES: i32 = 4
const SHELF: i32 = 5
const SAVE: i32 = 6
const BLEND: i32 = 7
const RECTIFY: i32 = 8
const SCOOP: i32 = 9

/**
 * The mean of two neighbours that the antiderivative form takes droops at the top of the band; (1 + d) − d·z⁻¹ with d(1 + d) = ¼ lifts
 * it again, to the second order in frequency.
 */
const DROOP: f64 = 0.20710678

const OPS: i32 = 24
const SLOT: i32 = 32 // numbers of one operation: kind, 15 parameters, 16 states

let base: usize = 0
let rows: usize = 0 // one row of CHUNK · 16 numbers a level: 2, 4, 8, 16 times the rate
let pairs: usize = 0 // scratch: (even, odd) pairs of the higher rate
let side: usize = 0 // what SAVE keeps
let coefficients: usize = 0 // a level: 4 pairs
let states: usize = 0 // a level and direction: 4 sections of x, y pairs
let program: usize = 0
let levels: i32 = 2

const ROW: usize = <usize>CHUNK * <usize>MOST * 8

function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 16)
  memory.fill(at, 0, bytes + 16)
  return (at + 15) & ~15
}

/** `count` octaves above the base rate: 2, 3 or 4. */
export function setup(count: i32): void {
  levels = count
  base = alloc(<usize>CHUNK * 8)
  rows = alloc(ROW * <usize>LEVELS)
  pairs = alloc(ROW)
  side = alloc(ROW)
  coefficients = alloc(<usize>LEVELS * 64)
  states = alloc(<usize>LEVELS * 256)
  program = alloc(<usize>OPS * <usize>SLOT * 8)
}

export function baseAt(): usize {
  return base
}
export function dataAt(): usize {
  return rowOf(levels)
}
export function coefficientsAt(): usize {
  return coefficients
}
export function programAt(): usize {
  return program
}

@inline
function rowOf(level: i32): usize {
  return level == 0 ? base : rows + ROW * <usize>(level - 1)
}

/** Forgets all sound; parameters stay. */
export function reset(): void {
  memory.fill(states, 0, <usize>LEVELS * 256)
  for (let k = 0; k < OPS; k++) {
    const op = program + <usize>k * <usize>SLOT * 8
    memory.fill(op + 128, 0, 128)
  }
}

/** Two sections on (even, odd) pairs, in place, in one loop so that their recursions overlap; c·a + x stands off the recursion's path. */
function twoSections(at: usize, frames: i32, coefficient: usize, state: usize): void {
  const c0 = v128.load(coefficient), c1 = v128.load(coefficient, 16)
  let x0 = v128.load(state), y0 = v128.load(state, 16), x1 = v128.load(state, 32), y1 = v128.load(state, 48)
  for (let p = at, end = at + ((<usize>frames) << 4); p < end; p += 16) {
    const a = v128.load(p)
    const b = f64x2.sub(f64x2.add(f64x2.mul(a, c0), x0), f64x2.mul(y0, c0))
    x0 = a
    y0 = b
    const c = f64x2.sub(f64x2.add(f64x2.mul(b, c1), x1), f64x2.mul(y1, c1))
    x1 = b
    y1 = c
    v128.store(p, c)
  }
  v128.store(state, x0)
  v128.store(state, y0, 16)
  v128.store(state, x1, 32)
  v128.store(state, y1, 48)
}

function fourSections(at: usize, frames: i32, coefficient: usize, state: usize): void {
  const c0 = v128.load(coefficient), c1 = v128.load(coefficient, 16), c2 = v128.load(coefficient, 32), c3 = v128.load(coefficient, 48)
  let x0 = v128.load(state), y0 = v128.load(state, 16), x1 = v128.load(state, 32), y1 = v128.load(state, 48)
  let x2 = v128.load(state, 64), y2 = v128.load(state, 80), x3 = v128.load(state, 96), y3 = v128.load(state, 112)
  for (let p = at, end = at + ((<usize>frames) << 4); p < end; p += 16) {
    const a = v128.load(p)
    const b = f64x2.sub(f64x2.add(f64x2.mul(a, c0), x0), f64x2.mul(y0, c0))
    x0 = a
    y0 = b
    const c = f64x2.sub(f64x2.add(f64x2.mul(b, c1), x1), f64x2.mul(y1, c1))
    x1 = b
    y1 = c
    const d = f64x2.sub(f64x2.add(f64x2.mul(c, c2), x2), f64x2.mul(y2, c2))
    x2 = c
    y2 = d
    const e = f64x2.sub(f64x2.add(f64x2.mul(d, c3), x3), f64x2.mul(y3, c3))
    x3 = d
    y3 = e
    v128.store(p, e)
  }
  v128.store(state, x0)
  v128.store(state, y0, 16)
  v128.store(state, x1, 32)
  v128.store(state, y1, 48)
  v128.store(state, x2, 64)
  v128.store(state, y2, 80)
  v128.store(state, x3, 96)
  v128.store(state, y3, 112)
}

@inline
function sections(level: i32, at: usize, frames: i32, direction: usize): void {
  const coefficient = coefficients + ((<usize>level) << 6)
  const state = states + ((<usize>level) << 8) + (direction << 7)
  if (level == 0) fourSections(at, frames, coefficient, state)
  else twoSections(at, frames, coefficient, state)
}

/** base (frames) → data (factor · frames). */
export function raise(frames: i32): void {
  for (let level = 0; level < levels; level++) {
    const count = frames << level
    const from = rowOf(level), to = rowOf(level + 1)
    for (let i: usize = 0; i < <usize>count; i++) v128.store(to + (i << 4), v128.load64_splat(from + (i << 3)))
    sections(level, to, count, 0)
  }
}

/** data (factor · frames) → base (frames). */
export function lower(frames: i32): void {
  for (let level = levels - 1; level >= 0; level--) {
    const count = frames << level
    const from = rowOf(level + 1), to = rowOf(level)
    for (let i: usize = 0; i < <usize>count; i++) {
      const p = v128.load(from + (i << 4))
      v128.store(pairs + (i << 4), v128.shuffle<f64>(p, p, 1, 0))
    }
    sections(level, pairs, count, 1)
    for (let i: usize = 0; i < <usize>count; i++) {
      const p = v128.load(pairs + (i << 4))
      store<f64>(to + (i << 3), 0.5 * (f64x2.extract_lane(p, 0) + f64x2.extract_lane(p, 1)))
    }
  }
}

@inline
function get(op: usize, index: i32): f64 {
  return load<f64>(op + ((<usize>index) << 3))
}

@inline
function put(op: usize, index: i32, value: f64): void {
  store<f64>(op + ((<usize>index) << 3), value)
}

/** Below it (−300 dB) a state counts as zero. */
const NOTHING: f64 = 1e-15

/**
 * Sets states that have died away to zero: decaying filters would else end among denormal numbers, which cost ten times as much. A
 * guard on the input does not reach the filters behind a biased clip.
 */
export function settle(): void {
  for (let level = 0; level < levels; level++) {
    const state = states + ((<usize>level) << 8)
    for (let i: usize = 0; i < 256; i += 8) if (Math.abs(load<f64>(state + i)) < NOTHING) store<f64>(state + i, 0)
  }
  for (let k = 0; k < OPS; k++) {
    const op = program + <usize>k * <usize>SLOT * 8
    if (get(op, 0) == 0) break
    for (let i = 16; i < SLOT; i++) if (Math.abs(get(op, i)) < NOTHING) put(op, i, 0)
  }
}

/** Runs the program over `frames` · factor samples; ramped values start at the sample that lies `place` frames into the chunk. */
export function run(frames: i32, place: i32): void {
  const count = frames << levels
  const at = place << levels
  for (let k = 0; k < OPS; k++) {
    const op = program + <usize>k * <usize>SLOT * 8
    const kind = <i32>get(op, 0)
    if (kind == 0) break
    if (kind == STAGE) stage(op, count, at)
    else if (kind == SECTION) section(op, count, at)
    else if (kind == POWER) power(op, count, at)
    else if (kind == POLES) poles(op, count, at)
    else if (kind == SHELF) shelf(op, count, at)
    else if (kind == SAVE) memory.copy(side, rowOf(levels), (<usize>count) << 3)
    else if (kind == BLEND) blend(op, count, at)
    else if (kind == RECTIFY) rectify(op, count)
    else if (kind == SCOOP) scoop(op, count, at)
  }
}



/**
 * data ← g(gain · data + bias) − g(bias), g a mix of the soft clip x/√(1+x²) and the hard clip by `hardness` 0–1, both as the mean
 * of g between two samples (antiderivative form). States at s: the last x and the last result.
 */
@inline
function clip(s: usize, count: i32, gain: f64, step: f64, place: i32, bias: f64, shift: f64, rest: f64, hardness: f64): void {
  if (hardness == 0) soft(s, count, gain, step, place, bias, shift, rest)
  else hard(s, count, gain, step, place, bias, shift, rest, hardness)
}

/** `shift` is the bias's step a sample; what is taken off is the rest at the bias `still`. */
function soft(s: usize, count: i32, gain: f64, step: f64, place: i32, bias: f64, shift: f64, still: f64): void {
  const data = rowOf(levels)
  const rests = f64x2.splat(still / Math.sqrt(1 + still * still))
  const ones = f64x2.splat(1)
  const biases = f64x2.splat(bias)
  const shifts = f64x2.splat(shift)
  const gains = f64x2.splat(gain)
  const steps = f64x2.splat(step)
  const two = f64x2.splat(2)
  let at = f64x2.replace_lane(f64x2.splat(<f64>place), 1, <f64>(place + 1))
  // the state is kept less the bias, so that zero is rest
  const x = load<f64>(s) + (bias + <f64>(place - 1) * shift)
  const lift = f64x2.splat(1 + DROOP), lower_ = f64x2.splat(DROOP)
  let last = f64x2.splat(load<f64>(s, 8))
  let before = f64x2.splat(x)
  let rootBefore = f64x2.splat(Math.sqrt(1 + x * x))
  for (let p = data, end = data + ((<usize>count) << 3); p < end; p += 16) {
    const offset = f64x2.add(biases, f64x2.mul(at, shifts))
    const x = f64x2.add(f64x2.mul(f64x2.add(gains, f64x2.mul(at, steps)), v128.load(p)), offset)
    const root = f64x2.sqrt(f64x2.add(ones, f64x2.mul(x, x)))
    const x1 = v128.shuffle<f64>(before, x, 1, 2)
    const root1 = v128.shuffle<f64>(rootBefore, root, 1, 2)
    const c = f64x2.sub(f64x2.div(f64x2.add(x, x1), f64x2.add(root, root1)), rests)
    const c1 = v128.shuffle<f64>(last, c, 1, 2)
    v128.store(p, f64x2.sub(f64x2.mul(lift, c), f64x2.mul(lower_, c1)))
    last = c
    before = x
    rootBefore = root
    at = f64x2.add(at, two)
  }
  store<f64>(s, f64x2.extract_lane(before, 1) - (bias + <f64>(place + count - 1) * shift))
  store<f64>(s, f64x2.extract_lane(last, 1), 8)
}

@inline
function clamp1(x: f64): f64 {
  return Math.min(1, Math.max(-1, x))
}

/** Antiderivative of the hard clip. */
@inline
function area(x: f64): f64 {
  const m = Math.abs(x)
  return m <= 1 ? 0.5 * x * x : m - 0.5
}

function hard(s: usize, count: i32, gain: f64, step: f64, place: i32, bias: f64, shift: f64, still: f64, hardness: f64): void {
  const data = rowOf(levels)
  const softness = 1 - hardness
  const rest = softness * (still / Math.sqrt(1 + still * still)) + hardness * clamp1(still)
  let x0 = load<f64>(s) + (bias + <f64>(place - 1) * shift)
  let r0 = Math.sqrt(1 + x0 * x0)
  let f0 = area(x0)
  let last = load<f64>(s, 8)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    const k = <f64>(place + i)
    const x = (gain + k * step) * load<f64>(p) + (bias + k * shift)
    const r = Math.sqrt(1 + x * x)
    const f = area(x)
    const d = x - x0
    const h = Math.abs(d) > 1e-5 ? (f - f0) / d : clamp1(0.5 * (x + x0))
    const c = softness * ((x + x0) / (r + r0)) + hardness * h - rest
    store<f64>(p, (1 + DROOP) * c - DROOP * last)
    last = c
    x0 = x
    r0 = r
    f0 = f
  }
  store<f64>(s, x0 - (bias + <f64>(place + count - 1) * shift))
  store<f64>(s, last, 8)
}

/**
 * A gain stage. 1 gain, 2 step, 3 bias, 4 hardness, 5 coupling (high-pass) coefficient, 6 Miller (low-pass) coefficient, 7 output
 * gain, 8 step of the bias, 9 bias at rest. States: 16 x, 17 clipped, 18 coupling, 19 Miller, 20 sum of magnitudes behind the clip.
 */
function stage(op: usize, count: i32, place: i32): void {
  clip(op + 128, count, get(op, 1), get(op, 2), place, get(op, 3), get(op, 8), get(op, 9), get(op, 4))
  couple(op, count, get(op, 5), get(op, 6), get(op, 7))
}

/** High-pass then low-pass, two samples a turn: the recursions run on every second sample. States 18, 19; 20 gathers magnitudes. */
function couple(op: usize, count: i32, coupling: f64, miller: f64, out: f64): void {
  const keepC = 1 - coupling, keepM = 1 - miller
  const keepC2 = keepC * keepC, keepM2 = keepM * keepM
  const crossC = keepC * coupling, crossM = keepM * miller
  let sc = get(op, 18), sm = get(op, 19), sum = get(op, 20)
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 3); p < end; p += 16) {
    const x0 = load<f64>(p), x1 = load<f64>(p, 8)
    sum += Math.abs(x0)
    sum += Math.abs(x1)
    const c0 = keepC * sc + coupling * x0
    sc = keepC2 * sc + (crossC * x0 + coupling * x1)
    const y0 = x0 - c0, y1 = x1 - sc
    const m0 = keepM * sm + miller * y0
    sm = keepM2 * sm + (crossM * y0 + miller * y1)
    store<f64>(p, out * m0)
    store<f64>(p, out * sm, 8)
  }
  put(op, 18, sc), put(op, 19, sm), put(op, 20, sum)
}

/**
 * A third-order section and a pole. 1–4 b0 … b3, 5–7 a1 … a3, 8 pole coefficient (1: none), 9–15 steps of 1–7. States 16–19.
 */
function section(op: usize, count: i32, place: i32): void {
  let b0 = get(op, 1), b1 = get(op, 2), b2 = get(op, 3), b3 = get(op, 4), a1 = get(op, 5), a2 = get(op, 6), a3 = get(op, 7)
  const pole = get(op, 8), keep = 1 - pole
  let z1 = get(op, 16), z2 = get(op, 17), z3 = get(op, 18), s = get(op, 19)
  const data = rowOf(levels)
  const d0 = get(op, 9), d1 = get(op, 10), d2 = get(op, 11), d3 = get(op, 12), e1 = get(op, 13), e2 = get(op, 14), e3 = get(op, 15)
  if (d0 == 0 && d1 == 0 && d2 == 0 && d3 == 0 && e1 == 0 && e2 == 0 && e3 == 0) {
    for (let p = data, end = data + ((<usize>count) << 3); p < end; p += 8) {
      const x = load<f64>(p)
      const t = b0 * x + z1
      z1 = b1 * x + z2 - a1 * t
      z2 = b2 * x + z3 - a2 * t
      z3 = b3 * x - a3 * t
      s = keep * s + pole * t
      store<f64>(p, s)
    }
  } else {
    for (let i = 0; i < count; i++) {
      const p = data + ((<usize>i) << 3)
      const k = <f64>(place + i)
      const x = load<f64>(p)
      const t = (b0 + k * d0) * x + z1
      z1 = (b1 + k * d1) * x + z2 - (a1 + k * e1) * t
      z2 = (b2 + k * d2) * x + z3 - (a2 + k * e2) * t
      z3 = (b3 + k * d3) * x - (a3 + k * e3) * t
      s = keep * s + pole * t
      store<f64>(p, s)
    }
  }
  put(op, 16, z1), put(op, 17, z2), put(op, 18, z3), put(op, 19, s)
}

/**
 * The power stage. 1 gain, 2 step, 3 bias, 4 hardness; 5 supply, 6 step; 7 presence coefficient, 8 amount, 9 step; 10 transformer
 * low, 11 high coefficient; the loudspeaker's resonance as a state-variable band-pass: 12 frequency, 13 amount, 14 step, 15 damping. States: 16 x,
 * 17 clipped, 18 presence, 19 low, 20 high, 21 resonance, 22 sum of magnitudes, 23 the resonance's band.
 */
function power(op: usize, count: i32, place: i32): void {
  const bias = get(op, 3)
  clip(op + 128, count, get(op, 1), get(op, 2), place, bias, 0, bias, get(op, 4))
  const supply = get(op, 5), supplyStep = get(op, 6), presence = get(op, 7), lift = get(op, 8), liftStep = get(op, 9)
  const low = get(op, 10), high = get(op, 11), tune = get(op, 12), depth = get(op, 13), depthStep = get(op, 14), damping = get(op, 15)
  const keepP = 1 - presence, keepL = 1 - low, keepH = 1 - high
  let ss = get(op, 18), sl = get(op, 19), sh = get(op, 20), rl = get(op, 21), rb = get(op, 23)
  // goes on over pieces of a chunk, so that its rounding does not depend on their size; the host takes it at every tick
  let sum: f64 = get(op, 22)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const k = <f64>(place + i)
    const p = data + ((<usize>i) << 3)
    const y = load<f64>(p)
    sum += Math.abs(y)
    const v = y * (supply + k * supplyStep)
    ss = keepP * ss + presence * v
    rl += tune * rb
    rb += tune * (v - rl - damping * rb)
    const z = v + (v - ss) * (lift + k * liftStep) + damping * rb * (depth + k * depthStep)
    sl = keepL * sl + low * z
    sh = keepH * sh + high * (z - sl)
    store<f64>(p, sh)
  }
  put(op, 18, ss), put(op, 19, sl), put(op, 20, sh), put(op, 21, rl), put(op, 23, rb)
  put(op, 22, sum)
}

/** 1 high-pass, 2 low-pass coefficient (0 and 1: none), 3 gain, 4 step. States 18, 19. */
function poles(op: usize, count: i32, place: i32): void {
  const coupling = get(op, 1), miller = get(op, 2), gain = get(op, 3), step = get(op, 4)
  if (step == 0) return couple(op, count, coupling, miller, gain)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    store<f64>(p, load<f64>(p) * (gain + <f64>(place + i) * step))
  }
  couple(op, count, coupling, miller, 1)
}

/** What lies above a corner by 1 + amount: 1 coefficient, 2 amount, 3 step. State 16. */
function shelf(op: usize, count: i32, place: i32): void {
  const pole = get(op, 1), amount = get(op, 2), step = get(op, 3), keep = 1 - pole
  let s = get(op, 16)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    const x = load<f64>(p)
    s = keep * s + pole * x
    store<f64>(p, x + (x - s) * (amount + <f64>(place + i) * step))
  }
  put(op, 16, s)
}

/** data · a + saved · b: 1 a, 2 step, 3 b, 4 step. */
function blend(op: usize, count: i32, place: i32): void {
  const a = get(op, 1), stepA = get(op, 2), b = get(op, 3), stepB = get(op, 4)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const k = <f64>(place + i)
    const p = data + ((<usize>i) << 3)
    store<f64>(p, load<f64>(p) * (a + k * stepA) + load<f64>(side + ((<usize>i) << 3)) * (b + k * stepB))
  }
}

/**
 * Full-wave rectifier in antiderivative form: the mean of |x| between two samples. 1 share of the rectified in the sum with the plain
 * signal. State 16.
 */
function rectify(op: usize, count: i32): void {
  const share = get(op, 1), rest = 1 - share
  let x0 = get(op, 16)
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 3); p < end; p += 8) {
    const x = load<f64>(p)
    const m = Math.abs(x), m0 = Math.abs(x0)
    const mean = x * x0 >= 0 ? 0.5 * (m + m0) : (x * x + x0 * x0) / (2 * (m + m0))
    store<f64>(p, share * mean + rest * 0.5 * (x + x0))
    x0 = x
  }
  put(op, 16, x0)
}

/** Tone blend with a dip between its corners: (1 − t) · low-pass + t · high-pass. 1 low, 2 high coefficient, 3 t, 4 step. States 16, 17. */
function scoop(op: usize, count: i32, place: i32): void {
  const low = get(op, 1), high = get(op, 2), t = get(op, 3), step = get(op, 4), keepL = 1 - low, keepH = 1 - high
  let sl = get(op, 16), sh = get(op, 17)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    const x = load<f64>(p)
    const share = t + <f64>(place + i) * step
    sl = keepL * sl + low * x
    sh = keepH * sh + high * x
    store<f64>(p, (1 - share) * sl + share * (x - sh))
  }
  put(op, 16, sl), put(op, 17, sh)
}
