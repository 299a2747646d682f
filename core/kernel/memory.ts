/** Frames of a chunk: what every effect takes at a time. */
export const CHUNK: i32 = 64

/** Room of zeros at a multiple of 16 bytes, as the heap gives it, with some behind that a wide load may read. */
export function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 64)
  memory.fill(at, 0, bytes + 64)
  return at
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
