/**
 * Horn and drum of a rotating loudspeaker, both sides at once in f64 lanes, for core/src/signal/modulation/rotary.ts with the source. Each rotor
 * is a line that is read between frames where each side hears it.
 */
import { decay, settled } from '../filters'
import { betweenTwo, two } from '../lanes'
import { alloc, BYTES, CHUNK } from '../memory'

const low = alloc(BYTES)

@unmanaged
export class Rotary {
  // what glides, value and step, in the order of ROTARY in rotary.ts
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  depth: f64
  depthStep: f64
  horn: f64
  hornStep: f64
  drum: f64
  drumStep: f64
  // how far each rotor is turned to the left and to the right, −1 … 1
  hornLeft: f64
  hornLeftStep: f64
  hornRight: f64
  hornRightStep: f64
  drumLeft: f64
  drumLeftStep: f64
  drumRight: f64
  drumRightStep: f64
  // frames of travel, shares of the level that turn away, coefficient of the crossover
  hornFrames: f64
  drumFrames: f64
  hornSwing: f64
  drumSwing: f64
  split: f64
  // what it remembers
  low1: f64
  low2: f64
  mask: i32
  write: i32
  hornRing: usize
  drumRing: usize
}

export function rotaryCreate(size: i32): Rotary {
  const self = changetype<Rotary>(alloc(offsetof<Rotary>()))
  self.mask = size - 1
  self.hornRing = alloc(<usize>size << 2)
  self.drumRing = alloc(<usize>size << 2)
  return self
}

export function rotaryReset(self: Rotary): void {
  memory.fill(self.hornRing, 0, <usize>(self.mask + 1) << 2)
  memory.fill(self.drumRing, 0, <usize>(self.mask + 1) << 2)
  self.low1 = self.low2 = 0
}

/** Two first-order low-passes in a row leave the drum's part in `low`. */
function split(self: Rotary, data: usize): void {
  const k = 1 - self.split, k4 = k * k * k * k
  const c = f32x4.splat(<f32>self.split), c1 = f32x4.splat(<f32>k), c2 = f32x4.splat(<f32>(k * k)), fading = decay(k)
  let s1 = self.low1, s2 = self.low2
  for (let i: usize = 0; i < BYTES; i += 16) {
    const v = settled(v128.load(data + i), c, c1, c2)
    const once = f32x4.add(v, f32x4.mul(fading, f32x4.splat(<f32>s1)))
    s1 = k4 * s1 + f32x4.extract_lane(v, 3)
    const w = settled(once, c, c1, c2)
    v128.store(low + i, f32x4.add(w, f32x4.mul(fading, f32x4.splat(<f32>s2))))
    s2 = k4 * s2 + f32x4.extract_lane(w, 3)
  }
  self.low1 = s1
  self.low2 = s2
}

/** A chunk: mono in `left`, stereo out. */
export function rotaryProcess(self: Rotary, left: usize, right: usize): void {
  split(self, left)
  const mask = self.mask, hornRing = self.hornRing, drumRing = self.drumRing
  const ones = f64x2.splat(1), fours = f64x2.splat(4)
  const hornFrames = f64x2.splat(self.hornFrames), drumFrames = f64x2.splat(self.drumFrames)
  const hornStart = two(self.hornLeft, self.hornRight), hornSteps = two(self.hornLeftStep, self.hornRightStep)
  const drumStart = two(self.drumLeft, self.drumRight), drumSteps = two(self.drumLeftStep, self.drumRightStep)
  let write = self.write
  for (let i: usize = 0; i < <usize>CHUNK; i++) {
    const k = <f64>i, ks = f64x2.splat(k)
    const x = load<f32>(left + (i << 2)), below = load<f32>(low + (i << 2))
    store<f32>(hornRing + (<usize>write << 2), x - below)
    store<f32>(drumRing + (<usize>write << 2), below)
    write = (write + 1) & mask
    const depth = f64x2.splat(self.depth + k * self.depthStep)
    const wet = self.wet + k * self.wetStep
    const horn = wet * (self.horn + k * self.hornStep), drum = wet * (self.drum + k * self.drumStep)
    const hornTurn = f64x2.mul(depth, f64x2.add(hornStart, f64x2.mul(ks, hornSteps)))
    const drumTurn = f64x2.mul(depth, f64x2.add(drumStart, f64x2.mul(ks, drumSteps)))
    // the loudest moment is whole: level · (1 + share · depth · (turn − 1))
    const hornLevel = f64x2.mul(f64x2.splat(horn), f64x2.add(ones, f64x2.mul(f64x2.splat(self.hornSwing), f64x2.sub(hornTurn, depth))))
    const drumLevel = f64x2.mul(f64x2.splat(drum), f64x2.add(ones, f64x2.mul(f64x2.splat(self.drumSwing), f64x2.sub(drumTurn, depth))))
    const hornHeard = betweenTwo(hornRing, hornRing, mask, write, f64x2.add(fours, f64x2.mul(hornFrames, f64x2.add(ones, hornTurn))))
    const drumHeard = betweenTwo(drumRing, drumRing, mask, write, f64x2.add(fours, f64x2.mul(drumFrames, f64x2.add(ones, drumTurn))))
    const direct = f64x2.splat((self.dry + k * self.dryStep) * <f64>x)
    const out = f64x2.add(direct, f64x2.add(f64x2.mul(hornLevel, hornHeard), f64x2.mul(drumLevel, drumHeard)))
    store<f32>(left + (i << 2), <f32>f64x2.extract_lane(out, 0))
    store<f32>(right + (i << 2), <f32>f64x2.extract_lane(out, 1))
  }
  self.write = write
}
