/**
 * Two delay lines that hear each other, sample by sample in f64: times between frames, oversampled saturation, diffusion and cuts in the loop,
 * for core/src/signal/delays/echo.ts with the sources.
 */
import { overPole, pole, ramp } from '../filters'
import { alloc, between, BYTES, CHUNK, sample } from '../memory'
import { halfBandAt } from './clipping'

/** Frames that the saturation delays: both half-bands up and down, and the antiderivative form. */
const SATURATION_LATENCY: f64 = 5
const DIFFUSERS: i32 = 4

/** What a value is at the chunk's beginning, and its step a sample. */
@unmanaged
class Gliding {
  value: f64
  step: f64
}

@inline
function now(at: usize, k: f64): f64 {
  const gliding = changetype<Gliding>(at)
  return gliding.value + k * gliding.step
}

@unmanaged
class EchoLine {
  // what glides, in the order of LINE in echo.ts
  feedback: f64
  feedbackStep: f64
  level: f64
  levelStep: f64
  pan: f64
  panStep: f64
  time: f64
  timeStep: f64
  swing: f64
  swingStep: f64
  lfo: f64
  lfoStep: f64
  smear: f64
  smearStep: f64
  /** Coefficients of the cuts. */
  low: f64
  high: f64
  // what it remembers
  lowState: f64
  highState: f64
  last: f64
  root: f64
  ring: usize
  mask: i32
  write: i32
  /** Rings of the diffusers, one after another, with their sizes and lengths. */
  diffusers: usize
  /** x and y of the half-bands: up, down (8 each), up and down again (4 each). */
  bands: usize
}

@unmanaged
class Diffuser {
  ring: usize
  mask: i32
  write: i32
  length: i32
}

/** Of both lines, in the order of ECHO in echo.ts. */
@unmanaged
export class Echo {
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  cross: f64
  crossStep: f64
  open: f64
  openStep: f64
  duck: f64
  duckStep: f64
  drive: f64
  driveStep: f64
  flutter: f64
  flutterStep: f64
  /** Largest magnitude of the sum of both sides, which the lines hear; the host sets it back. */
  peak: f64
  a: usize
  b: usize
}

export function echoCreate(size: i32): Echo {
  const self = changetype<Echo>(alloc(offsetof<Echo>()))
  self.a = changetype<usize>(line(size))
  self.b = changetype<usize>(line(size))
  return self
}

function line(size: i32): EchoLine {
  const self = changetype<EchoLine>(alloc(offsetof<EchoLine>()))
  self.ring = alloc(<usize>size << 2)
  self.mask = size - 1
  self.root = 1
  self.diffusers = alloc(offsetof<Diffuser>() * DIFFUSERS)
  self.bands = alloc(48 * 8)
  return self
}

export function echoLineAt(self: Echo, second: i32): usize {
  return second != 0 ? self.b : self.a
}

/** The `k`-th diffuser of a line: `length` frames in a ring of `size`. */
export function echoDiffuser(at: usize, k: i32, size: i32, length: i32): void {
  const diffuser = changetype<Diffuser>(changetype<EchoLine>(at).diffusers + offsetof<Diffuser>() * <usize>k)
  diffuser.ring = alloc(<usize>size << 2)
  diffuser.mask = size - 1
  diffuser.length = length
}

export function echoReset(self: Echo): void {
  forget(changetype<EchoLine>(self.a))
  forget(changetype<EchoLine>(self.b))
}

function forget(self: EchoLine): void {
  memory.fill(self.ring, 0, <usize>(self.mask + 1) << 2)
  memory.fill(self.bands, 0, 48 * 8)
  for (let k = 0; k < DIFFUSERS; k++) {
    const diffuser = changetype<Diffuser>(self.diffusers + offsetof<Diffuser>() * <usize>k)
    memory.fill(diffuser.ring, 0, <usize>(diffuser.mask + 1) << 2)
  }
  self.lowState = self.highState = self.last = 0
  self.root = 1
}

/** One path of a half-band: every second coefficient from `first` on; x and y of each stand at `states`. */
@inline
function path(value: f64, coefficients: usize, states: usize, first: i32, count: i32): f64 {
  let a = value
  for (let c = first; c < count; c += 2) {
    const at = states + (<usize>c << 4)
    const b = (a - load<f64>(at, 8)) * load<f64>(coefficients + (<usize>c << 3)) + load<f64>(at)
    store<f64>(at, Math.abs(a) < 1e-20 ? 0 : a)
    store<f64>(at, Math.abs(b) < 1e-20 ? 0 : b, 8)
    a = b
  }
  return a
}

@inline
function clipped(self: EchoLine, x: f64): f64 {
  const root = Math.sqrt(1 + x * x)
  const y = (x + self.last) / (root + self.root)
  self.last = x
  self.root = root
  return y
}

function twice(self: EchoLine, x: f64): f64 {
  const second = halfBandAt(1), up = self.bands + 256, down = self.bands + 320
  const a = clipped(self, path(x, second, up, 0, 4))
  const b = clipped(self, path(x, second, up, 1, 4))
  return 0.5 * (path(b, second, down, 0, 4) + path(a, second, down, 1, 4))
}

/** The soft clip at four times the rate, as loud below it as it came in. */
function saturated(self: EchoLine, x: f64, drive: f64): f64 {
  const first = halfBandAt(0), up = self.bands, down = self.bands + 128
  const y = x * drive
  const a = twice(self, path(y, first, up, 0, 8))
  const b = twice(self, path(y, first, up, 1, 8))
  return (0.5 * (path(b, first, down, 0, 8) + path(a, first, down, 1, 8))) / drive
}

/** Schroeder allpasses in a row: the repeat keeps its spectrum and loses its edge. */
function diffused(self: EchoLine, x: f64, gain: f64): f64 {
  let y = x
  for (let k = 0; k < DIFFUSERS; k++) {
    const diffuser = changetype<Diffuser>(self.diffusers + offsetof<Diffuser>() * <usize>k)
    const write = diffuser.write
    const delayed = sample(diffuser.ring, write - diffuser.length, diffuser.mask)
    const v = y - gain * delayed
    store<f32>(diffuser.ring + (<usize>write << 2), <f32>v)
    diffuser.write = (write + 1) & diffuser.mask
    y = delayed + gain * v
  }
  return y
}

/** The echo that is due now, saturated, smeared and cut; `flutter` frames later or earlier beside the line's own swing. */
@inline
function due(self: EchoLine, flutter: f64, k: f64, drive: f64): f64 {
  const bend = (self.swing + k * self.swingStep) * (self.lfo + k * self.lfoStep) + flutter
  const late = drive > 0 ? SATURATION_LATENCY : 0
  let x = between(self.ring, self.mask, self.write, Math.max(2, self.time + k * self.timeStep + bend - late))
  if (drive > 0) x = saturated(self, x, drive)
  if (self.smear > 0 || self.smearStep != 0) x = diffused(self, x, 0.7 * (self.smear + k * self.smearStep))
  self.highState += self.high * (x - self.highState)
  self.lowState += self.low * (self.highState - self.lowState)
  return self.highState - self.lowState
}

@inline
function push(self: EchoLine, value: f64): void {
  store<f32>(self.ring + (<usize>self.write << 2), <f32>value)
  self.write = (self.write + 1) & self.mask
}

// of the chunk that is on its way: what the lines hear, and the echoes of both
const heard = alloc(BYTES), echoA = alloc(BYTES), echoB = alloc(BYTES)
/** Frames of a ring, put together, from two before the chunk's first on. */
const taken = alloc(BYTES + 64)

/** Least delay of which nothing comes back within its own chunk, frames. */
const FAR: f64 = <f64>CHUNK + 4

/** Whether a line's time stands still, far enough away, and nothing smears it. */
@inline
function rests(self: EchoLine): bool {
  return self.timeStep == 0 && self.time >= FAR && self.swing == 0 && self.swingStep == 0 && self.smear == 0 && self.smearStep == 0
}

/** A value that glides, in four places from the chunk's `i`-th frame on. */
@inline
function from(at: usize, places: v128): v128 {
  const gliding = changetype<Gliding>(at)
  return ramp(f32x4.splat(<f32>gliding.value), f32x4.splat(<f32>gliding.step), places)
}

/** The echoes of a line that {@link rests}: between the frames by the weights that {@link between} comes to, then cut. */
function echoes(self: EchoLine, to: usize): void {
  const whole = Math.floor(self.time), t = self.time - whole + 1
  const mask = self.mask, first = (self.write - <i32>whole - 2) & mask, count = CHUNK + 3, till = mask + 1 - first
  const ring = self.ring
  if (till >= count) memory.copy(taken, ring + (<usize>first << 2), <usize>count << 2)
  else {
    memory.copy(taken, ring + (<usize>first << 2), <usize>till << 2)
    memory.copy(taken + (<usize>till << 2), ring, <usize>(count - till) << 2)
  }
  const p = t * (t - 1), q = p * (t - 2) / 6
  const wa = f32x4.splat(<f32>(1 - t + 0.5 * p - q)), wb = f32x4.splat(<f32>(t - p + 3 * q))
  const wc = f32x4.splat(<f32>(0.5 * p - 3 * q)), wd = f32x4.splat(<f32>q)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const x = taken + i
    const near = f32x4.add(f32x4.mul(wb, v128.load(x, 8)), f32x4.mul(wc, v128.load(x, 4)))
    const far = f32x4.add(f32x4.mul(wa, v128.load(x, 12)), f32x4.mul(wd, v128.load(x)))
    v128.store(to + i, f32x4.add(near, far))
  }
  self.highState = pole(to, self.high, self.highState)
  self.lowState = overPole(to, self.low, self.lowState)
}

/** As {@link echoProcess} where both lines rest: nothing waits for anything within the chunk. */
function steady(self: Echo, left: usize, right: usize, two: bool): f64 {
  const at = changetype<usize>(self)
  const a = changetype<EchoLine>(self.a), b = changetype<EchoLine>(self.b)
  const atA = self.a, atB = self.b
  const half = f32x4.splat(0.5), ones = f32x4.splat(1), four = f32x4.splat(4)
  let most = f32x4.splat(0)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const mono = f32x4.mul(half, f32x4.add(v128.load(left + i), v128.load(right + i)))
    v128.store(heard + i, mono)
    most = f32x4.pmax(most, f32x4.abs(mono))
  }
  echoes(a, echoA)
  if (two) echoes(b, echoB)
  else memory.fill(echoB, 0, BYTES)
  const toA = a.ring + (<usize>a.write << 2), toB = b.ring + (<usize>b.write << 2)
  let places = f32x4(0, 1, 2, 3)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const ea = v128.load(echoA + i), eb = v128.load(echoB + i)
    const open = from(at + offsetof<Echo>('open'), places), over = from(at + offsetof<Echo>('cross'), places), own = f32x4.sub(ones, over)
    const fed = f32x4.mul(v128.load(heard + i), open)
    const fa = f32x4.mul(ea, from(atA + offsetof<EchoLine>('feedback'), places))
    const fb = f32x4.mul(eb, from(atB + offsetof<EchoLine>('feedback'), places))
    v128.store(toA + i, f32x4.add(fed, f32x4.add(f32x4.mul(fa, own), f32x4.mul(fb, over))))
    if (two) v128.store(toB + i, f32x4.add(f32x4.mul(fed, own), f32x4.add(f32x4.mul(fb, own), f32x4.mul(fa, over))))
    const direct = f32x4.sub(f32x4.add(f32x4.mul(from(at + offsetof<Echo>('dry'), places), open), ones), open)
    const level = f32x4.mul(from(at + offsetof<Echo>('wet'), places), from(at + offsetof<Echo>('duck'), places))
    const la = f32x4.mul(level, f32x4.mul(ea, from(atA + offsetof<EchoLine>('level'), places)))
    const lb = f32x4.mul(level, f32x4.mul(eb, from(atB + offsetof<EchoLine>('level'), places)))
    const pa = from(atA + offsetof<EchoLine>('pan'), places), pb = from(atB + offsetof<EchoLine>('pan'), places)
    const l = f32x4.add(f32x4.mul(la, f32x4.pmin(f32x4.sub(ones, pa), ones)), f32x4.mul(lb, f32x4.pmin(f32x4.sub(ones, pb), ones)))
    const r = f32x4.add(f32x4.mul(la, f32x4.pmin(f32x4.add(ones, pa), ones)), f32x4.mul(lb, f32x4.pmin(f32x4.add(ones, pb), ones)))
    v128.store(left + i, f32x4.add(f32x4.mul(v128.load(left + i), direct), l))
    v128.store(right + i, f32x4.add(f32x4.mul(v128.load(right + i), direct), r))
    places = f32x4.add(places, four)
  }
  a.write = (a.write + CHUNK) & a.mask
  if (two) b.write = (b.write + CHUNK) & b.mask
  return max(max(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)), max(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3)))
}

/** A chunk in place. */
export function echoProcess(self: Echo, left: usize, right: usize, two: i32, saturates: i32): void {
  const at = changetype<usize>(self)
  const a = changetype<EchoLine>(self.a), b = changetype<EchoLine>(self.b)
  // a chunk that would run over a ring's end goes the slow way
  const fits = ((a.write & (CHUNK - 1)) | (b.write & (CHUNK - 1))) == 0
  if (saturates == 0 && fits && self.flutter == 0 && self.flutterStep == 0 && rests(a) && (two == 0 || rests(b))) {
    self.peak = Math.max(self.peak, steady(self, left, right, two != 0))
    return
  }
  let peak: f64 = 0
  for (let i: usize = 0; i < <usize>CHUNK; i++) {
    const k = <f64>i
    const l = left + (i << 2), r = right + (i << 2)
    const mono = 0.5 * (<f64>load<f32>(l) + <f64>load<f32>(r))
    peak = Math.max(peak, Math.abs(mono))
    const open = now(at + offsetof<Echo>('open'), k), flutter = now(at + offsetof<Echo>('flutter'), k)
    const over = now(at + offsetof<Echo>('cross'), k)
    const drive = saturates != 0 ? now(at + offsetof<Echo>('drive'), k) : 0
    const ea = due(a, flutter, k, drive)
    const eb = two != 0 ? due(b, flutter, k, drive) : 0
    const fa = ea * (a.feedback + k * a.feedbackStep), fb = eb * (b.feedback + k * b.feedbackStep)
    // across, the second line is fed by the first one alone, and every way from side to side costs the feedback once
    push(a, mono * open + fa * (1 - over) + fb * over)
    if (two != 0) push(b, mono * open * (1 - over) + fb * (1 - over) + fa * over)
    const direct = now(at + offsetof<Echo>('dry'), k) * open + 1 - open
    const level = now(at + offsetof<Echo>('wet'), k) * now(at + offsetof<Echo>('duck'), k)
    const la = ea * (a.level + k * a.levelStep), lb = eb * (b.level + k * b.levelStep)
    const pa = a.pan + k * a.panStep, pb = b.pan + k * b.panStep
    store<f32>(l, <f32>(<f64>load<f32>(l) * direct + level * (la * Math.min(1, 1 - pa) + lb * Math.min(1, 1 - pb))))
    store<f32>(r, <f32>(<f64>load<f32>(r) * direct + level * (la * Math.min(1, 1 + pa) + lb * Math.min(1, 1 + pb))))
  }
  self.peak = Math.max(self.peak, peak)
}
