/**
 * Horn and drum of a rotating loudspeaker, four frames at once, for core/src/signal/modulation/rotary.ts with the source. Each rotor is a line
 * that is read between frames where each side hears it.
 */
import { decay, ramp, settled } from '../filters'
import { betweenFour, closed, two } from '../lanes'
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
  const at = <usize>self.write << 2
  for (let i: usize = 0; i < BYTES; i += 16) {
    const x = v128.load(left + i), below = v128.load(low + i)
    v128.store(hornRing + at + i, f32x4.sub(x, below))
    v128.store(drumRing + at + i, below)
  }
  closed(hornRing, mask, at)
  closed(drumRing, mask, at)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const frame = <i32>(i >> 2)
    const direct = f32x4.mul(line(self.dry, self.dryStep, frame), v128.load(left + i))
    const l = f32x4.add(
      heard(self, hornRing, self.hornFrames, self.hornSwing, self.horn, self.hornStep, self.hornLeft, self.hornLeftStep, frame),
      heard(self, drumRing, self.drumFrames, self.drumSwing, self.drum, self.drumStep, self.drumLeft, self.drumLeftStep, frame),
    )
    const r = f32x4.add(
      heard(self, hornRing, self.hornFrames, self.hornSwing, self.horn, self.hornStep, self.hornRight, self.hornRightStep, frame),
      heard(self, drumRing, self.drumFrames, self.drumSwing, self.drum, self.drumStep, self.drumRight, self.drumRightStep, frame),
    )
    const wet = line(self.wet, self.wetStep, frame)
    v128.store(left + i, f32x4.add(direct, f32x4.mul(wet, l)))
    v128.store(right + i, f32x4.add(direct, f32x4.mul(wet, r)))
  }
  self.write = (self.write + CHUNK) & mask
}

/** What moves by `step` a frame, at four of them. */
@inline
function line(value: f64, step: f64, frame: i32): v128 {
  return ramp(f32x4.splat(<f32>(value + <f64>frame * step)), f32x4.splat(<f32>step), f32x4(0, 1, 2, 3))
}

/** A rotor as one side hears it at four frames. */
@inline
function heard(
  self: Rotary,
  ring: usize,
  frames: f64,
  swing: f64,
  level: f64,
  levelStep: f64,
  turn: f64,
  turnStep: f64,
  frame: i32,
): v128 {
  const early = away(self, frames, turn, turnStep, <f64>frame), late = away(self, frames, turn, turnStep, <f64>(frame + 2))
  // the loudest moment is whole: level · (1 + share · depth · (turn − 1))
  const turned = f32x4.mul(line(self.depth, self.depthStep, frame), f32x4.sub(line(turn, turnStep, frame), f32x4.splat(1)))
  const loud = f32x4.mul(line(level, levelStep, frame), f32x4.add(f32x4.splat(1), f32x4.mul(f32x4.splat(<f32>swing), turned)))
  return f32x4.mul(loud, betweenFour(ring, self.mask, self.write + frame + 1, early, late))
}

/** Frames that a rotor's sound travels, at two of them. */
@inline
function away(self: Rotary, frames: f64, turn: f64, turnStep: f64, frame: f64): v128 {
  const places = two(frame, frame + 1)
  const depth = f64x2.add(f64x2.splat(self.depth), f64x2.mul(places, f64x2.splat(self.depthStep)))
  const turned = f64x2.mul(depth, f64x2.add(f64x2.splat(turn), f64x2.mul(places, f64x2.splat(turnStep))))
  return f64x2.add(f64x2.splat(4), f64x2.mul(f64x2.splat(frames), f64x2.add(f64x2.splat(1), turned)))
}
