/**
 * A plate's network: input diffusion and a figure-of-eight tank whose allpasses move, for core/src/signal/reverbs/plateTank.ts with the source,
 * which also writes its numbers.
 */
import { mix, silence } from '../blocks'
import { decay, settled } from '../filters'
import { alloc, BYTES } from '../memory'
import { Ring, ringAllpass, ringCreate, ringPut, ringReset, ringSweep, ringTake, ringTap } from '../rings'

/** Diffusers of the input; then, of either half, the swept allpass, the first line, the plain allpass and the second line. */
const INPUT: i32 = 4
const HALF: i32 = 4
const LINES: i32 = INPUT + 2 * HALF
/** Of both outputs together. */
const TAPS: i32 = 14

/** A line and its length in frames. */
@unmanaged
class Line {
  ring: Ring
  frames: i32
}

@unmanaged
class Tap {
  line: i32
  back: i32
  gain: f32
}

/** Gains and the swept length of one half. */
@unmanaged
class Half {
  /** What the length is more at the chunk's beginning, and its step a frame. */
  swing: f64
  slope: f64
  swept: f64
  plain: f64
  // states of the damping, and of what of it lies below the crossover
  low: f64
  bass: f64
}

@unmanaged
export class Plate {
  // written by the host: gains of the input's diffusers, two and two, and of a pass; what lies below the crossover gets more; coefficients
  early: f64
  late: f64
  gain: f64
  below: f64
  damping: f64
  cross: f64
  halves: usize
  lines: usize
  taps: usize
  // what goes into either half, and what comes out of the first line
  buses: usize
  delayed: usize
}

export function plateCreate(): Plate {
  const self = changetype<Plate>(alloc(offsetof<Plate>()))
  self.halves = alloc(offsetof<Half>() * 2)
  self.lines = alloc(offsetof<Line>() * LINES)
  self.taps = alloc(offsetof<Tap>() * TAPS)
  self.buses = alloc(2 * BYTES)
  self.delayed = alloc(BYTES)
  return self
}

/** Where the numbers of a half stand. */
export function plateHalfAt(self: Plate, k: i32): usize {
  return self.halves + <usize>k * offsetof<Half>()
}

@inline
function half(self: Plate, k: i32): Half {
  return changetype<Half>(plateHalfAt(self, k))
}

@inline
function line(self: Plate, k: i32): Line {
  return changetype<Line>(self.lines + <usize>k * offsetof<Line>())
}

@inline
function tap(self: Plate, k: i32): Tap {
  return changetype<Tap>(self.taps + <usize>k * offsetof<Tap>())
}

/** The k-th line: its frames, in a ring of `size`. */
export function plateLine(self: Plate, k: i32, size: i32, frames: i32): void {
  line(self, k).ring = ringCreate(size)
  line(self, k).frames = frames
}

/** The k-th tap, seven of the left output and then of the right one: `back` frames before the end of a line. */
export function plateTap(self: Plate, k: i32, at: i32, back: i32, gain: f32): void {
  tap(self, k).line = at
  tap(self, k).back = back
  tap(self, k).gain = gain
}

export function plateReset(self: Plate): void {
  for (let k = 0; k < LINES; k++) ringReset(line(self, k).ring)
  for (let k = 0; k < 2; k++) half(self, k).low = half(self, k).bass = 0
}

/** The reverberation alone of a chunk, which is overwritten. */
export function plateProcess(self: Plate, feed: usize, left: usize, right: usize): void {
  for (let k = 0; k < INPUT; k++) ringAllpass(line(self, k).ring, feed, line(self, k).frames, <f32>(k < 2 ? self.early : self.late))
  // both ends are read before either is written
  for (let h = 0; h < 2; h++) {
    const end = line(self, INPUT + HALF * h + 3)
    ringTake(end.ring, self.buses + <usize>(1 - h) * BYTES, end.frames)
  }
  for (let h = 0; h < 2; h++) {
    const bus = self.buses + <usize>h * BYTES
    mix(bus, feed, <f32>self.gain, 0, 1, 0)
    turn(self, h, bus)
  }
  silence(left, right)
  for (let k = 0; k < TAPS; k++) ringTap(line(self, tap(self, k).line).ring, k < TAPS / 2 ? left : right, tap(self, k).back, tap(self, k).gain)
}

/** What goes into a half, once through it. */
function turn(self: Plate, h: i32, bus: usize): void {
  const now = half(self, h), first = INPUT + HALF * h, delayed = self.delayed
  // the swept allpass has negative gain, as in the paper
  ringSweep(line(self, first).ring, bus, <f64>line(self, first).frames + now.swing, now.slope, <f32>-now.swept)
  ringTake(line(self, first + 1).ring, delayed, line(self, first + 1).frames)
  ringPut(line(self, first + 1).ring, bus)
  damp(self, now, delayed)
  ringAllpass(line(self, first + 2).ring, delayed, line(self, first + 2).frames, <f32>now.plain)
  ringPut(line(self, first + 3).ring, delayed)
}

/** data ← gain · low + below · bass, low what the damping leaves and bass what of it lies below the crossover, both first order. */
function damp(self: Plate, now: Half, data: usize): void {
  const k = 1 - self.damping, k4 = k * k * k * k, b = 1 - self.cross, b4 = b * b * b * b
  const c = f32x4.splat(<f32>self.damping), c1 = f32x4.splat(<f32>k), c2 = f32x4.splat(<f32>(k * k)), ck = decay(k)
  const x = f32x4.splat(<f32>self.cross), x1 = f32x4.splat(<f32>b), x2 = f32x4.splat(<f32>(b * b)), xk = decay(b)
  const gains = f32x4.splat(<f32>self.gain), belows = f32x4.splat(<f32>self.below)
  let low = now.low, bass = now.bass
  for (let p = data, end = data + BYTES; p < end; p += 16) {
    const v = settled(v128.load(p), c, c1, c2)
    const damped = f32x4.add(v, f32x4.mul(ck, f32x4.splat(<f32>low)))
    low = k4 * low + f32x4.extract_lane(v, 3)
    const w = settled(damped, x, x1, x2)
    const deep = f32x4.add(w, f32x4.mul(xk, f32x4.splat(<f32>bass)))
    bass = b4 * bass + f32x4.extract_lane(w, 3)
    v128.store(p, f32x4.add(f32x4.mul(gains, damped), f32x4.mul(belows, deep)))
  }
  now.low = low
  now.bass = bass
}
