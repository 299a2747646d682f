import { sample } from './memory'

/** Both sides at once in f64 lanes. */
@inline
export function two(left: f64, right: f64): v128 {
  return f64x2.replace_lane(f64x2.splat(left), 1, right)
}

/** A value that moves by `step` a frame, on both sides alike. */
@inline
export function moved(value: f64, step: f64, frame: f64): v128 {
  return f64x2.splat(value + frame * step)
}

/** Third-order Lagrange between the frames of a line a side, at a delay each, as Ring.between in core/src/signal/base/ring.ts. */
@inline
export function betweenTwo(left: usize, right: usize, mask: i32, write: i32, delays: v128): v128 {
  const wholes = f64x2.floor(delays)
  const ones = f64x2.splat(1), halves = f64x2.splat(0.5), twos = f64x2.splat(2)
  const t = f64x2.add(f64x2.sub(delays, wholes), ones)
  const n = write - <i32>f64x2.extract_lane(wholes, 0), m = write - <i32>f64x2.extract_lane(wholes, 1)
  const a = two(sample(left, n + 1, mask), sample(right, m + 1, mask)), b = two(sample(left, n, mask), sample(right, m, mask))
  const c = two(sample(left, n - 1, mask), sample(right, m - 1, mask)), d = two(sample(left, n - 2, mask), sample(right, m - 2, mask))
  const second = f64x2.add(f64x2.sub(a, f64x2.mul(twos, b)), c)
  const third = f64x2.sub(f64x2.add(f64x2.sub(d, f64x2.mul(f64x2.splat(3), c)), f64x2.mul(f64x2.splat(3), b)), a)
  const curved = f64x2.add(f64x2.mul(halves, second), f64x2.mul(f64x2.div(f64x2.sub(t, twos), f64x2.splat(6)), third))
  return f64x2.add(a, f64x2.mul(t, f64x2.add(f64x2.sub(b, a), f64x2.mul(f64x2.sub(t, ones), curved))))
}

/** What a wide read past the end of a ring finds: its first frames again. To be called when a chunk was put at a place in bytes from the start. */
@inline
export function closed(ring: usize, mask: i32, at: usize): void {
  if (at == 0) v128.store(ring + (<usize>(mask + 1) << 2), v128.load(ring))
}

/**
 * Third-order Lagrange of one line at four frames in a row, of which the first has `write` next to be put: f64 delays of frames 0 and 1, 2 and 3.
 * Places are told apart in f64, what lies between in f32. The line is {@link closed}.
 */
@inline
export function betweenFour(ring: usize, mask: i32, write: i32, early: v128, late: v128): v128 {
  const wholes = f64x2.floor(early), others = f64x2.floor(late)
  const ones = f32x4.splat(1), threes = f32x4.splat(3)
  const part = v128.shuffle<f32>(f32x4.demote_f64x2_zero(f64x2.sub(early, wholes)), f32x4.demote_f64x2_zero(f64x2.sub(late, others)), 0, 1, 4, 5)
  const t = f32x4.add(part, ones)
  const back = v128.shuffle<i32>(i32x4.trunc_sat_f64x2_s_zero(wholes), i32x4.trunc_sat_f64x2_s_zero(others), 0, 1, 4, 5)
  const first = i32x4.sub(i32x4.add(i32x4.splat(write - 2), i32x4(0, 1, 2, 3)), back)
  const at = i32x4.shl(v128.and(first, i32x4.splat(mask)), 2)
  // a frame's four samples, the oldest first
  const p = v128.load(ring + <usize>i32x4.extract_lane(at, 0)), q = v128.load(ring + <usize>i32x4.extract_lane(at, 1))
  const r = v128.load(ring + <usize>i32x4.extract_lane(at, 2)), s = v128.load(ring + <usize>i32x4.extract_lane(at, 3))
  const pq = v128.shuffle<f32>(p, q, 0, 4, 1, 5), rs = v128.shuffle<f32>(r, s, 0, 4, 1, 5)
  const PQ = v128.shuffle<f32>(p, q, 2, 6, 3, 7), RS = v128.shuffle<f32>(r, s, 2, 6, 3, 7)
  const d = v128.shuffle<f32>(pq, rs, 0, 1, 4, 5), c = v128.shuffle<f32>(pq, rs, 2, 3, 6, 7)
  const b = v128.shuffle<f32>(PQ, RS, 0, 1, 4, 5), a = v128.shuffle<f32>(PQ, RS, 2, 3, 6, 7)
  const second = f32x4.add(f32x4.sub(f32x4.sub(a, b), b), c)
  const third = f32x4.add(f32x4.sub(d, a), f32x4.mul(threes, f32x4.sub(b, c)))
  const curved = f32x4.add(f32x4.mul(f32x4.splat(0.5), second), f32x4.mul(f32x4.mul(f32x4.sub(part, ones), f32x4.splat(1 / 6)), third))
  return f32x4.add(a, f32x4.mul(t, f32x4.add(f32x4.sub(b, a), f32x4.mul(part, curved))))
}

// four rows of four are turned by the firsts and lasts of two and two, and of these what is early and late: row t then holds sample t of all four
@inline
export function firsts(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 4, 1, 5)
}
@inline
export function lasts(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 6, 3, 7)
}
@inline
export function early(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 1, 4, 5)
}
@inline
export function late(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 3, 6, 7)
}
