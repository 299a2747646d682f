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
