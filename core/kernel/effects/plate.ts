/** Parts of the plate's tank that are not plain rings, for core/src/signal/reverbs/plateTank.ts with the source. */
import { decay, settled } from '../filters'
import { BYTES, CHUNK } from '../memory'

/** An allpass whose length moves by `slope` a frame from `delay` on, read between two frames; longer than a chunk throughout. */
export function plateSweep(ring: usize, size: i32, write: i32, data: usize, delay: f64, slope: f64, gain: f32): void {
  const mask = size - 1
  for (let i: i32 = 0; i < CHUNK; i++) {
    const back = delay + slope * <f64>i
    const whole = <i32>back
    const part = <f32>(back - <f64>whole)
    const n = write + i - whole
    const delayed = load<f32>(ring + (<usize>(n & mask) << 2)) * (1 - part) + load<f32>(ring + (<usize>((n - 1) & mask) << 2)) * part
    const at = data + (<usize>i << 2)
    const v = load<f32>(at) - gain * delayed
    store<f32>(ring + (<usize>(write + i) << 2), v)
    store<f32>(at, delayed + gain * v)
  }
}

/**
 * data ← above · low + below · bass, low what the damping leaves and bass what of it lies below the crossover, both first order by their
 * coefficients; their states stand in two f64 at `states`.
 */
export function plateDamp(states: usize, data: usize, damping: f64, cross: f64, above: f32, below: f32): void {
  const k = 1 - damping, k4 = k * k * k * k, b = 1 - cross, b4 = b * b * b * b
  const c = f32x4.splat(<f32>damping), c1 = f32x4.splat(<f32>k), c2 = f32x4.splat(<f32>(k * k)), ck = decay(k)
  const x = f32x4.splat(<f32>cross), x1 = f32x4.splat(<f32>b), x2 = f32x4.splat(<f32>(b * b)), xk = decay(b)
  const aboves = f32x4.splat(above), belows = f32x4.splat(below)
  let low = load<f64>(states), bass = load<f64>(states, 8)
  for (let p = data, end = data + BYTES; p < end; p += 16) {
    const v = settled(v128.load(p), c, c1, c2)
    const damped = f32x4.add(v, f32x4.mul(ck, f32x4.splat(<f32>low)))
    low = k4 * low + f32x4.extract_lane(v, 3)
    const w = settled(damped, x, x1, x2)
    const deep = f32x4.add(w, f32x4.mul(xk, f32x4.splat(<f32>bass)))
    bass = b4 * bass + f32x4.extract_lane(w, 3)
    v128.store(p, f32x4.add(f32x4.mul(aboves, damped), f32x4.mul(belows, deep)))
  }
  store<f64>(states, low)
  store<f64>(states, bass, 8)
}
