/**
 * A second-order section in transposed direct form II: the state and what comes out of it in f64, what four samples add in f32. Of four
 * samples the state is needed before the first only, so that the recursion runs once in four. In f32 the state's share would leave a
 * floor of −144 dB under what a steep cut takes away, which a boost behind it lifts again. The plain form stands in core/src/signal/filters/biquad.ts with the
 * designs; a test holds the two together.
 */
import { alloc, BYTES } from '../memory'

/** One section on up to two channels. */
@unmanaged
export class Biquad {
  b0: f64
  b1: f64
  b2: f64
  a1: f64
  a2: f64
  /** Steps a sample while it glides. */
  b0Step: f64
  b1Step: f64
  b2Step: f64
  a1Step: f64
  a2Step: f64
  /** z1 and z2 of both channels. */
  l1: f64
  l2: f64
  r1: f64
  r2: f64
  /** Vectors of the design for four samples at a time: see {@link biquadSettle}. */
  vectors: usize
}

export function biquadCreate(): Biquad {
  const self = changetype<Biquad>(alloc(offsetof<Biquad>()))
  self.vectors = alloc(13 * 16)
  return self
}

export function biquadReset(self: Biquad): void {
  self.l1 = self.l2 = self.r1 = self.r2 = 0
}

/**
 * Works out what four samples do: out of the state (z1, z2) into the four outputs, out of each input into the outputs behind it, and into the
 * state that follows. With y = b0·x + z1, z1' = (b1 − a1·b0)·x − a1·z1 + z2 and z2' = (b2 − a2·b0)·x − a2·z1.
 */
export function biquadSettle(self: Biquad): void {
  const b0 = self.b0, a1 = self.a1, a2 = self.a2
  const u = self.b1 - a1 * b0, w = self.b2 - a2 * b0
  // how z1 of the n-th sample to come depends on z1 and z2 now
  let p = 1.0, q = 0.0 // rows of the power: z1 by z1, z1 by z2
  let r = 0.0, s = 1.0 // z2 by z1, z2 by z2
  const v = self.vectors
  for (let n: usize = 0; n < 4; n++) {
    store<f64>(v + (n << 3), p)
    store<f64>(v + (n << 3), q, 32)
    // an input reaches the n-th output behind it, and the state behind four, 3 − n back
    store<f32>(v + (n << 2), <f32>(p * u + q * w), 64)
    store<f32>(v + ((3 - n) << 4), <f32>(p * u + q * w), 80)
    store<f32>(v + ((3 - n) << 4), <f32>(r * u + s * w), 84)
    const np = p * -a1 + q * -a2, nr = r * -a1 + s * -a2
    q = p
    s = r
    p = np
    r = nr
  }
  // z1 and z2 behind four samples by what they were
  store<f64>(v, p, 144)
  store<f64>(v, r, 152)
  store<f64>(v, q, 160)
  store<f64>(v, s, 168)
}

@inline
function channel(v: usize, data: usize, b0: v128, at: usize): void {
  const ofOne = v128.load(v), ofOne2 = v128.load(v, 16), ofTwo = v128.load(v, 32), ofTwo2 = v128.load(v, 48)
  const impulse = v128.load(v, 64), zero = f32x4.splat(0)
  // one sample later each
  const h0 = v128.shuffle<f32>(zero, impulse, 3, 4, 5, 6), h1 = v128.shuffle<f32>(zero, impulse, 2, 3, 4, 5),
    h2 = v128.shuffle<f32>(zero, impulse, 1, 2, 3, 4)
  const in0 = v128.load(v, 80), in1 = v128.load(v, 96), in2 = v128.load(v, 112), in3 = v128.load(v, 128)
  const byOne = v128.load(v, 144), byTwo = v128.load(v, 160)
  let z = v128.load(at)
  for (let p = data, end = data + BYTES; p < end; p += 16) {
    const x = v128.load(p)
    const x0 = v128.shuffle<f32>(x, x, 0, 0, 0, 0), x1 = v128.shuffle<f32>(x, x, 1, 1, 1, 1), x2 = v128.shuffle<f32>(x, x, 2, 2, 2, 2),
      x3 = v128.shuffle<f32>(x, x, 3, 3, 3, 3)
    const z1 = v128.shuffle<f64>(z, z, 0, 0), z2 = v128.shuffle<f64>(z, z, 1, 1)
    const held01 = f32x4.demote_f64x2_zero(f64x2.add(f64x2.mul(ofOne, z1), f64x2.mul(ofTwo, z2)))
    const held23 = f32x4.demote_f64x2_zero(f64x2.add(f64x2.mul(ofOne2, z1), f64x2.mul(ofTwo2, z2)))
    const held = v128.shuffle<f32>(held01, held23, 0, 1, 4, 5)
    const fresh = f32x4.add(f32x4.add(f32x4.mul(b0, x), f32x4.mul(h0, x0)), f32x4.add(f32x4.mul(h1, x1), f32x4.mul(h2, x2)))
    v128.store(p, f32x4.add(held, fresh))
    const into = f32x4.add(f32x4.add(f32x4.mul(in0, x0), f32x4.mul(in1, x1)), f32x4.add(f32x4.mul(in2, x2), f32x4.mul(in3, x3)))
    const fed = f64x2.add(f64x2.promote_low_f32x4(into), f64x2.mul(byOne, z1))
    z = f64x2.add(fed, f64x2.mul(byTwo, z2))
  }
  v128.store(at, z)
}

/** A chunk in place; `right` 0: mono. */
export function biquadProcess(self: Biquad, left: usize, right: usize): void {
  const b0 = f32x4.splat(<f32>self.b0)
  const states = changetype<usize>(self) + offsetof<Biquad>('l1')
  channel(self.vectors, left, b0, states)
  if (right != 0) channel(self.vectors, right, b0, states + 16)
}

/** The same while it glides to another design, sample by sample. */
export function biquadGlide(self: Biquad, left: usize, right: usize): void {
  const states = changetype<usize>(self) + offsetof<Biquad>('l1')
  gliding(self, left, states)
  if (right != 0) gliding(self, right, states + 16)
}

function gliding(self: Biquad, data: usize, at: usize): void {
  let z1 = load<f64>(at), z2 = load<f64>(at, 8)
  let k: f64 = 0
  for (let p = data, end = data + BYTES; p < end; p += 4) {
    const x = <f64>load<f32>(p)
    const y = (self.b0 + k * self.b0Step) * x + z1
    z1 = (self.b1 + k * self.b1Step) * x - (self.a1 + k * self.a1Step) * y + z2
    z2 = (self.b2 + k * self.b2Step) * x - (self.a2 + k * self.a2Step) * y
    store<f32>(p, <f32>y)
    k += 1
  }
  store<f64>(at, z1)
  store<f64>(at, z2, 8)
}
