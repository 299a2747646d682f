/**
 * A cascade of stretched first-order allpasses (a + z^−K)/(1 + a·z^−K) in f32 SIMD, for core/src/signal/reverbs/springTank.ts. Every section
 * has a row of its last K outputs and the chunk's: row s+1 [n] = a · (row s [n] − row s+1 [n − K]) + row s [n − K]. With K above three,
 * four neighbours do not depend on each other.
 */
import { overPole, pole } from '../filters'
import { alloc, BYTES, CHUNK, copied } from '../memory'
import { advance, place, Ring, ringCreate, ringReset, ringTake } from '../rings'

/** One spring: its cascade, and the loop around it. */
@unmanaged
export class Spring {
  // coefficients of the poles: what is heard twice over, the loop's top and bottom
  low: f64
  loopLow: f64
  loopHigh: f64
  // and what they remember
  lowState: f64
  lowState2: f64
  loopLowState: f64
  loopHighState: f64
  /** The way back, and its frames. */
  ring: Ring
  frames: i32
  rows: usize
  sections: i32
  /** Bytes of a section's history, and of a row. */
  stretch: usize
  stride: usize
}

/** `k` at least 4. Input and output are the first and the last row's chunk. */
export function springCreate(sections: i32, k: i32, frames: i32, size: i32): Spring {
  const self = changetype<Spring>(alloc(offsetof<Spring>()))
  self.ring = ringCreate(size)
  self.frames = frames
  self.sections = sections
  self.stretch = (<usize>k) << 2
  // the chunk begins behind room for the history, and three more may be read and written behind it
  self.stride = self.stretch + (((<usize>CHUNK) + 4) << 2)
  self.rows = alloc(self.stride * (<usize>sections + 1) + 16)
  return self
}

export function springInputAt(self: Spring): usize {
  return self.rows + self.stretch
}
export function springOutputAt(self: Spring): usize {
  return self.rows + self.stretch + self.stride * <usize>self.sections
}

export function springReset(self: Spring): void {
  memory.fill(self.rows, 0, self.stride * (<usize>self.sections + 1) + 16)
  ringReset(self.ring)
  self.lowState = self.lowState2 = self.loopLowState = self.loopHighState = 0
}

/** One chunk of the loop: what comes back goes through the cascade and, less by `gain`, with the feed into the ring again. */
export function springTurn(self: Spring, feed: usize, out: usize, coefficient: f32, gain: f32): void {
  const ring = self.ring
  ringTake(ring, springInputAt(self), self.frames)
  springProcess(self, coefficient)
  copied(out, springOutputAt(self))
  self.loopLowState = pole(out, self.loopLow, self.loopLowState)
  self.loopHighState = overPole(out, self.loopHigh, self.loopHighState)
  const gains = f32x4.splat(gain), to = place(ring)
  for (let i: usize = 0; i < BYTES; i += 16) v128.store(to + i, f32x4.sub(v128.load(feed + i), f32x4.mul(gains, v128.load(out + i))))
  advance(ring)
  // what is heard ends at the spring's corner; in the loop the cut would shorten the decay trip by trip
  self.lowState = pole(out, self.low, self.lowState)
  self.lowState2 = pole(out, self.low, self.lowState2)
}

/** Four outputs that lie `k` back, of the eight last ones: a load over two fresh stores would wait until both are through. */
@inline
function back(older: v128, last: v128, k: i32): v128 {
  if (k == 4) return last
  if (k == 5) return v128.shuffle<f32>(older, last, 3, 4, 5, 6)
  if (k == 6) return v128.shuffle<f32>(older, last, 2, 3, 4, 5)
  if (k == 7) return v128.shuffle<f32>(older, last, 1, 2, 3, 4)
  return older
}

/**
 * `y[n] = a·x[n] + x[n − k] − a·y[n − k]` of four sections in a row, stretched by 4 to 8, four frames at a time: a section waits for its own
 * last frames only, so that the four run side by side, and what lies `k` back of one is what the next takes `k` back. Of the rows between
 * only what the next chunk looks back at is written.
 */
@inline
function fourSections(x: usize, stride: usize, bytes: usize, a: v128, k: i32): void {
  const y1 = x + stride, y2 = y1 + stride, y3 = y2 + stride, y4 = y3 + stride
  let o0 = v128.load(x - 32), l0 = v128.load(x - 16), o1 = v128.load(y1 - 32), l1 = v128.load(y1 - 16)
  let o2 = v128.load(y2 - 32), l2 = v128.load(y2 - 16), o3 = v128.load(y3 - 32), l3 = v128.load(y3 - 16)
  let o4 = v128.load(y4 - 32), l4 = v128.load(y4 - 16)
  for (let n: usize = 0; n < bytes; n += 16) {
    const now = v128.load(x + n), b1 = back(o1, l1, k), b2 = back(o2, l2, k), b3 = back(o3, l3, k)
    const n1 = f32x4.sub(f32x4.add(f32x4.mul(a, now), back(o0, l0, k)), f32x4.mul(a, b1))
    const n2 = f32x4.sub(f32x4.add(f32x4.mul(a, n1), b1), f32x4.mul(a, b2))
    const n3 = f32x4.sub(f32x4.add(f32x4.mul(a, n2), b2), f32x4.mul(a, b3))
    const n4 = f32x4.sub(f32x4.add(f32x4.mul(a, n3), b3), f32x4.mul(a, back(o4, l4, k)))
    v128.store(y4 + n, n4)
    o0 = l0, l0 = now, o1 = l1, l1 = n1, o2 = l2, l2 = n2, o3 = l3, l3 = n3, o4 = l4, l4 = n4
  }
  const end = bytes - 32
  v128.store(y1 + end, o1)
  v128.store(y1 + end, l1, 16)
  v128.store(y2 + end, o2)
  v128.store(y2 + end, l2, 16)
  v128.store(y3 + end, o3)
  v128.store(y3 + end, l3, 16)
}

/** One section of any stretch. */
function stretched(x: usize, y: usize, bytes: usize, a: v128, stretch: usize): void {
  for (let n: usize = 0; n < bytes; n += 16) {
    const past = v128.load(x + n - stretch)
    v128.store(y + n, f32x4.add(f32x4.mul(a, f32x4.sub(v128.load(x + n), v128.load(y + n - stretch))), past))
  }
}

export function springProcess(self: Spring, coefficient: f32): void {
  const rows = self.rows, sections = self.sections, stretch = self.stretch, stride = self.stride
  const a = f32x4.splat(coefficient)
  const bytes = (<usize>CHUNK) << 2
  const k = <i32>(stretch >> 2)
  let s = 0
  if (k <= 8)
    for (; s + 4 <= sections; s += 4) {
      const x = rows + stride * <usize>s + stretch
      if (k == 5) fourSections(x, stride, bytes, a, 5)
      else if (k == 6) fourSections(x, stride, bytes, a, 6)
      else if (k == 4) fourSections(x, stride, bytes, a, 4)
      else if (k == 7) fourSections(x, stride, bytes, a, 7)
      else fourSections(x, stride, bytes, a, 8)
    }
  for (; s < sections; s++) {
    const x = rows + stride * <usize>s + stretch
    stretched(x, x + stride, bytes, a, stretch)
  }
  for (let s = 0; s < sections; s++) {
    const row = rows + stride * <usize>s
    // the chunk behind it is written anew before it is read: two wide stores cost far less than a copy of so little
    if (stretch <= 32) {
      v128.store(row, v128.load(row + bytes))
      v128.store(row, v128.load(row + bytes, 16), 16)
    } else memory.copy(row, row + bytes, stretch)
  }
  // the last one's chunk is the output
  const last = rows + stride * <usize>sections
  memory.copy(last, last + bytes, stretch)
}
