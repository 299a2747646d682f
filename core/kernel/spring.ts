/**
 * A cascade of stretched first-order allpasses (a + z^−K)/(1 + a·z^−K) in f32 SIMD, for core/src/signal/reverbs/springTank.ts. Every section
 * has a row of its last K outputs and the chunk's: row s+1 [n] = a · (row s [n] − row s+1 [n − K]) + row s [n − K]. With K above three,
 * four neighbours do not depend on each other.
 */
const CHUNK: i32 = 64

let rows: usize = 0
let sections: i32 = 0
let stretch: usize = 0
let stride: usize = 0

/** `k` at least 4. Input and output are the first and the last row's chunk. */
export function setup(count: i32, k: i32): void {
  sections = count
  stretch = (<usize>k) << 2
  // the chunk begins behind room for the history, and three more may be read and written behind it
  stride = stretch + (((<usize>CHUNK) + 4) << 2)
  rows = heap.alloc(stride * (<usize>count + 1) + 16)
  reset()
}

export function inputAt(): usize {
  return rows + stretch
}
export function outputAt(): usize {
  return rows + stretch + stride * <usize>sections
}

export function reset(): void {
  memory.fill(rows, 0, stride * (<usize>sections + 1) + 16)
}

export function process(frames: i32, coefficient: f32): void {
  const a = f32x4.splat(coefficient)
  const bytes = (<usize>frames) << 2
  for (let s = 0; s < sections; s++) {
    const x = rows + stride * <usize>s + stretch
    const y = x + stride
    for (let n: usize = 0; n < bytes; n += 16) {
      const past = v128.load(x + n - stretch)
      v128.store(y + n, f32x4.add(f32x4.mul(a, f32x4.sub(v128.load(x + n), v128.load(y + n - stretch))), past))
    }
  }
  for (let s = 0; s <= sections; s++) {
    const row = rows + stride * <usize>s
    memory.copy(row, row + bytes, stretch)
  }
}
