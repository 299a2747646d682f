/**
 * A cascade of stretched first-order allpasses (a + z^−K)/(1 + a·z^−K) in f32 SIMD, for core/src/signal/reverbs/springTank.ts. Every section
 * has a row of its last K outputs and the chunk's: row s+1 [n] = a · (row s [n] − row s+1 [n − K]) + row s [n − K]. With K above three,
 * four neighbours do not depend on each other.
 */
import { alloc, CHUNK } from '../memory'

/** One cascade. */
@unmanaged
class Spring {
  rows: usize
  sections: i32
  /** Bytes of a section's history, and of a row. */
  stretch: usize
  stride: usize
}

/** `k` at least 4. Input and output are the first and the last row's chunk. */
export function springCreate(sections: i32, k: i32): Spring {
  const self = changetype<Spring>(alloc(offsetof<Spring>()))
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

/** One section, stretched by 4 to 8. */
@inline
function section(x: usize, y: usize, bytes: usize, a: v128, k: i32): void {
  let older = v128.load(y - 32), last = v128.load(y - 16)
  for (let n: usize = 0; n < bytes; n += 16) {
    const next = f32x4.add(f32x4.mul(a, f32x4.sub(v128.load(x + n), back(older, last, k))), v128.load(x + n - (<usize>k << 2)))
    v128.store(y + n, next)
    older = last
    last = next
  }
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
  for (let s = 0; s < sections; s++) {
    const x = rows + stride * <usize>s + stretch
    const y = x + stride
    if (k == 5) section(x, y, bytes, a, 5)
    else if (k == 6) section(x, y, bytes, a, 6)
    else if (k == 4) section(x, y, bytes, a, 4)
    else if (k == 7) section(x, y, bytes, a, 7)
    else if (k == 8) section(x, y, bytes, a, 8)
    else stretched(x, y, bytes, a, stretch)
  }
  for (let s = 0; s <= sections; s++) {
    const row = rows + stride * <usize>s
    memory.copy(row, row + bytes, stretch)
  }
}
