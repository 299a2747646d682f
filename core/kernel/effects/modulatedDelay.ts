/**
 * A short delay a side whose lengths swing, both sides in f64 lanes, for core/src/signal/modulation/modulatedDelay.ts with the sources.
 */
import { betweenTwo, moved, two } from '../lanes'
import { alloc, CHUNK } from '../memory'

/** Share of the other side's copy that is taken off in the dimension form (common practice, no source). */
const ACROSS: f64 = 0.35

@unmanaged
export class ModulatedDelay {
  // what glides, value and step, as modulatedDelay.ts writes it; lengths in frames
  depth: f64
  depthStep: f64
  delay: f64
  delayStep: f64
  feedback: f64
  feedbackStep: f64
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  dimension: f64
  dimensionStep: f64
  sine: f64
  sineStep: f64
  cosine: f64
  cosineStep: f64
  /** How far the right side's swing turns from the sine to the cosine. */
  apart: f64
  /** Coefficient of the copies' low-pass; 0 for none. */
  low: f64
  // what the low-pass of each side remembers
  lowLeft: f64
  lowRight: f64
  mask: i32
  write: i32
  left: usize
  right: usize
}

export function modulatedDelayCreate(size: i32): ModulatedDelay {
  const self = changetype<ModulatedDelay>(alloc(offsetof<ModulatedDelay>()))
  self.mask = size - 1
  self.left = alloc(<usize>size << 2)
  self.right = alloc(<usize>size << 2)
  return self
}

export function modulatedDelayReset(self: ModulatedDelay): void {
  memory.fill(self.left, 0, <usize>(self.mask + 1) << 2)
  memory.fill(self.right, 0, <usize>(self.mask + 1) << 2)
  self.lowLeft = self.lowRight = 0
}

/** A chunk in place. */
export function modulatedDelayProcess(self: ModulatedDelay, left: usize, right: usize): void {
  const mask = self.mask, ringLeft = self.left, ringRight = self.right, apart = self.apart
  const low = f64x2.splat(self.low), kept = f64x2.splat(1 - self.low), twos = f64x2.splat(2)
  let state = two(self.lowLeft, self.lowRight), write = self.write
  for (let i: i32 = 0; i < CHUNK; i++) {
    const k = <f64>i, at = <usize>i << 2
    const own = self.sine + k * self.sineStep, other = self.cosine + k * self.cosineStep
    const against = self.dimension + k * self.dimensionStep
    // the left side leads; the right one turns with it, a quarter period apart, or against it
    const swing = two(own, (1 - against) * ((1 - apart) * own + apart * other) - against * own)
    const length = f64x2.add(moved(self.delay, self.delayStep, k), f64x2.mul(moved(self.depth, self.depthStep, k), swing))
    const echo = betweenTwo(ringLeft, ringRight, mask, write, f64x2.pmax(length, twos))
    const x = two(<f64>load<f32>(left + at), <f64>load<f32>(right + at))
    const put = f64x2.add(x, f64x2.mul(echo, moved(self.feedback, self.feedbackStep, k)))
    store<f32>(ringLeft + (<usize>write << 2), <f32>f64x2.extract_lane(put, 0))
    store<f32>(ringRight + (<usize>write << 2), <f32>f64x2.extract_lane(put, 1))
    write = (write + 1) & mask
    state = f64x2.add(f64x2.mul(kept, state), f64x2.mul(low, echo))
    const copy = self.low == 0 ? echo : state
    const across = f64x2.splat(ACROSS * against)
    const heard = f64x2.sub(copy, f64x2.mul(across, v128.shuffle<f64>(copy, copy, 1, 0)))
    const y = f64x2.add(f64x2.mul(x, moved(self.dry, self.dryStep, k)), f64x2.mul(heard, moved(self.wet, self.wetStep, k)))
    store<f32>(left + at, <f32>f64x2.extract_lane(y, 0))
    store<f32>(right + at, <f32>f64x2.extract_lane(y, 1))
  }
  self.write = write
  self.lowLeft = f64x2.extract_lane(state, 0)
  self.lowRight = f64x2.extract_lane(state, 1)
}
