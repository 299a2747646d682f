/**
 * Clipping stages, f32 SIMD with what filters remember in f64: half-band resampling by two allpass paths to 4, 8 or 16 times the rate, and
 * between them a program of operations over the raised samples, which the host writes as slots of numbers. The plain TypeScript of resampling and clip stands in core/src/signal/clipping/plainClipping.ts with the sources;
 * a test holds the two together.
 *
 * Recursions run four samples a turn (a prefix sum in the vector, and the state of the fourth sample before it): of 4 · n samples at the
 * raised rate every turn begins on a frame. At four times the rate most of them run in stretches side by side; see `apart`.
 */
import { before, decay, decayBefore, ramp, settled } from '../filters'
import { alloc, CHUNK, free } from '../memory'
import {
  BLEND_KEPT,
  BLEND_KEPT_STEP,
  BLEND_KIND,
  BLEND_SIGNAL,
  BLEND_SIGNAL_STEP,
  MODES_DIRECT,
  MODES_DIRECT_STEP,
  MODES_GAIN1,
  MODES_GAIN1_STEP,
  MODES_GAIN2,
  MODES_GAIN2_STEP,
  MODES_GAIN3,
  MODES_GAIN3_STEP,
  MODES_KIND,
  MODES_POLE1,
  MODES_POLE2,
  MODES_POLE3,
  MODES_STATE1,
  MODES_STATE2,
  MODES_STATE3,
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
  POWER_KIND,
  POWER_LOW_POLE,
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
  SECTION_B0,
  SECTION_B0_STEP,
  SECTION_B1,
  SECTION_B1_STEP,
  SECTION_B2,
  SECTION_B2_STEP,
  SECTION_KIND,
  SECTION_Z1,
  SECTION_Z2,
  SHELF_KIND,
  SHELF_POLE,
  SHELF_SHARE,
  SHELF_SHARE_STEP,
  SHELF_STATE,
  STAGE_BIAS,
  STAGE_BIAS_AT_REST,
  STAGE_BIAS_STEP,
  STAGE_BLOCKING,
  STAGE_CHARGE,
  STAGE_COUPLING,
  STAGE_COUPLING_STATE,
  STAGE_DRIVEN,
  STAGE_EVEN,
  STAGE_FALL,
  STAGE_GAIN,
  STAGE_GAIN_STEP,
  STAGE_GRID_CURRENT,
  STAGE_HARDNESS,
  STAGE_KIND,
  STAGE_LISTENED,
  STAGE_MEAN,
  STAGE_MILLER,
  STAGE_MILLER_STATE,
  STAGE_OUT,
  STAGE_RISE,
  SUPPLY_BEGUN,
  SUPPLY_BOOM,
  SUPPLY_BOOMED,
  SUPPLY_DEPTH,
  SUPPLY_DROP,
  SUPPLY_FALL,
  SUPPLY_FEEDBACK,
  SUPPLY_KIND,
  SUPPLY_LIFT,
  SUPPLY_LOST,
  SUPPLY_OUTPUT,
  SUPPLY_OUTPUT_NEXT,
  SUPPLY_PRESENCE,
  SUPPLY_RECOVER,
  SUPPLY_SAG,
  SUPPLY_TOP,
} from '../operations.generated'

const MOST: i32 = 16 // highest factor
const LEVELS: i32 = 4

/**
 * The mean of two neighbours that the antiderivative form takes droops at the top of the band; (1 + d) − d·z⁻¹ with d(1 + d) = ¼ lifts
 * it again, to the second order in frequency.
 */
const DROOP: f32 = 0.20710678

const OPS: i32 = 24
const SLOT: i32 = 32 // numbers of one operation: kind, 15 parameters, 16 states

const ROW: usize = <usize>CHUNK * <usize>MOST * 4
const SECTION: usize = 48

// what only lives within a chunk is shared by all stages
const rows = alloc(ROW * <usize>LEVELS) // a level: 2, 4, 8, 16 times the rate
const side = alloc(ROW) // what a save keeps
const coefficients = alloc(<usize>LEVELS * 64) // a level: 4 pairs, f64
const folded = alloc(<usize>LEVELS * 4 * SECTION) // a level: c², c and 1 − c² of 4 pairs, each pair twice

/** Octaves above the base rate of the stage that runs. */
let levels: i32 = 2

/** One stage. */
@unmanaged
export class ClippingStage {
  /** Octaves above the base rate: 2, 3 or 4. */
  levels: i32
  /** Of the resampling, a level and direction: 4 sections of x, y of two frames. */
  states: usize
  /** {@link OPS} slots. */
  program: usize
}

export function clippingCreate(octaves: i32): ClippingStage {
  const self = changetype<ClippingStage>(alloc(offsetof<ClippingStage>()))
  self.levels = octaves
  self.states = alloc(<usize>LEVELS * 256)
  self.program = alloc(<usize>OPS * <usize>SLOT * 8)
  return self
}
export function clippingFree(self: ClippingStage): void {
  free(self.states)
  free(self.program)
  free(changetype<usize>(self))
}
export function clippingProgramAt(self: ClippingStage): usize {
  return self.program
}
/** The chunk at the higher rate. */
export function clippingRaisedAt(self: ClippingStage): usize {
  return rows + ROW * <usize>(self.levels - 1)
}
export function clippingCoefficientsAt(): usize {
  return coefficients
}

/** f64 coefficients of a level's half-band, for clips that run sample by sample. */
@inline
export function halfBandAt(level: i32): usize {
  return coefficients + (<usize>level << 6)
}

/** Once the coefficients are written. */
export function clippingFold(): void {
  for (let k = 0; k < LEVELS * 4; k++) {
    const from = coefficients + ((<usize>k) << 4), to = folded + <usize>k * SECTION
    for (let lane: usize = 0; lane < 4; lane++) {
      const c = load<f64>(from + ((lane & 1) << 3))
      store<f32>(to + (lane << 2), <f32>(c * c))
      store<f32>(to + (lane << 2), <f32>c, 16)
      store<f32>(to + (lane << 2), <f32>(1 - c * c), 32)
    }
  }
}

/** Forgets all sound; parameters stay. */
export function clippingReset(self: ClippingStage): void {
  memory.fill(self.states, 0, <usize>LEVELS * 256)
  for (let k = 0; k < OPS; k++) memory.fill(self.program + <usize>k * <usize>SLOT * 8 + 128, 0, 128)
}

/** A chunk in place. */
export function clippingProcess(self: ClippingStage, data: usize): void {
  levels = self.levels
  raise(data, self.states)
  run(self.program, <i32>CHUNK << levels)
  lower(data, self.states)
  settle(self)
}

/** The program alone, over what stands in the raised chunk; for tests. */
export function clippingRun(self: ClippingStage, frames: i32): void {
  levels = self.levels
  run(self.program, frames << levels)
}

@inline
function rowOf(level: i32): usize {
  return rows + ROW * <usize>(level - 1)
}

/**
 * An allpass (c + z⁻¹) / (1 + c·z⁻¹) of two frames of both paths at once, of which the frame before the two is known: multiplied out with
 * 1 − c·z⁻¹ it looks back by two frames only.
 */
@inline
function allpass(x: v128, x0: v128, y0: v128, section: usize): v128 {
  const between = v128.shuffle<f32>(x0, x, 2, 3, 4, 5)
  const plain = f32x4.add(f32x4.mul(v128.load(section, 16), f32x4.sub(x, x0)), f32x4.mul(v128.load(section, 32), between))
  return f32x4.add(plain, f32x4.mul(v128.load(section), y0))
}

/** Both paths' next two frames: on the way up the same ones, on the way down every second one each. */
@inline
function taken(from: usize, up: bool): v128 {
  const pair = up ? v128.load64_splat(from) : v128.load(from)
  return up ? v128.shuffle<f32>(pair, pair, 0, 0, 1, 1) : v128.shuffle<f32>(pair, pair, 1, 0, 3, 2)
}

/** Both paths' frames by turns, or their mean. */
@inline
function given(to: usize, y: v128, up: bool): void {
  if (up) v128.store(to, y)
  else {
    const sum = f32x4.mul(f32x4.add(y, v128.shuffle<f32>(y, y, 1, 0, 3, 2)), f32x4.splat(0.5))
    v128.store64_lane(to, v128.shuffle<f32>(sum, sum, 0, 2, 0, 2), 0)
  }
}

/** `frames` of the lower rate through the half-band of eight coefficients, to twice the rate or from it. */
@inline
function long(from: usize, to: usize, frames: i32, c: usize, state: usize, up: bool): void {
  let x0 = v128.load(state), y0 = v128.load(state, 16), y1 = v128.load(state, 32), y2 = v128.load(state, 48), y3 = v128.load(state, 64)
  for (let i = 0; i < frames; i += 2) {
    const x = taken(from, up)
    const a = allpass(x, x0, y0, c)
    const b = allpass(a, y0, y1, c + SECTION)
    const d = allpass(b, y1, y2, c + 2 * SECTION)
    const e = allpass(d, y2, y3, c + 3 * SECTION)
    x0 = x
    y0 = a
    y1 = b
    y2 = d
    y3 = e
    given(to, e, up)
    from += up ? 8 : 16
    to += up ? 16 : 8
  }
  v128.store(state, x0)
  v128.store(state, y0, 16)
  v128.store(state, y1, 32)
  v128.store(state, y2, 48)
  v128.store(state, y3, 64)
}

/** The same with four coefficients. */
@inline
function short(from: usize, to: usize, frames: i32, c: usize, state: usize, up: bool): void {
  let x0 = v128.load(state), y0 = v128.load(state, 16), y1 = v128.load(state, 32)
  for (let i = 0; i < frames; i += 2) {
    const x = taken(from, up)
    const a = allpass(x, x0, y0, c)
    const b = allpass(a, y0, y1, c + SECTION)
    x0 = x
    y0 = a
    y1 = b
    given(to, b, up)
    from += up ? 8 : 16
    to += up ? 16 : 8
  }
  v128.store(state, x0)
  v128.store(state, y0, 16)
  v128.store(state, y1, 32)
}

function raise(data: usize, states: usize): void {
  long(data, rowOf(1), CHUNK, folded, states, true)
  for (let level = 1; level < levels; level++)
    short(rowOf(level), rowOf(level + 1), CHUNK << level, folded + <usize>level * 4 * SECTION, states + ((<usize>level) << 8), true)
}

function lower(data: usize, states: usize): void {
  for (let level = levels - 1; level > 0; level--)
    short(rowOf(level + 1), rowOf(level), CHUNK << level, folded + <usize>level * 4 * SECTION, states + ((<usize>level) << 8) + 128, false)
  long(rowOf(1), data, CHUNK, folded, states + 128, false)
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
function settle(self: ClippingStage): void {
  const least = f32x4.splat(<f32>NOTHING)
  for (let p = self.states, end = p + ((<usize>self.levels) << 8); p < end; p += 16) {
    const x = v128.load(p)
    v128.store(p, v128.and(x, f32x4.ge(f32x4.abs(x), least)))
  }
  const least2 = f64x2.splat(NOTHING)
  for (let op = self.program, end = op + <usize>OPS * <usize>SLOT * 8; op < end && load<f64>(op) != 0; op += <usize>SLOT * 8)
    for (let p = op + 128, last = op + 256; p < last; p += 16) {
      const x = v128.load(p)
      v128.store(p, v128.and(x, f64x2.ge(f64x2.abs(x), least2)))
    }
}

/** The program over `count` raised samples. */
function run(program: usize, count: i32): void {
  isBeside = false
  for (let k = 0; k < OPS; k++) {
    const op = program + <usize>k * <usize>SLOT * 8
    const kind = <i32>get(op, 0)
    if (kind == 0) break
    if (kind == STAGE_KIND) stage(op, count)
    else if (kind == SUPPLY_KIND) supply(op, op + <usize>SLOT * 8, count)
    else if (kind == MODES_KIND) modes(op, count)
    else if (kind == SECTION_KIND) section(op, count)
    else if (kind == POWER_KIND) power(op, count)
    else if (kind == POLES_KIND) poles(op, count)
    else if (kind == SHELF_KIND) shelf(op, count)
    else if (kind == SAVE_KIND) save(count)
    else if (kind == BLEND_KIND) blend(op, count)
    else if (kind == RECTIFY_KIND) rectify(op, count)
    else if (kind == SCOOP_KIND) scoop(op, count)
  }
  inRow(count)
}

/**
 * data ← g(gain · data + bias) − g(bias), g a mix of the soft clip x/√(1+x²) and the hard clip by `hardness` 0–1, both as the mean
 * of g between two samples (antiderivative form). States at s: the last x less its bias, so that zero is rest, and the last result.
 * `shift` is the bias's step a sample; what is taken off is the rest at the bias `still`.
 */
function clip(s: usize, count: i32, gain: f64, step: f64, bias: f64, shift: f64, still: f64, hardness: f64): void {
  const isApart = laidOut(count)
  if (hardness == 0) {
    if (!isApart) softly(false, true, s, count, gain, step, bias, shift, still)
    else if (step == 0) softly(true, false, s, count, gain, step, bias, shift, still)
    else softly(true, true, s, count, gain, step, bias, shift, still)
  } else if (isApart) firmlyApart(s, count, gain, step, bias, shift, still, hardness)
  else firmly(false, s, count, gain, step, bias, shift, still, hardness)
}

/** By itself: in one function with the other, both would be told apart at every sample. */
function firmlyApart(s: usize, count: i32, gain: f64, step: f64, bias: f64, shift: f64, still: f64, hardness: f64): void {
  firmly(true, s, count, gain, step, bias, shift, still, hardness)
}

/** What stood one sample before `now`: in a stretch of its own the vector before, else see {@link before}. */
@inline
function previous(isApart: bool, last: v128, now: v128): v128 {
  return isApart ? last : before(last, now)
}

/** √(1 + x²). */
@inline
function root(x: v128): v128 {
  return f32x4.sqrt(f32x4.add(f32x4.splat(1), f32x4.mul(x, x)))
}

/** What is clipped at some places: gain · data + bias, of which the bias glides and the gain may. */
@inline
function driven(glides: bool, data: usize, gains: v128, steps: v128, biases: v128, shifts: v128, at: v128): v128 {
  return f32x4.add(f32x4.mul(glides ? ramp(gains, steps, at) : gains, v128.load(data)), ramp(biases, shifts, at))
}

@inline
function softly(isApart: bool, glides: bool, s: usize, count: i32, gain: f64, step: f64, bias: f64, shift: f64, still: f64): void {
  const gains = f32x4.splat(<f32>gain), steps = f32x4.splat(<f32>step)
  const biases = f32x4.splat(<f32>bias), shifts = f32x4.splat(<f32>shift)
  const on = f32x4.splat(isApart ? 1 : 4)
  // as the loop computes it at rest, so that silence is zero to the last bit
  const stills = f32x4.splat(<f32>still)
  const rests = f32x4.div(stills, root(stills))
  const lift = f32x4.splat(1 + DROOP), droop = f32x4.splat(DROOP)
  const data = isApart ? flat : rowOf(levels), end = data + ((<usize>count) << 2)
  let at = isApart ? quarters(count) : f32x4(0, 1, 2, 3)
  let x0 = f32x4.splat(<f32>load<f64>(s) + (<f32>bias - <f32>shift))
  let r0 = root(x0)
  let c0 = f32x4.splat(<f32>load<f64>(s, 8))
  if (isApart) {
    // before each quarter stands the end of the one before
    const places = f32x4.add(at, f32x4.splat(<f32>((count >> 2) - 1)))
    const x = driven(glides, end - 16, gains, steps, biases, shifts, places)
    const y = driven(glides, end - 32, gains, steps, biases, shifts, f32x4.sub(places, f32x4.splat(1)))
    const r = root(x)
    const c = f32x4.sub(f32x4.div(f32x4.add(x, y), f32x4.add(r, root(y))), rests)
    x0 = before(x0, x)
    r0 = before(r0, r)
    c0 = before(c0, c)
  }
  for (let p = data; p < end; p += 16) {
    const x = driven(glides, p, gains, steps, biases, shifts, at)
    const r = root(x)
    const c = f32x4.sub(f32x4.div(f32x4.add(x, previous(isApart, x0, x)), f32x4.add(r, previous(isApart, r0, r))), rests)
    v128.store(p, f32x4.sub(f32x4.mul(lift, c), f32x4.mul(droop, previous(isApart, c0, c))))
    c0 = c
    x0 = x
    r0 = r
    at = f32x4.add(at, on)
  }
  store<f64>(s, f32x4.extract_lane(x0, 3) - (<f32>bias + <f32>(count - 1) * <f32>shift))
  store<f64>(s, f32x4.extract_lane(c0, 3), 8)
}

/** What the hard clip leaves. By a comparison alone: the least and the largest that the language else means take ten instructions each. */
@inline
function within(x: v128): v128 {
  return f32x4.pmax(f32x4.pmin(x, f32x4.splat(1)), f32x4.splat(-1))
}

/**
 * The hard clip from y to x, of which `kept` is left and `cut` cut off. Its antiderivative is ½c² + |e| with c what is left of x and e what is
 * cut off: taken so, the difference between two neighbours stays exact however far both are beyond the clip.
 */
@inline
function firm(x: v128, y: v128, kept: v128, keptBefore: v128, cut: v128, cutBefore: v128): v128 {
  const middle = f32x4.mul(f32x4.splat(0.5), f32x4.add(kept, keptBefore))
  const way = f32x4.sub(x, y)
  const area = f32x4.add(f32x4.mul(f32x4.sub(kept, keptBefore), middle), f32x4.sub(cut, cutBefore))
  return v128.bitselect(middle, f32x4.div(area, way), f32x4.eq(way, f32x4.splat(0)))
}

@inline
function firmly(isApart: bool, s: usize, count: i32, gain: f64, step: f64, bias: f64, shift: f64, still: f64, hardness: f64): void {
  const gains = f32x4.splat(<f32>gain), steps = f32x4.splat(<f32>step)
  const biases = f32x4.splat(<f32>bias), shifts = f32x4.splat(<f32>shift)
  const on = f32x4.splat(isApart ? 1 : 4)
  const softs = f32x4.splat(<f32>(1 - hardness)), hards = f32x4.splat(<f32>hardness)
  const stills = f32x4.splat(<f32>still)
  const rests = f32x4.add(f32x4.mul(softs, f32x4.div(stills, root(stills))), f32x4.mul(hards, within(stills)))
  const lift = f32x4.splat(1 + DROOP), droop = f32x4.splat(DROOP)
  const data = isApart ? flat : rowOf(levels), end = data + ((<usize>count) << 2)
  let at = isApart ? quarters(count) : f32x4(0, 1, 2, 3)
  let x0 = f32x4.splat(<f32>load<f64>(s) + (<f32>bias - <f32>shift))
  let kept0 = within(x0)
  let cut0 = f32x4.abs(f32x4.sub(x0, kept0))
  let r0 = root(x0)
  let last = f32x4.splat(<f32>load<f64>(s, 8))
  if (isApart) {
    // before each quarter stands the end of the one before
    const places = f32x4.add(at, f32x4.splat(<f32>((count >> 2) - 1)))
    const x = driven(true, end - 16, gains, steps, biases, shifts, places)
    const y = driven(true, end - 32, gains, steps, biases, shifts, f32x4.sub(places, f32x4.splat(1)))
    const kept = within(x), keptBefore = within(y)
    const cut = f32x4.abs(f32x4.sub(x, kept)), r = root(x)
    const gentle = f32x4.div(f32x4.add(x, y), f32x4.add(r, root(y)))
    const hard = firm(x, y, kept, keptBefore, cut, f32x4.abs(f32x4.sub(y, keptBefore)))
    x0 = before(x0, x)
    kept0 = before(kept0, kept)
    cut0 = before(cut0, cut)
    r0 = before(r0, r)
    last = before(last, f32x4.sub(f32x4.add(f32x4.mul(softs, gentle), f32x4.mul(hards, hard)), rests))
  }
  for (let p = data; p < end; p += 16) {
    const x = driven(true, p, gains, steps, biases, shifts, at)
    const y = previous(isApart, x0, x)
    const kept = within(x)
    const cut = f32x4.abs(f32x4.sub(x, kept))
    const hard = firm(x, y, kept, previous(isApart, kept0, kept), cut, previous(isApart, cut0, cut))
    const r = root(x)
    const gentle = f32x4.div(f32x4.add(x, y), f32x4.add(r, previous(isApart, r0, r)))
    const c = f32x4.sub(f32x4.add(f32x4.mul(softs, gentle), f32x4.mul(hards, hard)), rests)
    v128.store(p, f32x4.sub(f32x4.mul(lift, c), f32x4.mul(droop, previous(isApart, last, c))))
    last = c
    x0 = x
    kept0 = kept
    cut0 = cut
    r0 = r
    at = f32x4.add(at, on)
  }
  store<f64>(s, f32x4.extract_lane(x0, 3) - (<f32>bias + <f32>(count - 1) * <f32>shift))
  store<f64>(s, f32x4.extract_lane(last, 3), 8)
}

/**
 * A gain stage: a clip about a bias, coupling (high-pass) and Miller capacitance (low-pass), a gain. The clip keeps x and the clipped
 * one at 16 and 17; where it is listened to, the sum of magnitudes behind it gathers in `driven`.
 */
function stage(op: usize, count: i32): void {
  if (get(op, STAGE_BLOCKING) != 0) block(op, count)
  clip(op + 128, count, get(op, STAGE_GAIN), get(op, STAGE_GAIN_STEP), get(op, STAGE_BIAS), get(op, STAGE_BIAS_STEP),
    get(op, STAGE_BIAS_AT_REST), get(op, STAGE_HARDNESS))
  if (get(op, STAGE_LISTENED) != 0) put(op, STAGE_DRIVEN, gathered(get(op, STAGE_DRIVEN), count))
  couple(op, count, get(op, STAGE_COUPLING), get(op, STAGE_MILLER), get(op, STAGE_OUT))
}

/**
 * Moves a driven stage's bias: its grid draws current, from a mean output over the clip level on, and charges the capacitor before it. A chunk
 * holds no whole periods: without a mean over some of them the bias would tremble with the tone.
 */
function block(op: usize, count: i32): void {
  const least = get(op, STAGE_GRID_CURRENT), blocking = get(op, STAGE_BLOCKING), rest = get(op, STAGE_BIAS_AT_REST)
  const past = get(op, STAGE_MEAN), mean = past + (get(op, STAGE_DRIVEN) / <f64>count - past) * get(op, STAGE_EVEN)
  const driven = Math.max(0, mean - least) / (1 - least), charge = get(op, STAGE_CHARGE)
  let next = charge + (driven - charge) * (driven > charge ? get(op, STAGE_RISE) : get(op, STAGE_FALL))
  if (next < 1e-9) next = 0
  const away = rest < 0 ? -blocking : blocking
  put(op, STAGE_DRIVEN, 0), put(op, STAGE_MEAN, mean), put(op, STAGE_CHARGE, next)
  put(op, STAGE_BIAS, rest + away * charge), put(op, STAGE_BIAS_STEP, (away * (next - charge)) / <f64>count)
}

/** `sum` and the magnitudes of the data; four at a time, so that it does not depend on the size of pieces. */
function gathered(sum: f64, count: i32): f64 {
  if (isBeside) {
    let most = f32x4.splat(0)
    for (let p = flat, end = flat + ((<usize>count) << 2); p < end; p += 16) most = f32x4.add(most, f32x4.abs(v128.load(p)))
    const two = f32x4.add(most, v128.shuffle<f32>(most, most, 2, 3, 2, 3))
    return sum + (<f64>f32x4.extract_lane(two, 0) + <f64>f32x4.extract_lane(two, 1))
  }
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    const x = f32x4.abs(v128.load(p))
    const two = f32x4.add(x, v128.shuffle<f32>(x, x, 2, 3, 2, 3))
    sum += f32x4.extract_lane(two, 0) + f32x4.extract_lane(two, 1)
  }
  return sum
}

/**
 * At four times the rate operations run in stretches side by side: a lane takes a quarter of the samples, which needs neither prefix sums
 * nor shuffles, and the state that a stretch begins with follows from what the one before adds to its own. A filter runs through both
 * halves of all quarters at once, for it would else wait for itself. Longer stretches, of the finer qualities, would round the states of
 * slow poles too often (−102 dB at 16 times).
 */
@inline
function apart(count: i32): bool {
  return levels == 2 && count >= 16 && (count & (count - 1)) == 0
}

/** What a pole keeps a sample must be more: its powers would else end among denormal numbers within a stretch. */
const LEAST: f64 = 0.3

const flat = alloc(16 * <usize>CHUNK), edges = alloc(128)

/** The raised samples stand side by side in `flat`, not one after another in their row. */
let isBeside: bool = false

/** Lays them side by side where the program may. @returns whether they lie so */
function laidOut(count: i32): bool {
  if (isBeside) return true
  if (!apart(count)) return false
  across(count)
  isBeside = true
  return true
}

/** Puts them in their row where they are not, for operations that take them one after another. */
function inRow(count: i32): void {
  if (!isBeside) return
  along(count)
  isBeside = false
}

/** Puts the raised samples side by side: a vector has one of each quarter. */
function across(count: i32): void {
  const data = rowOf(levels), quarter = <usize>count
  for (let p = data, to = flat, end = data + quarter; p < end; p += 16, to += 64) {
    const q = p + quarter, r = q + quarter
    turned(to, v128.load(p), v128.load(q), v128.load(r), v128.load(r + quarter), 16)
  }
}

/** Puts them one after another again. */
function along(count: i32): void {
  const data = rowOf(levels), quarter = <usize>count
  for (let p = data, from = flat, end = data + quarter; p < end; p += 16, from += 64)
    turned(p, v128.load(from), v128.load(from, 16), v128.load(from, 32), v128.load(from, 48), quarter)
}

/** Four vectors as the columns of what is written, `step` bytes from row to row. */
@inline
function turned(to: usize, a: v128, b: v128, c: v128, d: v128, step: usize): void {
  const ab = v128.shuffle<f32>(a, b, 0, 4, 1, 5), cd = v128.shuffle<f32>(c, d, 0, 4, 1, 5)
  const ba = v128.shuffle<f32>(a, b, 2, 6, 3, 7), dc = v128.shuffle<f32>(c, d, 2, 6, 3, 7)
  v128.store(to, v128.shuffle<f64>(ab, cd, 0, 2))
  v128.store(to + step, v128.shuffle<f64>(ab, cd, 1, 3))
  v128.store(to + 2 * step, v128.shuffle<f64>(ba, dc, 0, 2))
  v128.store(to + 3 * step, v128.shuffle<f64>(ba, dc, 1, 3))
}

/** k to the power of half a quarter's samples, a power of two. */
@inline
function overHalf(k: f64, count: i32): f64 {
  for (let n = count >> 3; n > 1; n >>= 1) k *= k
  return k
}

/** A pole a sample on. Written so because 1 − c is not to be had in f32 where c is small. */
@inline
function toward(state: v128, c: v128, x: v128): v128 {
  return f32x4.add(state, f32x4.mul(c, f32x4.sub(x, state)))
}

/** Bytes of the first halves of all quarters. */
@inline
function firstHalves(count: i32): usize {
  return (<usize>count) << 1
}

/** Where the samples of a vector stand: 0 and the beginnings of the other quarters. */
@inline
function quarters(count: i32): v128 {
  const n = <f32>(count >> 2)
  return f32x4(0, n, 2 * n, 3 * n)
}

/** Where those of its second half begin. */
@inline
function secondHalves(count: i32): v128 {
  return f32x4.add(quarters(count), f32x4.splat(<f32>(count >> 3)))
}

/**
 * The states of a pole at the beginnings of the quarters, from what it holds before the first and, in the lanes of `first` and `second`, at
 * the ends of all halves if each begins at rest. Leaves at `edges` what it holds in the end, f64, and behind it those at the second halves.
 */
@inline
function begun(state: f64, kept: f64, first: v128, second: v128): v128 {
  const a = state, a2 = kept * a + f32x4.extract_lane(first, 0)
  const b = kept * a2 + f32x4.extract_lane(second, 0), b2 = kept * b + f32x4.extract_lane(first, 1)
  const c = kept * b2 + f32x4.extract_lane(second, 1), c2 = kept * c + f32x4.extract_lane(first, 2)
  const d = kept * c2 + f32x4.extract_lane(second, 2), d2 = kept * d + f32x4.extract_lane(first, 3)
  store<f64>(edges, kept * d2 + f32x4.extract_lane(second, 3))
  v128.store(edges, f32x4(<f32>a2, <f32>b2, <f32>c2, <f32>d2), 16)
  return f32x4(<f32>a, <f32>b, <f32>c, <f32>d)
}

@inline
function couplesApart(coupling: f64, miller: f64): bool {
  return coupling != 0 && miller != 1 && 1 - miller > LEAST && miller - coupling > 0.01
}

/** {@link couple} with both poles, on what stands side by side. */
function coupleApart(op: usize, count: i32, coupling: f64, miller: f64, out: f64): void {
  const kc = 1 - coupling, km = 1 - miller
  const c = f32x4.splat(<f32>coupling), k = f32x4.splat(<f32>kc), m = f32x4.splat(<f32>miller), l = f32x4.splat(<f32>km)
  const half = firstHalves(count), end = flat + half
  let low = f32x4.splat(0), top = low, low2 = low, top2 = low
  for (let p = flat; p < end; p += 16) {
    const x = v128.load(p), x2 = v128.load(p + half)
    low = toward(low, c, x)
    low2 = toward(low2, c, x2)
    top = f32x4.add(f32x4.mul(l, top), f32x4.mul(m, f32x4.sub(x, low)))
    top2 = f32x4.add(f32x4.mul(l, top2), f32x4.mul(m, f32x4.sub(x2, low2)))
    v128.store(p, top)
    v128.store(p + half, top2)
  }
  // what both poles held before goes on as the sum of two decays, a·km^j + b·kc^j
  const kcAll = overHalf(kc, count), kmAll = overHalf(km, count)
  const share = ((1 - km) * kc) / (kc - km)
  let sc = get(op, STAGE_COUPLING_STATE), sm = get(op, STAGE_MILLER_STATE)
  v128.store(edges, low)
  v128.store(edges, top, 16)
  v128.store(edges, low2, 32)
  v128.store(edges, top2, 48)
  const over = share * (kmAll - kcAll)
  // lane by lane, its first half and then its second
  for (let lane: usize = 0; lane < 16; lane += 4)
    for (let at = edges + lane, to = at + 64; at < edges + 64; at += 32, to += 32) {
      store<f32>(to, <f32>(sm + share * sc))
      store<f32>(to, <f32>(-share * sc), 16)
      // a·km^n + b·kc^n, so put that the next one waits for two operations
      sm = kmAll * sm + (over * sc + load<f32>(at, 16))
      sc = kcAll * sc + load<f32>(at)
    }
  put(op, STAGE_COUPLING_STATE, sc), put(op, STAGE_MILLER_STATE, sm)
  const outs = f32x4.splat(<f32>out)
  let a = v128.load(edges, 64), b = v128.load(edges, 80), a2 = v128.load(edges, 96), b2 = v128.load(edges, 112)
  for (let p = flat; p < end; p += 16) {
    a = f32x4.mul(a, l)
    a2 = f32x4.mul(a2, l)
    b = f32x4.mul(b, k)
    b2 = f32x4.mul(b2, k)
    v128.store(p, f32x4.mul(outs, f32x4.add(v128.load(p), f32x4.add(a, b))))
    v128.store(p + half, f32x4.mul(outs, f32x4.add(v128.load(p + half), f32x4.add(a2, b2))))
  }
}

/** What stands in the row or side by side, times a gain. */
@inline
function times(count: i32, gain: f64): void {
  const gains = f32x4.splat(<f32>gain), data = isBeside ? flat : rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) v128.store(p, f32x4.mul(gains, v128.load(p)))
}

/** High-pass (0: none) and low-pass (1: none) with a gain. */
function couple(op: usize, count: i32, coupling: f64, miller: f64, out: f64): void {
  if (coupling == 0 && miller == 1) {
    if (out != 1) times(count, out)
    return
  }
  if (couplesApart(coupling, miller) && laidOut(count)) {
    coupleApart(op, count, coupling, miller, out)
    return
  }
  inRow(count)
  const data = rowOf(levels), end = data + ((<usize>count) << 2)
  const kc = 1 - coupling, km = 1 - miller, kc4 = kc * kc * kc * kc, km4 = km * km * km * km
  const c = f32x4.splat(<f32>coupling), c1 = f32x4.splat(<f32>kc), c2 = f32x4.splat(<f32>(kc * kc)), ck = decay(kc)
  const m = f32x4.splat(<f32>miller), m1 = f32x4.splat(<f32>km), m2 = f32x4.splat(<f32>(km * km)), mk = decay(km)
  const outs = f32x4.splat(<f32>out)
  let sc = get(op, STAGE_COUPLING_STATE), sm = get(op, STAGE_MILLER_STATE)
  if (coupling != 0 && miller != 1) {
    for (let p = data; p < end; p += 16) {
      const x = v128.load(p)
      const low = settled(x, c, c1, c2)
      const high = f32x4.sub(x, f32x4.add(low, f32x4.mul(ck, f32x4.splat(<f32>sc))))
      sc = kc4 * sc + f32x4.extract_lane(low, 3)
      const top = settled(high, m, m1, m2)
      v128.store(p, f32x4.mul(outs, f32x4.add(top, f32x4.mul(mk, f32x4.splat(<f32>sm)))))
      sm = km4 * sm + f32x4.extract_lane(top, 3)
    }
  } else if (coupling != 0) {
    for (let p = data; p < end; p += 16) {
      const x = v128.load(p)
      const low = settled(x, c, c1, c2)
      v128.store(p, f32x4.mul(outs, f32x4.sub(x, f32x4.add(low, f32x4.mul(ck, f32x4.splat(<f32>sc))))))
      sc = kc4 * sc + f32x4.extract_lane(low, 3)
    }
  } else
    for (let p = data; p < end; p += 16) {
      const top = settled(v128.load(p), m, m1, m2)
      v128.store(p, f32x4.mul(outs, f32x4.add(top, f32x4.mul(mk, f32x4.splat(<f32>sm)))))
      sm = km4 * sm + f32x4.extract_lane(top, 3)
    }
  put(op, STAGE_COUPLING_STATE, sc), put(op, STAGE_MILLER_STATE, sm)
}

/**
 * Up to three real poles side by side and what passes them: direct · x and each mode's gain times its low-pass one sample before. Gains
 * glide, poles move at the chunk's beginning, which their states do not hear as a step.
 */
function modes(op: usize, count: i32): void {
  const pole1 = get(op, MODES_POLE1), pole2 = get(op, MODES_POLE2), pole3 = get(op, MODES_POLE3)
  const k1 = 1 - pole1, k2 = 1 - pole2, k3 = 1 - pole3
  const k14 = k1 * k1 * k1 * k1, k24 = k2 * k2 * k2 * k2, k34 = k3 * k3 * k3 * k3
  const direct = f32x4.splat(<f32>get(op, MODES_DIRECT)), directStep = f32x4.splat(<f32>get(op, MODES_DIRECT_STEP))
  const g1 = f32x4.splat(<f32>get(op, MODES_GAIN1)), g1Step = f32x4.splat(<f32>get(op, MODES_GAIN1_STEP))
  const g2 = f32x4.splat(<f32>get(op, MODES_GAIN2)), g2Step = f32x4.splat(<f32>get(op, MODES_GAIN2_STEP))
  const g3 = f32x4.splat(<f32>get(op, MODES_GAIN3)), g3Step = f32x4.splat(<f32>get(op, MODES_GAIN3_STEP))
  const c1 = f32x4.splat(<f32>pole1), k1s = f32x4.splat(<f32>k1), k1q = f32x4.splat(<f32>(k1 * k1)), d1 = decayBefore(k1)
  const c2 = f32x4.splat(<f32>pole2), k2s = f32x4.splat(<f32>k2), k2q = f32x4.splat(<f32>(k2 * k2)), d2 = decayBefore(k2)
  const c3 = f32x4.splat(<f32>pole3), k3s = f32x4.splat(<f32>k3), k3q = f32x4.splat(<f32>(k3 * k3)), d3 = decayBefore(k3)
  if (laidOut(count)) {
    const half = firstHalves(count), end = flat + half
    let s1 = f32x4.splat(0), s2 = s1, s3 = s1, t1 = s1, t2 = s1, t3 = s1
    for (let p = flat; p < end; p += 16) {
      const x = v128.load(p), y = v128.load(p + half)
      s1 = toward(s1, c1, x)
      t1 = toward(t1, c1, y)
      s2 = toward(s2, c2, x)
      t2 = toward(t2, c2, y)
      s3 = toward(s3, c3, x)
      t3 = toward(t3, c3, y)
    }
    s1 = begun(get(op, MODES_STATE1), overHalf(k1, count), s1, t1)
    t1 = v128.load(edges, 16)
    put(op, MODES_STATE1, load<f64>(edges))
    s2 = begun(get(op, MODES_STATE2), overHalf(k2, count), s2, t2)
    t2 = v128.load(edges, 16)
    put(op, MODES_STATE2, load<f64>(edges))
    s3 = begun(get(op, MODES_STATE3), overHalf(k3, count), s3, t3)
    t3 = v128.load(edges, 16)
    put(op, MODES_STATE3, load<f64>(edges))
    const one = f32x4.splat(1)
    let at = quarters(count), at2 = secondHalves(count)
    const glides = get(op, MODES_DIRECT_STEP) != 0 || get(op, MODES_GAIN1_STEP) != 0 || get(op, MODES_GAIN2_STEP) != 0 || get(op, MODES_GAIN3_STEP) != 0
    if (glides) for (let p = flat; p < end; p += 16) {
      const x = v128.load(p), y = v128.load(p + half)
      const v = f32x4.add(f32x4.mul(ramp(direct, directStep, at), x), f32x4.mul(ramp(g1, g1Step, at), s1))
      const w = f32x4.add(f32x4.mul(ramp(direct, directStep, at2), y), f32x4.mul(ramp(g1, g1Step, at2), t1))
      v128.store(p, f32x4.add(f32x4.add(v, f32x4.mul(ramp(g2, g2Step, at), s2)), f32x4.mul(ramp(g3, g3Step, at), s3)))
      v128.store(p + half, f32x4.add(f32x4.add(w, f32x4.mul(ramp(g2, g2Step, at2), t2)), f32x4.mul(ramp(g3, g3Step, at2), t3)))
      s1 = toward(s1, c1, x)
      t1 = toward(t1, c1, y)
      s2 = toward(s2, c2, x)
      t2 = toward(t2, c2, y)
      s3 = toward(s3, c3, x)
      t3 = toward(t3, c3, y)
      at = f32x4.add(at, one)
      at2 = f32x4.add(at2, one)
    }
    else for (let p = flat; p < end; p += 16) {
      const x = v128.load(p), y = v128.load(p + half)
      const v = f32x4.add(f32x4.mul(direct, x), f32x4.mul(g1, s1))
      const w = f32x4.add(f32x4.mul(direct, y), f32x4.mul(g1, t1))
      v128.store(p, f32x4.add(f32x4.add(v, f32x4.mul(g2, s2)), f32x4.mul(g3, s3)))
      v128.store(p + half, f32x4.add(f32x4.add(w, f32x4.mul(g2, t2)), f32x4.mul(g3, t3)))
      s1 = toward(s1, c1, x)
      t1 = toward(t1, c1, y)
      s2 = toward(s2, c2, x)
      t2 = toward(t2, c2, y)
      s3 = toward(s3, c3, x)
      t3 = toward(t3, c3, y)
    }
    return
  }
  const zero = f32x4.splat(0), four = f32x4.splat(4)
  let s1 = get(op, MODES_STATE1), s2 = get(op, MODES_STATE2), s3 = get(op, MODES_STATE3)
  let at = f32x4(0, 1, 2, 3)
  const data = rowOf(levels), end = data + ((<usize>count) << 2)
  if (pole3 == 0) {
    for (let p = data; p < end; p += 16) {
      const x = v128.load(p)
      const v1 = settled(x, c1, k1s, k1q), v2 = settled(x, c2, k2s, k2q)
      const y1 = f32x4.mul(ramp(g1, g1Step, at), f32x4.add(before(zero, v1), f32x4.mul(d1, f32x4.splat(<f32>s1))))
      const y2 = f32x4.mul(ramp(g2, g2Step, at), f32x4.add(before(zero, v2), f32x4.mul(d2, f32x4.splat(<f32>s2))))
      s1 = k14 * s1 + f32x4.extract_lane(v1, 3)
      s2 = k24 * s2 + f32x4.extract_lane(v2, 3)
      v128.store(p, f32x4.add(f32x4.mul(ramp(direct, directStep, at), x), f32x4.add(y1, y2)))
      at = f32x4.add(at, four)
    }
  } else {
    for (let p = data; p < end; p += 16) {
      const x = v128.load(p)
      const v1 = settled(x, c1, k1s, k1q), v2 = settled(x, c2, k2s, k2q), v3 = settled(x, c3, k3s, k3q)
      const y1 = f32x4.mul(ramp(g1, g1Step, at), f32x4.add(before(zero, v1), f32x4.mul(d1, f32x4.splat(<f32>s1))))
      const y2 = f32x4.mul(ramp(g2, g2Step, at), f32x4.add(before(zero, v2), f32x4.mul(d2, f32x4.splat(<f32>s2))))
      const y3 = f32x4.mul(ramp(g3, g3Step, at), f32x4.add(before(zero, v3), f32x4.mul(d3, f32x4.splat(<f32>s3))))
      s1 = k14 * s1 + f32x4.extract_lane(v1, 3)
      s2 = k24 * s2 + f32x4.extract_lane(v2, 3)
      s3 = k34 * s3 + f32x4.extract_lane(v3, 3)
      v128.store(p, f32x4.add(f32x4.add(f32x4.mul(ramp(direct, directStep, at), x), y1), f32x4.add(y2, y3)))
      at = f32x4.add(at, four)
    }
  }
  put(op, MODES_STATE1, s1), put(op, MODES_STATE2, s2), put(op, MODES_STATE3, s3)
}

/** A second-order section in f64; one that does nothing costs nothing. */
function section(op: usize, count: i32): void {
  const b0 = get(op, SECTION_B0), b1 = get(op, SECTION_B1), b2 = get(op, SECTION_B2), a1 = get(op, SECTION_A1), a2 = get(op, SECTION_A2)
  const d0 = get(op, SECTION_B0_STEP), d1 = get(op, SECTION_B1_STEP), d2 = get(op, SECTION_B2_STEP),
    e1 = get(op, SECTION_A1_STEP), e2 = get(op, SECTION_A2_STEP)
  let z1 = get(op, SECTION_Z1), z2 = get(op, SECTION_Z2)
  const data = rowOf(levels), end = data + ((<usize>count) << 2)
  if (d0 == 0 && d1 == 0 && d2 == 0 && e1 == 0 && e2 == 0) {
    if (b0 == 1 && b1 == a1 && b2 == a2 && z1 == 0 && z2 == 0) return
    inRow(count)
    for (let p = data; p < end; p += 4) {
      const x = <f64>load<f32>(p)
      const y = b0 * x + z1
      z1 = b1 * x + z2 - a1 * y
      z2 = b2 * x - a2 * y
      store<f32>(p, <f32>y)
    }
  } else {
    inRow(count)
    let k: f64 = 0
    for (let p = data; p < end; p += 4) {
      const x = <f64>load<f32>(p)
      const y = (b0 + k * d0) * x + z1
      z1 = (b1 + k * d1) * x + z2 - (a1 + k * e1) * y
      z2 = (b2 + k * d2) * x - (a2 + k * e2) * y
      store<f32>(p, <f32>y)
      k += 1
    }
  }
  put(op, SECTION_Z1, z1), put(op, SECTION_Z2, z2)
}

/** Of a dB: e to this power is the gain. */
const NEPER: f64 = 0.11512925464970228

/**
 * Clip level and gain of the power stage `power` follow its supply, which drops with what it draws and comes back when it rests. Where it
 * clips there is no gain left for negative feedback, and the loudspeaker's impedance lifts resonance and top; presence and depth take from
 * the feedback: with none left they have nothing to take.
 */
function supply(op: usize, power: usize, count: i32): void {
  // what a push-pull pair draws rises fast from rest, then slower (common practice, no source)
  const load = Math.sqrt(get(power, POWER_DRAWN) / <f64>count), before = get(op, SUPPLY_DROP), lost = get(op, SUPPLY_LOST)
  let drop = before + (load - before) * (load > before ? get(op, SUPPLY_FALL) : get(op, SUPPLY_RECOVER))
  if (drop < 1e-9) drop = 0
  const next = get(op, SUPPLY_SAG) * Math.min(1, drop)
  put(power, POWER_DRAWN, 0), put(op, SUPPLY_DROP, drop), put(op, SUPPLY_LOST, next)
  const out = get(op, SUPPLY_OUTPUT) * (1 - lost)
  put(power, POWER_SUPPLY, out), put(power, POWER_SUPPLY_STEP, (get(op, SUPPLY_OUTPUT_NEXT) * (1 - next) - out) / <f64>count)
  const open = 1 - get(op, SUPPLY_FEEDBACK) * Math.max(0, 1 - 1.6 * Math.max(0, drop - 0.4))
  const lift = NativeMath.expm1(NEPER * (open * get(op, SUPPLY_TOP) + get(op, SUPPLY_PRESENCE)))
  const boom = NativeMath.expm1(NEPER * (open * get(op, SUPPLY_BOOM) + get(op, SUPPLY_DEPTH)))
  const isFresh = get(op, SUPPLY_BEGUN) == 0
  const lifted = isFresh ? lift : get(op, SUPPLY_LIFT), boomed = isFresh ? boom : get(op, SUPPLY_BOOMED)
  put(power, POWER_PRESENCE, lifted), put(power, POWER_PRESENCE_STEP, (lift - lifted) / <f64>count)
  put(power, POWER_RESONANCE, boomed), put(power, POWER_RESONANCE_STEP, (boom - boomed) / <f64>count)
  put(op, SUPPLY_LIFT, lift), put(op, SUPPLY_BOOMED, boom), put(op, SUPPLY_BEGUN, 1)
}

/**
 * The power stage: a clip, its supply, presence as a shelf and the loudspeaker's resonance as the band of a state-variable filter, then the
 * transformer's corners. What it draws gathers in `drawn`.
 */
function power(op: usize, count: i32): void {
  const bias = get(op, POWER_BIAS)
  clip(op + 128, count, get(op, POWER_GAIN), get(op, POWER_GAIN_STEP), bias, 0, bias, get(op, POWER_HARDNESS))
  put(op, POWER_DRAWN, gathered(get(op, POWER_DRAWN), count))
  const low = get(op, POWER_LOW_POLE), high = get(op, POWER_HIGH_POLE)
  if (laidOut(count)) loudspeakerApart(op, count)
  else loudspeaker(op, count)
  couple(op, count, low, high, 1)
}

/** {@link loudspeaker} on what stands side by side. */
function loudspeakerApart(op: usize, count: i32): void {
  const presence = get(op, POWER_PRESENCE_POLE), kept = 1 - presence
  const c = f32x4.splat(<f32>presence), k = f32x4.splat(<f32>kept)
  const supply = f32x4.splat(<f32>get(op, POWER_SUPPLY)), supplyStep = f32x4.splat(<f32>get(op, POWER_SUPPLY_STEP))
  const lift = f32x4.splat(<f32>get(op, POWER_PRESENCE)), liftStep = f32x4.splat(<f32>get(op, POWER_PRESENCE_STEP))
  const tune = get(op, POWER_RESONANCE_TUNE), damping = get(op, POWER_RESONANCE_DAMPING), own = 1 - tune * tune - tune * damping
  const depth = f32x4.splat(<f32>(damping * get(op, POWER_RESONANCE))), depthStep = f32x4.splat(<f32>(damping * get(op, POWER_RESONANCE_STEP)))
  const t = f32x4.splat(<f32>tune), stays = f32x4.splat(<f32>own), one = f32x4.splat(1)
  const half = firstHalves(count), end = flat + half
  let below = f32x4.splat(0), low = below, band = below, below2 = below, low2 = below, band2 = below
  let at = quarters(count), at2 = secondHalves(count)
  for (let p = flat; p < end; p += 16) {
    const v = f32x4.mul(v128.load(p), ramp(supply, supplyStep, at)), w = f32x4.mul(v128.load(p + half), ramp(supply, supplyStep, at2))
    v128.store(p, v)
    v128.store(p + half, w)
    below = f32x4.add(f32x4.mul(k, below), f32x4.mul(c, v))
    below2 = f32x4.add(f32x4.mul(k, below2), f32x4.mul(c, w))
    const before = low, before2 = low2
    low = f32x4.add(low, f32x4.mul(t, band))
    low2 = f32x4.add(low2, f32x4.mul(t, band2))
    band = f32x4.add(f32x4.mul(stays, band), f32x4.mul(t, f32x4.sub(v, before)))
    band2 = f32x4.add(f32x4.mul(stays, band2), f32x4.mul(t, f32x4.sub(w, before2)))
    at = f32x4.add(at, one)
    at2 = f32x4.add(at2, one)
  }
  below = begun(get(op, POWER_PRESENCE_STATE), overHalf(kept, count), below, below2)
  below2 = v128.load(edges, 16)
  put(op, POWER_PRESENCE_STATE, load<f64>(edges))
  // the matrix that takes (low, band) on by half a quarter: that of a sample, squared again and again
  let ll: f64 = 1, lb = tune, bl = -tune, bb = own
  for (let n = count >> 3; n > 1; n >>= 1) {
    const l2 = ll * ll + lb * bl, lb2 = ll * lb + lb * bb, bl2 = bl * ll + bb * bl, bb2 = bl * lb + bb * bb
    ll = l2
    lb = lb2
    bl = bl2
    bb = bb2
  }
  let sl = get(op, POWER_RESONANCE_LOW), sb = get(op, POWER_RESONANCE_BAND)
  v128.store(edges, low)
  v128.store(edges, band, 16)
  v128.store(edges, low2, 32)
  v128.store(edges, band2, 48)
  for (let lane: usize = 0; lane < 16; lane += 4)
    for (let place = edges + lane; place < edges + 64; place += 32) {
      const nextLow = ll * sl + lb * sb + load<f32>(place), nextBand = bl * sl + bb * sb + load<f32>(place, 16)
      store<f32>(place, <f32>sl)
      store<f32>(place, <f32>sb, 16)
      sl = nextLow
      sb = nextBand
    }
  put(op, POWER_RESONANCE_LOW, sl), put(op, POWER_RESONANCE_BAND, sb)
  low = v128.load(edges)
  band = v128.load(edges, 16)
  low2 = v128.load(edges, 32)
  band2 = v128.load(edges, 48)
  at = quarters(count)
  at2 = secondHalves(count)
  for (let p = flat; p < end; p += 16) {
    const v = v128.load(p), w = v128.load(p + half)
    below = f32x4.add(f32x4.mul(k, below), f32x4.mul(c, v))
    below2 = f32x4.add(f32x4.mul(k, below2), f32x4.mul(c, w))
    const before = low, before2 = low2
    low = f32x4.add(low, f32x4.mul(t, band))
    low2 = f32x4.add(low2, f32x4.mul(t, band2))
    band = f32x4.add(f32x4.mul(stays, band), f32x4.mul(t, f32x4.sub(v, before)))
    band2 = f32x4.add(f32x4.mul(stays, band2), f32x4.mul(t, f32x4.sub(w, before2)))
    const z = f32x4.add(v, f32x4.mul(f32x4.sub(v, below), ramp(lift, liftStep, at)))
    const z2 = f32x4.add(w, f32x4.mul(f32x4.sub(w, below2), ramp(lift, liftStep, at2)))
    v128.store(p, f32x4.add(z, f32x4.mul(band, ramp(depth, depthStep, at))))
    v128.store(p + half, f32x4.add(z2, f32x4.mul(band2, ramp(depth, depthStep, at2))))
    at = f32x4.add(at, one)
    at2 = f32x4.add(at2, one)
  }
}

function loudspeaker(op: usize, count: i32): void {
  const presence = get(op, POWER_PRESENCE_POLE), k = 1 - presence, k4 = k * k * k * k
  const c = f32x4.splat(<f32>presence), k1 = f32x4.splat(<f32>k), k2 = f32x4.splat(<f32>(k * k)), fading = decay(k)
  const supply = f32x4.splat(<f32>get(op, POWER_SUPPLY)), supplyStep = f32x4.splat(<f32>get(op, POWER_SUPPLY_STEP))
  const lift = f32x4.splat(<f32>get(op, POWER_PRESENCE)), liftStep = f32x4.splat(<f32>get(op, POWER_PRESENCE_STEP))
  const t = get(op, POWER_RESONANCE_TUNE), damping = get(op, POWER_RESONANCE_DAMPING)
  const depth = f32x4.splat(<f32>(damping * get(op, POWER_RESONANCE))), depthStep = f32x4.splat(<f32>(damping * get(op, POWER_RESONANCE_STEP)))
  // rows of the powers of the matrix that takes (low, band) on by a sample: low by l, band by r
  const own = 1 - t * t - t * damping
  const l1l = 1.0, l1b = t, r1l = -t, r1b = own
  const l2l = l1l - l1b * t, l2b = l1l * t + l1b * own, r2l = r1l - r1b * t, r2b = r1l * t + r1b * own
  const l3l = l2l - l2b * t, l3b = l2l * t + l2b * own, r3l = r2l - r2b * t, r3b = r2l * t + r2b * own
  const l4l = l3l - l3b * t, l4b = l3l * t + l3b * own, r4l = r3l - r3b * t, r4b = r3l * t + r3b * own
  const ofLow = f32x4(<f32>r1l, <f32>r2l, <f32>r3l, <f32>r4l), ofBand = f32x4(<f32>r1b, <f32>r2b, <f32>r3b, <f32>r4b)
  const h0 = f32x4(<f32>t, <f32>(t * r1b), <f32>(t * r2b), <f32>(t * r3b)), h1 = f32x4(0, <f32>t, <f32>(t * r1b), <f32>(t * r2b)),
    h2 = f32x4(0, 0, <f32>t, <f32>(t * r1b)), h3 = f32x4(0, 0, 0, <f32>t)
  const in0 = f32x4(<f32>(t * l3b), <f32>(t * r3b), 0, 0), in1 = f32x4(<f32>(t * l2b), <f32>(t * r2b), 0, 0),
    in2 = f32x4(<f32>(t * l1b), <f32>(t * r1b), 0, 0), in3 = f32x4(0, <f32>t, 0, 0)
  let sp = get(op, POWER_PRESENCE_STATE), low = get(op, POWER_RESONANCE_LOW), band = get(op, POWER_RESONANCE_BAND)
  const four = f32x4.splat(4)
  let at = f32x4(0, 1, 2, 3)
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    const v = f32x4.mul(v128.load(p), ramp(supply, supplyStep, at))
    const x0 = v128.shuffle<f32>(v, v, 0, 0, 0, 0), x1 = v128.shuffle<f32>(v, v, 1, 1, 1, 1),
      x2 = v128.shuffle<f32>(v, v, 2, 2, 2, 2), x3 = v128.shuffle<f32>(v, v, 3, 3, 3, 3)
    const fresh = f32x4.add(f32x4.add(f32x4.mul(h0, x0), f32x4.mul(h1, x1)), f32x4.add(f32x4.mul(h2, x2), f32x4.mul(h3, x3)))
    const rings = f32x4.add(f32x4.add(f32x4.mul(ofLow, f32x4.splat(<f32>low)), f32x4.mul(ofBand, f32x4.splat(<f32>band))), fresh)
    const into = f32x4.add(f32x4.add(f32x4.mul(in0, x0), f32x4.mul(in1, x1)), f32x4.add(f32x4.mul(in2, x2), f32x4.mul(in3, x3)))
    const nextLow = (l4l * low + f32x4.extract_lane(into, 0)) + l4b * band
    band = (r4l * low + f32x4.extract_lane(into, 1)) + r4b * band
    low = nextLow
    const s = settled(v, c, k1, k2)
    const below = f32x4.add(s, f32x4.mul(fading, f32x4.splat(<f32>sp)))
    sp = k4 * sp + f32x4.extract_lane(s, 3)
    const z = f32x4.add(v, f32x4.mul(f32x4.sub(v, below), ramp(lift, liftStep, at)))
    v128.store(p, f32x4.add(z, f32x4.mul(rings, ramp(depth, depthStep, at))))
    at = f32x4.add(at, four)
  }
  put(op, POWER_PRESENCE_STATE, sp), put(op, POWER_RESONANCE_LOW, low), put(op, POWER_RESONANCE_BAND, band)
}

/** High-pass and low-pass behind a gain; shares its states with a stage. */
function poles(op: usize, count: i32): void {
  const coupling = get(op, POLES_HIGH_PASS), miller = get(op, POLES_LOW_PASS), gain = get(op, POLES_GAIN), step = get(op, POLES_GAIN_STEP)
  if (step == 0) return couple(op, count, coupling, miller, gain)
  const gains = f32x4.splat(<f32>gain), steps = f32x4.splat(<f32>step), on = f32x4.splat(isBeside ? 1 : 4)
  let at = isBeside ? quarters(count) : f32x4(0, 1, 2, 3)
  const data = isBeside ? flat : rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    v128.store(p, f32x4.mul(v128.load(p), ramp(gains, steps, at)))
    at = f32x4.add(at, on)
  }
  couple(op, count, coupling, miller, 1)
}

/** What lies above a corner by 1 + share. */
function shelf(op: usize, count: i32): void {
  inRow(count)
  const pole = get(op, SHELF_POLE), k = 1 - pole, k4 = k * k * k * k
  const c = f32x4.splat(<f32>pole), k1 = f32x4.splat(<f32>k), k2 = f32x4.splat(<f32>(k * k)), fading = decay(k)
  const share = f32x4.splat(<f32>get(op, SHELF_SHARE)), step = f32x4.splat(<f32>get(op, SHELF_SHARE_STEP)), four = f32x4.splat(4)
  let s = get(op, SHELF_STATE)
  let at = f32x4(0, 1, 2, 3)
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    const x = v128.load(p)
    const low = settled(x, c, k1, k2)
    const below = f32x4.add(low, f32x4.mul(fading, f32x4.splat(<f32>s)))
    s = k4 * s + f32x4.extract_lane(low, 3)
    v128.store(p, f32x4.add(x, f32x4.mul(f32x4.sub(x, below), ramp(share, step, at))))
    at = f32x4.add(at, four)
  }
  put(op, SHELF_STATE, s)
}

/** What is kept lies side by side. */
let isKeptBeside: bool = false

/** Keeps the samples as they lie best. */
function save(count: i32): void {
  isKeptBeside = laidOut(count)
  memory.copy(side, isBeside ? flat : rowOf(levels), (<usize>count) << 2)
}

/** signal · a + kept · b. */
function blend(op: usize, count: i32): void {
  if (isKeptBeside) laidOut(count)
  else inRow(count)
  const a = f32x4.splat(<f32>get(op, BLEND_SIGNAL)), stepA = f32x4.splat(<f32>get(op, BLEND_SIGNAL_STEP))
  const b = f32x4.splat(<f32>get(op, BLEND_KEPT)), stepB = f32x4.splat(<f32>get(op, BLEND_KEPT_STEP)), on = f32x4.splat(isBeside ? 1 : 4)
  let at = isBeside ? quarters(count) : f32x4(0, 1, 2, 3), q = side
  const data = isBeside ? flat : rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    v128.store(p, f32x4.add(f32x4.mul(v128.load(p), ramp(a, stepA, at)), f32x4.mul(v128.load(q), ramp(b, stepB, at))))
    at = f32x4.add(at, on)
    q += 16
  }
}

/**
 * Full-wave rectifier in antiderivative form: the mean of |x| between two samples; `share` of it in the sum with the plain signal.
 */
function rectify(op: usize, count: i32): void {
  inRow(count)
  const share = get(op, RECTIFY_SHARE)
  const shares = f32x4.splat(<f32>share), rests = f32x4.splat(<f32>(0.5 * (1 - share))), half = f32x4.splat(0.5), zero = f32x4.splat(0)
  let last = f32x4.splat(<f32>get(op, RECTIFY_BEFORE))
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    const x = v128.load(p), y = before(last, x)
    const sum = f32x4.add(f32x4.abs(x), f32x4.abs(y))
    const across = f32x4.div(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)), f32x4.add(sum, sum))
    const mean = v128.bitselect(f32x4.mul(half, sum), across, f32x4.ge(f32x4.mul(x, y), zero))
    v128.store(p, f32x4.add(f32x4.mul(shares, mean), f32x4.mul(rests, f32x4.add(x, y))))
    last = x
  }
  put(op, RECTIFY_BEFORE, f32x4.extract_lane(last, 3))
}

/** Tone blend with a dip between its corners: (1 − t) · low-pass + t · high-pass. */
function scoop(op: usize, count: i32): void {
  inRow(count)
  const low = get(op, SCOOP_LOW_POLE), high = get(op, SCOOP_HIGH_POLE), kl = 1 - low, kh = 1 - high
  const kl4 = kl * kl * kl * kl, kh4 = kh * kh * kh * kh
  const cl = f32x4.splat(<f32>low), kl1 = f32x4.splat(<f32>kl), kl2 = f32x4.splat(<f32>(kl * kl)), dl = decay(kl)
  const ch = f32x4.splat(<f32>high), kh1 = f32x4.splat(<f32>kh), kh2 = f32x4.splat(<f32>(kh * kh)), dh = decay(kh)
  const share = f32x4.splat(<f32>get(op, SCOOP_SHARE)), step = f32x4.splat(<f32>get(op, SCOOP_SHARE_STEP))
  const ones = f32x4.splat(1), four = f32x4.splat(4)
  let sl = get(op, SCOOP_LOW_STATE), sh = get(op, SCOOP_HIGH_STATE)
  let at = f32x4(0, 1, 2, 3)
  const data = rowOf(levels)
  for (let p = data, end = data + ((<usize>count) << 2); p < end; p += 16) {
    const x = v128.load(p), t = ramp(share, step, at)
    const vl = settled(x, cl, kl1, kl2), vh = settled(x, ch, kh1, kh2)
    const yl = f32x4.add(vl, f32x4.mul(dl, f32x4.splat(<f32>sl))), yh = f32x4.add(vh, f32x4.mul(dh, f32x4.splat(<f32>sh)))
    sl = kl4 * sl + f32x4.extract_lane(vl, 3)
    sh = kh4 * sh + f32x4.extract_lane(vh, 3)
    v128.store(p, f32x4.add(f32x4.mul(f32x4.sub(ones, t), yl), f32x4.mul(t, f32x4.sub(x, yh))))
    at = f32x4.add(at, four)
  }
  put(op, SCOOP_LOW_STATE, sl), put(op, SCOOP_HIGH_STATE, sh)
}
