/** First-order allpasses in a row that are swept together, both sides in f64 lanes, for core/src/signal/modulation/phaseShifter.ts with the source. */
import { moved, two } from '../lanes'
import { alloc, CHUNK } from '../memory'

/** Allpasses at most. */
const MOST: i32 = 8
/** Bytes of a value of both sides. */
const BOTH: usize = 16

@unmanaged
export class PhaseShifter {
  // what glides, value and step, as phaseShifter.ts writes it
  feedback: f64
  feedbackStep: f64
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  intensity: f64
  intensityStep: f64
  /** Allpasses that are heard. */
  count: f64
  // of each allpass, left and right: its coefficient, how far that moves a frame, and what it remembers
  coefficients: usize
  slopes: usize
  states: usize
  lastLeft: f64
  lastRight: f64
}

export function phaseShifterCreate(): PhaseShifter {
  const self = changetype<PhaseShifter>(alloc(offsetof<PhaseShifter>()))
  self.coefficients = alloc(BOTH * MOST)
  self.slopes = alloc(BOTH * MOST)
  self.states = alloc(BOTH * MOST)
  return self
}

/** Where the coefficients stand, two f64 each. */
export function phaseShifterCoefficientsAt(self: PhaseShifter): usize {
  return self.coefficients
}
export function phaseShifterSlopesAt(self: PhaseShifter): usize {
  return self.slopes
}

export function phaseShifterReset(self: PhaseShifter): void {
  memory.fill(self.states, 0, BOTH * MOST)
  self.lastLeft = self.lastRight = 0
}

/** A chunk in place. */
export function phaseShifterProcess(self: PhaseShifter, left: usize, right: usize): void {
  const end = BOTH * <usize>self.count, coefficients = self.coefficients, slopes = self.slopes, states = self.states
  let last = two(self.lastLeft, self.lastRight)
  for (let i: i32 = 0; i < CHUNK; i++) {
    const k = <f64>i, ks = f64x2.splat(k), at = <usize>i << 2
    const x = two(<f64>load<f32>(left + at), <f64>load<f32>(right + at))
    let y = f64x2.add(x, f64x2.mul(last, moved(self.feedback, self.feedbackStep, k)))
    for (let s: usize = 0; s < end; s += BOTH) {
      const a = f64x2.add(v128.load(coefficients + s), f64x2.mul(ks, v128.load(slopes + s)))
      const out = f64x2.add(f64x2.mul(a, y), v128.load(states + s))
      v128.store(states + s, f64x2.sub(y, f64x2.mul(a, out)))
      y = out
    }
    last = y
    const shifted = f64x2.add(x, f64x2.mul(f64x2.sub(y, x), moved(self.intensity, self.intensityStep, k)))
    const sum = f64x2.add(f64x2.mul(x, moved(self.dry, self.dryStep, k)), f64x2.mul(shifted, moved(self.wet, self.wetStep, k)))
    store<f32>(left + at, <f32>f64x2.extract_lane(sum, 0))
    store<f32>(right + at, <f32>f64x2.extract_lane(sum, 1))
  }
  self.lastLeft = f64x2.extract_lane(last, 0)
  self.lastRight = f64x2.extract_lane(last, 1)
}
