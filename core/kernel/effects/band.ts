/**
 * A swept state-variable band-pass beside the dry sound, both sides in f64 lanes, for core/src/signal/filters/filters.ts with the sources.
 */
import { alloc, BYTES } from '../memory'

@unmanaged
export class Band {
  // written by the host, value and step: tangent of the centre, 1/q, what goes on dry and what of the band
  g: f64
  gStep: f64
  k: f64
  kStep: f64
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  // what it remembers, left and right
  first: f64
  firstRight: f64
  second: f64
  secondRight: f64
}

export function bandCreate(): Band {
  return changetype<Band>(alloc(offsetof<Band>()))
}

export function bandReset(self: Band): void {
  self.first = self.firstRight = self.second = self.secondRight = 0
}

@inline
function ramp2(value: v128, step: v128, at: v128): v128 {
  return f64x2.add(value, f64x2.mul(at, step))
}

/** A chunk in place; k · band-pass has 0 dB at its centre. */
export function bandProcess(self: Band, left: usize, right: usize): void {
  const at = changetype<usize>(self), ones = f64x2.splat(1)
  const gStep = f64x2.splat(self.gStep), kStep = f64x2.splat(self.kStep), dryStep = f64x2.splat(self.dryStep), wetStep = f64x2.splat(self.wetStep)
  const g0 = f64x2.splat(self.g), k0 = f64x2.splat(self.k), dry = f64x2.splat(self.dry), wet = f64x2.splat(self.wet)
  let s1 = v128.load(at, offsetof<Band>('first')), s2 = v128.load(at, offsetof<Band>('second'))
  const beside = right != 0 ? right : left
  let frame = f64x2.splat(0)
  for (let i: usize = 0; i < BYTES; i += 4) {
    const g = ramp2(g0, gStep, frame), k = ramp2(k0, kStep, frame)
    const x = f64x2(<f64>load<f32>(left + i), <f64>load<f32>(beside + i))
    const band = f64x2.div(f64x2.add(s1, f64x2.mul(g, f64x2.sub(x, s2))), f64x2.add(ones, f64x2.mul(g, f64x2.add(g, k))))
    const low = f64x2.add(s2, f64x2.mul(g, band))
    s1 = f64x2.sub(f64x2.add(band, band), s1)
    s2 = f64x2.sub(f64x2.add(low, low), s2)
    const voice = f64x2.promote_low_f32x4(f32x4.demote_f64x2_zero(f64x2.mul(k, band)))
    const y = f64x2.add(f64x2.mul(x, ramp2(dry, dryStep, frame)), f64x2.mul(voice, ramp2(wet, wetStep, frame)))
    store<f32>(left + i, <f32>f64x2.extract_lane(y, 0))
    if (right != 0) store<f32>(right + i, <f32>f64x2.extract_lane(y, 1))
    frame = f64x2.add(frame, ones)
  }
  self.first = f64x2.extract_lane(s1, 0)
  self.second = f64x2.extract_lane(s2, 0)
  if (right == 0) return
  self.firstRight = f64x2.extract_lane(s1, 1)
  self.secondRight = f64x2.extract_lane(s2, 1)
}
