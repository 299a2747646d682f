/**
 * Kernel of the clipping stages, f64 SIMD: half-band resampling by two allpass paths (one lane each) to 4, 8 or 16 times the rate,
 * and between them a program of operations over the raised samples. One instance serves one processor, which writes the program as
 * slots of numbers. The plain TypeScript of resampling and clip stands in core/src/signal/clipping/plainClipping.ts with the sources; a test
 * holds the two together.
 */
import { alloc } from './memory'
import {
  BLEND_KEPT,
  BLEND_KEPT_STEP,
  BLEND_KIND,
  BLEND_SIGNAL,
  BLEND_SIGNAL_STEP,
  POLES_GAIN,
  POLES_GAIN_STEP,
  POLES_HIGH_PASS,
  POLES_KIND,
  POLES_LOW_PASS,
  POWER_BIAS,
  POWER_DRAWN,
  POWER_GAIN,
  POWER_GAIN_STEP,
  POWER_HARDNESS,
  POWER_HIGH_POLE,
  POWER_HIGH_STATE,
  POWER_KIND,
  POWER_LOW_POLE,
  POWER_LOW_STATE,
  POWER_PRESENCE,
  POWER_PRESENCE_POLE,
  POWER_PRESENCE_STATE,
  POWER_PRESENCE_STEP,
  POWER_RESONANCE,
  POWER_RESONANCE_BAND,
  POWER_RESONANCE_DAMPING,
  POWER_RESONANCE_LOW,
  POWER_RESONANCE_STEP,
  POWER_RESONANCE_TUNE,
  POWER_SUPPLY,
  POWER_SUPPLY_STEP,
  RECTIFY_BEFORE,
  RECTIFY_KIND,
  RECTIFY_SHARE,
  SAVE_KIND,
  SCOOP_HIGH_POLE,
  SCOOP_HIGH_STATE,
  SCOOP_KIND,
  SCOOP_LOW_POLE,
  SCOOP_LOW_STATE,
  SCOOP_SHARE,
  SCOOP_SHARE_STEP,
  SECTION_A1,
  SECTION_A1_STEP,
  SECTION_A2,
  SECTION_A2_STEP,
  SECTION_A3,
  SECTION_A3_STEP,
  SECTION_B0,
  SECTION_B0_STEP,
  SECTION_B1,
  SECTION_B1_STEP,
  SECTION_B2,
  SECTION_B2_STEP,
  SECTION_B3,
  SECTION_B3_STEP,
  SECTION_KIND,
  SECTION_POLE,
  SECTION_POLE_STATE,
  SECTION_Z1,
  SECTION_Z2,
  SECTION_Z3,
  SHELF_KIND,
  SHELF_POLE,
  SHELF_SHARE,
  SHELF_SHARE_STEP,
  SHELF_STATE,
  STAGE_BIAS,
  STAGE_BIAS_AT_REST,
  STAGE_BIAS_STEP,
  STAGE_COUPLING,
  STAGE_COUPLING_STATE,
  STAGE_DRIVEN,
  STAGE_GAIN,
  STAGE_GAIN_STEP,
  STAGE_HARDNESS,
  STAGE_KIND,
  STAGE_MILLER,
  STAGE_MILLER_STATE,
  STAGE_OUT,
} from './operations.generated'

const CHUNK: i32 = 64
const MOST: i32 = 16 // highest factor
const LEVELS: i32 = 4

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
let side: usize = 0 // what a save keeps
let coefficients: usize = 0 // a level: 4 pairs
let states: usize = 0 // a level and direction: 4 sections of x, y pairs
let program: usize = 0
let levels: i32 = 2

const ROW: usize = <usize>CHUNK * <usize>MOST * 8

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
    if (kind == STAGE_KIND) stage(op, count, at)
    else if (kind == SECTION_KIND) section(op, count, at)
    else if (kind == POWER_KIND) power(op, count, at)
    else if (kind == POLES_KIND) poles(op, count, at)
    else if (kind == SHELF_KIND) shelf(op, count, at)
    else if (kind == SAVE_KIND) memory.copy(side, rowOf(levels), (<usize>count) << 3)
    else if (kind == BLEND_KIND) blend(op, count, at)
    else if (kind == RECTIFY_KIND) rectify(op, count)
    else if (kind == SCOOP_KIND) scoop(op, count, at)
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
 * A gain stage: a clip about a bias, coupling (high-pass) and Miller capacitance (low-pass), a gain. The clip keeps x and the clipped
 * one at 16 and 17; the sum of magnitudes behind it gathers in `driven`.
 */
function stage(op: usize, count: i32, place: i32): void {
  clip(op + 128, count, get(op, STAGE_GAIN), get(op, STAGE_GAIN_STEP), place, get(op, STAGE_BIAS), get(op, STAGE_BIAS_STEP),
    get(op, STAGE_BIAS_AT_REST), get(op, STAGE_HARDNESS))
  couple(op, count, get(op, STAGE_COUPLING), get(op, STAGE_MILLER), get(op, STAGE_OUT))
}

/** High-pass then low-pass, two samples a turn: the recursions run on every second sample. A stage gathers magnitudes in `driven`. */
function couple(op: usize, count: i32, coupling: f64, miller: f64, out: f64): void {
  const keepC = 1 - coupling, keepM = 1 - miller
  const keepC2 = keepC * keepC, keepM2 = keepM * keepM
  const crossC = keepC * coupling, crossM = keepM * miller
  let sc = get(op, STAGE_COUPLING_STATE), sm = get(op, STAGE_MILLER_STATE), sum = get(op, STAGE_DRIVEN)
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
  put(op, STAGE_COUPLING_STATE, sc), put(op, STAGE_MILLER_STATE, sm), put(op, STAGE_DRIVEN, sum)
}

/**
 * A third-order section, and a pole (coefficient 1: none).
 */
function section(op: usize, count: i32, place: i32): void {
  let b0 = get(op, SECTION_B0), b1 = get(op, SECTION_B1), b2 = get(op, SECTION_B2), b3 = get(op, SECTION_B3),
    a1 = get(op, SECTION_A1), a2 = get(op, SECTION_A2), a3 = get(op, SECTION_A3)
  const pole = get(op, SECTION_POLE), keep = 1 - pole
  let z1 = get(op, SECTION_Z1), z2 = get(op, SECTION_Z2), z3 = get(op, SECTION_Z3), s = get(op, SECTION_POLE_STATE)
  const data = rowOf(levels)
  const d0 = get(op, SECTION_B0_STEP), d1 = get(op, SECTION_B1_STEP), d2 = get(op, SECTION_B2_STEP),
    d3 = get(op, SECTION_B3_STEP), e1 = get(op, SECTION_A1_STEP), e2 = get(op, SECTION_A2_STEP), e3 = get(op, SECTION_A3_STEP)
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
  put(op, SECTION_Z1, z1), put(op, SECTION_Z2, z2), put(op, SECTION_Z3, z3), put(op, SECTION_POLE_STATE, s)
}

/**
 * The power stage: a clip, its supply, presence as a shelf, the transformer's corners, and the loudspeaker's resonance as a
 * state-variable band-pass. What it draws gathers in `drawn`.
 */
function power(op: usize, count: i32, place: i32): void {
  const bias = get(op, POWER_BIAS)
  clip(op + 128, count, get(op, POWER_GAIN), get(op, POWER_GAIN_STEP), place, bias, 0, bias, get(op, POWER_HARDNESS))
  const supply = get(op, POWER_SUPPLY), supplyStep = get(op, POWER_SUPPLY_STEP), presence = get(op, POWER_PRESENCE_POLE),
    lift = get(op, POWER_PRESENCE), liftStep = get(op, POWER_PRESENCE_STEP)
  const low = get(op, POWER_LOW_POLE), high = get(op, POWER_HIGH_POLE), tune = get(op, POWER_RESONANCE_TUNE),
    depth = get(op, POWER_RESONANCE), depthStep = get(op, POWER_RESONANCE_STEP), damping = get(op, POWER_RESONANCE_DAMPING)
  const keepP = 1 - presence, keepL = 1 - low, keepH = 1 - high
  let ss = get(op, POWER_PRESENCE_STATE), sl = get(op, POWER_LOW_STATE), sh = get(op, POWER_HIGH_STATE),
    rl = get(op, POWER_RESONANCE_LOW), rb = get(op, POWER_RESONANCE_BAND)
  // goes on over pieces of a chunk, so that its rounding does not depend on their size; the host takes it at every tick
  let sum: f64 = get(op, POWER_DRAWN)
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
  put(op, POWER_PRESENCE_STATE, ss), put(op, POWER_LOW_STATE, sl), put(op, POWER_HIGH_STATE, sh),
    put(op, POWER_RESONANCE_LOW, rl), put(op, POWER_RESONANCE_BAND, rb)
  put(op, POWER_DRAWN, sum)
}

/** High-pass and low-pass (coefficients 0 and 1: none) behind a gain; shares its states with a stage. */
function poles(op: usize, count: i32, place: i32): void {
  const coupling = get(op, POLES_HIGH_PASS), miller = get(op, POLES_LOW_PASS), gain = get(op, POLES_GAIN), step = get(op, POLES_GAIN_STEP)
  if (step == 0) return couple(op, count, coupling, miller, gain)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    store<f64>(p, load<f64>(p) * (gain + <f64>(place + i) * step))
  }
  couple(op, count, coupling, miller, 1)
}

/** What lies above a corner by 1 + share. */
function shelf(op: usize, count: i32, place: i32): void {
  const pole = get(op, SHELF_POLE), amount = get(op, SHELF_SHARE), step = get(op, SHELF_SHARE_STEP), keep = 1 - pole
  let s = get(op, SHELF_STATE)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    const x = load<f64>(p)
    s = keep * s + pole * x
    store<f64>(p, x + (x - s) * (amount + <f64>(place + i) * step))
  }
  put(op, SHELF_STATE, s)
}

/** signal · a + kept · b. */
function blend(op: usize, count: i32, place: i32): void {
  const a = get(op, BLEND_SIGNAL), stepA = get(op, BLEND_SIGNAL_STEP), b = get(op, BLEND_KEPT), stepB = get(op, BLEND_KEPT_STEP)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const k = <f64>(place + i)
    const p = data + ((<usize>i) << 3)
    store<f64>(p, load<f64>(p) * (a + k * stepA) + load<f64>(side + ((<usize>i) << 3)) * (b + k * stepB))
  }
}

/**
 * Full-wave rectifier in antiderivative form: the mean of |x| between two samples; `share` of it in the sum with the plain signal.
 */
function rectify(op: usize, count: i32): void {
  const share = get(op, RECTIFY_SHARE), rest = 1 - share
  let x0 = get(op, RECTIFY_BEFORE)
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 3); p < end; p += 8) {
    const x = load<f64>(p)
    const m = Math.abs(x), m0 = Math.abs(x0)
    const mean = x * x0 >= 0 ? 0.5 * (m + m0) : (x * x + x0 * x0) / (2 * (m + m0))
    store<f64>(p, share * mean + rest * 0.5 * (x + x0))
    x0 = x
  }
  put(op, RECTIFY_BEFORE, x0)
}

/** Tone blend with a dip between its corners: (1 − t) · low-pass + t · high-pass. */
function scoop(op: usize, count: i32, place: i32): void {
  const low = get(op, SCOOP_LOW_POLE), high = get(op, SCOOP_HIGH_POLE), t = get(op, SCOOP_SHARE),
    step = get(op, SCOOP_SHARE_STEP), keepL = 1 - low, keepH = 1 - high
  let sl = get(op, SCOOP_LOW_STATE), sh = get(op, SCOOP_HIGH_STATE)
  const data = rowOf(levels)
  for (let i = 0; i < count; i++) {
    const p = data + ((<usize>i) << 3)
    const x = load<f64>(p)
    const share = t + <f64>(place + i) * step
    sl = keepL * sl + low * x
    sh = keepH * sh + high * x
    store<f64>(p, (1 - share) * sl + share * (x - sh))
  }
  put(op, SCOOP_LOW_STATE, sl), put(op, SCOOP_HIGH_STATE, sh)
}
