/** Frames of a chunk: what every effect takes at a time. */
export const CHUNK: i32 = 64

/** Room of zeros at a multiple of 16 bytes, as the heap gives it, with some behind that a wide load may read. */
export function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 64)
  memory.fill(at, 0, bytes + 64)
  return at
}
