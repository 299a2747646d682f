import { BYTES } from './memory'

/** What the effects share: gliding values, neighbours, and poles that run four samples a turn with their state in f64. */

/** A value that glides by `step` a sample, at four places. */
@inline
export function ramp(value: v128, step: v128, places: v128): v128 {
  return f32x4.add(value, f32x4.mul(places, step))
}

/** What stood one sample before: the last of four, then the first three of the next. */
@inline
export function before(last: v128, now: v128): v128 {
  return v128.shuffle<f32>(last, now, 3, 4, 5, 6)
}

/**
 * A pole over four samples from rest: y ← (1 − c) · y + c · x as a prefix sum. What it held before adds {@link decay} of it.
 * `k` is 1 − c, `k2` its square.
 */
@inline
export function settled(x: v128, c: v128, k: v128, k2: v128): v128 {
  const zero = f32x4.splat(0)
  const v = f32x4.mul(x, c)
  const w = f32x4.add(v, f32x4.mul(k, v128.shuffle<f32>(zero, v, 3, 4, 5, 6)))
  return f32x4.add(w, f32x4.mul(k2, v128.shuffle<f32>(zero, w, 2, 3, 4, 5)))
}

/** k, k², k³, k⁴. */
@inline
export function decay(k: f64): v128 {
  const k2 = k * k
  return f32x4(<f32>k, <f32>k2, <f32>(k * k2), <f32>(k2 * k2))
}

/** 1, k, k², k³: of what is taken one sample before. */
@inline
export function decayBefore(k: f64): v128 {
  return f32x4(1, <f32>k, <f32>(k * k), <f32>(k * k * k))
}

/** A low-pass in place, four samples at a time. @returns its state */
export function pole(data: usize, c: f64, state: f64): f64 {
  const k = 1 - c, k4 = k * k * k * k
  const cs = f32x4.splat(<f32>c), k1 = f32x4.splat(<f32>k), k2 = f32x4.splat(<f32>(k * k)), fading = decay(k)
  for (let p = data, end = data + BYTES; p < end; p += 16) {
    const y = settled(v128.load(p), cs, k1, k2)
    v128.store(p, f32x4.add(y, f32x4.mul(fading, f32x4.splat(<f32>state))))
    state = k4 * state + f32x4.extract_lane(y, 3)
  }
  return Math.abs(state) < 1e-30 ? 0 : state
}

/** What is over a low-pass, in place. @returns its state */
export function overPole(data: usize, c: f64, state: f64): f64 {
  const k = 1 - c, k4 = k * k * k * k
  const cs = f32x4.splat(<f32>c), k1 = f32x4.splat(<f32>k), k2 = f32x4.splat(<f32>(k * k)), fading = decay(k)
  for (let p = data, end = data + BYTES; p < end; p += 16) {
    const x = v128.load(p)
    const y = settled(x, cs, k1, k2)
    v128.store(p, f32x4.sub(x, f32x4.add(y, f32x4.mul(fading, f32x4.splat(<f32>state)))))
    state = k4 * state + f32x4.extract_lane(y, 3)
  }
  return Math.abs(state) < 1e-30 ? 0 : state
}
