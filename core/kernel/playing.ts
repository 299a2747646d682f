/** Kernel of plucked strings, f64 SIMD: decaying sines, two of their frames in a vector. */
import { alloc } from './memory'

/** Most frames at once. */
const MOST: usize = 16384

const frames = alloc(MOST * 4)
const sines = alloc(4 * 4 * 8)

/** Room for the frames of f32 that the sines are added to. */
export function framesAt(): usize {
  return frames
}

/** Of four sines: a1, a2, and what stood one and two frames before; f64, four of each. */
export function sinesAt(): usize {
  return sines
}

@inline
function number(which: usize, k: usize): f64 {
  return load<f64>(sines + ((which * 4 + k) << 3))
}

/**
 * Adds y[n] = a1·y[n−1] − a2·y[n−2] of four sines over `count` frames. Taken two frames at once, y[n+2] = (a1² − 2·a2)·y[n] − a2²·y[n−2],
 * so that they do not wait for each other.
 */
export function fourSines(count: i32): void {
  let u0 = f64x2.splat(0), u1 = u0, u2 = u0, u3 = u0, v0 = u0, v1 = u0, v2 = u0, v3 = u0
  let c0 = u0, c1 = u0, c2 = u0, c3 = u0, d0 = u0, d1 = u0, d2 = u0, d3 = u0
  for (let k: usize = 0; k < 4; k++) {
    const a = number(0, k), b = number(1, k), before = number(2, k), earlier = number(3, k)
    const first = a * before - b * earlier
    const now = f64x2.replace_lane(f64x2.splat(first), 1, a * first - b * before)
    const last = f64x2.replace_lane(f64x2.splat(earlier), 1, before)
    const c = f64x2.splat(a * a - 2 * b), d = f64x2.splat(b * b)
    if (k == 0) u0 = now, v0 = last, c0 = c, d0 = d
    else if (k == 1) u1 = now, v1 = last, c1 = c, d1 = d
    else if (k == 2) u2 = now, v2 = last, c2 = c, d2 = d
    else u3 = now, v3 = last, c3 = c, d3 = d
  }
  const end = frames + ((<usize>(count & ~1)) << 2)
  for (let p = frames; p < end; p += 8) {
    const sum = f64x2.add(f64x2.add(u0, u1), f64x2.add(u2, u3))
    v128.store64_lane(p, f32x4.demote_f64x2_zero(f64x2.add(f64x2.promote_low_f32x4(v128.load64_zero(p)), sum)), 0)
    const t0 = f64x2.sub(f64x2.mul(c0, u0), f64x2.mul(d0, v0))
    const t1 = f64x2.sub(f64x2.mul(c1, u1), f64x2.mul(d1, v1))
    const t2 = f64x2.sub(f64x2.mul(c2, u2), f64x2.mul(d2, v2))
    const t3 = f64x2.sub(f64x2.mul(c3, u3), f64x2.mul(d3, v3))
    v0 = u0, v1 = u1, v2 = u2, v3 = u3
    u0 = t0, u1 = t1, u2 = t2, u3 = t3
  }
  const sum = f64x2.add(f64x2.add(u0, u1), f64x2.add(u2, u3))
  if (count & 1) store<f32>(end, <f32>(<f64>load<f32>(end) + f64x2.extract_lane(sum, 0)))
  // what a next piece begins with
  for (let k: usize = 0; k < 4; k++) {
    const u = k == 0 ? u0 : k == 1 ? u1 : k == 2 ? u2 : u3, v = k == 0 ? v0 : k == 1 ? v1 : k == 2 ? v2 : v3
    const odd = (count & 1) != 0
    store<f64>(sines + ((8 + k) << 3), odd ? f64x2.extract_lane(u, 0) : f64x2.extract_lane(v, 1))
    store<f64>(sines + ((12 + k) << 3), odd ? f64x2.extract_lane(v, 1) : f64x2.extract_lane(v, 0))
  }
}
