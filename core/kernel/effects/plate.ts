/** What damps the plate's tank, for core/src/signal/reverbs/plateTank.ts with the source. */
import { decay, settled } from '../filters'
import { BYTES } from '../memory'

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
