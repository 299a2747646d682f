/**
 * Delay lines as rings of `size` frames of f32, a power of two, which are written a chunk at a time from `write` on. A place before that is
 * given by the frames that it lies back.
 */
import { alloc, BYTES, CHUNK, copied } from './memory'

/** A chunk that runs over a ring's end, put together. */
const whole = alloc(BYTES)

/** Where the chunk stands that begins `back` frames before `write`. */
@inline
function piece(ring: usize, size: i32, write: i32, back: i32): usize {
  const from = (write - back) & (size - 1)
  const at = ring + (<usize>from << 2)
  const first = size - from
  if (first >= CHUNK) return at
  memory.copy(whole, at, <usize>first << 2)
  memory.copy(whole + (<usize>first << 2), ring, <usize>(CHUNK - first) << 2)
  return whole
}

/** Takes a chunk. */
export function ringPut(ring: usize, write: i32, data: usize): void {
  copied(ring + (<usize>write << 2), data)
}

/** data ← the chunk that begins `back` frames before `write`. */
export function ringTake(ring: usize, size: i32, write: i32, back: i32, data: usize): void {
  copied(data, piece(ring, size, write, back))
}

/** A chunk through the ring: data ← what was put `back` frames before. */
export function ringPass(ring: usize, size: i32, write: i32, data: usize, back: i32): void {
  ringPut(ring, write, data)
  ringTake(ring, size, write, back, data)
}

/** data ← data + gain · the chunk that begins `back` frames before `write`. */
export function ringTap(ring: usize, size: i32, write: i32, back: i32, data: usize, gain: f32): void {
  const from = piece(ring, size, write, back), gains = f32x4.splat(gain)
  for (let i: usize = 0; i < BYTES; i += 16) v128.store(data + i, f32x4.add(v128.load(data + i), f32x4.mul(gains, v128.load(from + i))))
}

/** Schroeder allpass over a length of at least a chunk, in place. */
export function ringAllpass(ring: usize, size: i32, write: i32, length: i32, data: usize, gain: f32): void {
  const from = piece(ring, size, write, length), now = ring + (<usize>write << 2), gains = f32x4.splat(gain)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const delayed = v128.load(from + i)
    const v = f32x4.sub(v128.load(data + i), f32x4.mul(gains, delayed))
    v128.store(now + i, v)
    v128.store(data + i, f32x4.add(delayed, f32x4.mul(gains, v)))
  }
}
