/** Room of zeros at a multiple of 16 bytes, with some behind it that a wide load may read. */
export function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 64)
  memory.fill(at, 0, bytes + 64)
  return (at + 15) & ~15
}
