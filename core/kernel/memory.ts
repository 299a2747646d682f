/** Frames of a chunk: what every effect takes at a time. */
export const CHUNK: i32 = 64

/** Before each room stand those that were made before and after it. */
@unmanaged
class Neighbours {
  older: usize
  newer: usize
}
const HEAD: usize = 16

/** The room that was made last, of those that are not given back. */
let last: usize = 0

@inline
function beside(at: usize): Neighbours {
  return changetype<Neighbours>(at - HEAD)
}

/** Room of zeros at a multiple of 16 bytes, as the heap gives it, with some behind that a wide load may read. */
export function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 64 + HEAD) + HEAD
  memory.fill(at, 0, bytes + 64)
  beside(at).older = last
  beside(at).newer = 0
  if (last != 0) beside(last).newer = at
  last = at
  return at
}

/** Gives a room back. */
export function free(at: usize): void {
  const older = beside(at).older, newer = beside(at).newer
  if (older != 0) beside(older).newer = newer
  if (newer != 0) beside(newer).older = older
  else last = older
  heap.free(at - HEAD)
}

/** The room that was made last: what comes later is given back by {@link release}. */
export function newest(): usize {
  return last
}

/** Gives back all that was made after a room. */
export function release(mark: usize): void {
  while (last != mark && last != 0) free(last)
}

/** Bytes of a chunk of f32. */
export const BYTES: usize = <usize>CHUNK << 2

/** A chunk from one place to another. */
@inline
export function copied(to: usize, from: usize): void {
  for (let i: usize = 0; i < BYTES; i += 16) v128.store(to + i, v128.load(from + i))
}

/** A sample of a ring of f32 whose size is `mask` + 1. */
@inline
export function sample(ring: usize, at: i32, mask: i32): f64 {
  return <f64>load<f32>(ring + (<usize>(at & mask) << 2))
}

/** What lies `delay` frames before `write`, between the samples by third-order Lagrange: Ring.between in core/src/signal/base/ring.ts. */
@inline
export function between(ring: usize, mask: i32, write: i32, delay: f64): f64 {
  const whole = Math.floor(delay)
  const t = delay - whole + 1
  const n = write - <i32>whole
  const a = sample(ring, n + 1, mask), b = sample(ring, n, mask), c = sample(ring, n - 1, mask), d = sample(ring, n - 2, mask)
  return a + t * (b - a + (t - 1) * (0.5 * (a - 2 * b + c) + ((t - 2) / 6) * (d - 3 * c + 3 * b - a)))
}
