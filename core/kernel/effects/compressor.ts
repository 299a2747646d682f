/**
 * A feed-forward compressor, for core/src/signal/dynamics/compressor.ts with the sources: detector and smoothing sample by sample in f64,
 * logarithm, curve and gain two samples at a time. Series that end below 1e-11 stand in for the logarithm and the power.
 */
import { alloc, BYTES, CHUNK } from '../memory'

/** In the order of NUMBERS in compressor.ts. */
@unmanaged
export class Compressor {
  threshold: f64
  /** 1 − 1/ratio. */
  slope: f64
  knee: f64
  attack: f64
  release: f64
  slow: f64
  memoryStep: f64
  squareStep: f64
  heldStep: f64
  holdFrames: f64
  dry: f64
  dryStep: f64
  wet: f64
  wetStep: f64
  // what it remembers
  reduction: f64
  memory: f64
  square: f64
  held: f64
  holding: f64
}

/** Levels, then reductions of the chunk that is on its way. */
const levels = alloc(<usize>CHUNK << 3)

export function compressorCreate(): Compressor {
  return changetype<Compressor>(alloc(offsetof<Compressor>()))
}

/** A series from its far end: one more coefficient. */
@inline
function onward(sum: v128, x: v128, coefficient: f64): v128 {
  return f64x2.add(f64x2.mul(sum, x), f64x2.splat(coefficient))
}

/** Natural logarithm of two positive numbers: exponent and twice the area tangent of the mantissa about 1. */
@inline
function logarithm(x: v128): v128 {
  const ones = f64x2.splat(1)
  let m = v128.or(v128.and(x, i64x2.splat(0xfffffffffffff)), ones)
  const magic = f64x2.splat(4503599627370496)
  let e = f64x2.sub(v128.or(i64x2.shr_u(x, 52), magic), f64x2.splat(4503599627370496 + 1023))
  const high = f64x2.gt(m, f64x2.splat(1.4142135623730951))
  m = v128.bitselect(f64x2.mul(m, f64x2.splat(0.5)), m, high)
  e = f64x2.add(e, v128.and(high, ones))
  const s = f64x2.div(f64x2.sub(m, ones), f64x2.add(m, ones)), q = f64x2.mul(s, s)
  let sum = f64x2.splat(1.0 / 13)
  sum = onward(sum, q, 1.0 / 11)
  sum = onward(sum, q, 1.0 / 9)
  sum = onward(sum, q, 1.0 / 7)
  sum = onward(sum, q, 1.0 / 5)
  sum = onward(sum, q, 1.0 / 3)
  sum = onward(sum, q, 1)
  return f64x2.add(f64x2.mul(e, f64x2.splat(0.6931471805599453)), f64x2.mul(f64x2.add(s, s), sum))
}

/** e to the power of two numbers between −700 and 700. */
@inline
function power(x: v128): v128 {
  const turns = f64x2.nearest(f64x2.mul(x, f64x2.splat(1.4426950408889634)))
  const g = f64x2.sub(x, f64x2.mul(turns, f64x2.splat(0.6931471805599453)))
  let sum = f64x2.splat(1.0 / 362880)
  sum = onward(sum, g, 1.0 / 40320)
  sum = onward(sum, g, 1.0 / 5040)
  sum = onward(sum, g, 1.0 / 720)
  sum = onward(sum, g, 1.0 / 120)
  sum = onward(sum, g, 1.0 / 24)
  sum = onward(sum, g, 1.0 / 6)
  sum = onward(sum, g, 0.5)
  sum = onward(sum, g, 1)
  sum = onward(sum, g, 1)
  // the exponent's place in a number whose lowest bits are whole
  const bits = i64x2.shl(f64x2.add(turns, f64x2.splat(6755399441055744 + 1023)), 52)
  return f64x2.mul(sum, bits)
}

/** dB of a natural logarithm. */
const LOG: f64 = 8.685889638065037

/** A chunk in place. @param detector 0 peak, 1 mean square, 2 peak with a second, slower half of the release */
export function compressorProcess(self: Compressor, left: usize, right: usize, detector: i32): void {
  detect(self, left, right, detector)
  curve(self, detector)
  smooth(self, detector)
  apply(self, left, right)
}

/** What the level is told by: the mean square, or the held peak. */
function detect(self: Compressor, left: usize, right: usize, detector: i32): void {
  let square = self.square, held = self.held, holding = self.holding
  const squareStep = self.squareStep, heldStep = self.heldStep, holdFrames = self.holdFrames
  for (let i: usize = 0; i < <usize>CHUNK; i++) {
    let magnitude = abs(<f64>load<f32>(left + (i << 2)))
    if (right != 0) magnitude = max(magnitude, abs(<f64>load<f32>(right + (i << 2))))
    if (detector == 1) {
      square += squareStep * (magnitude * magnitude - square)
      store<f64>(levels + (i << 3), square + 1e-12)
    } else {
      if (magnitude >= held) held = magnitude, holding = holdFrames
      else if (holding > 0) holding -= 1
      else held += heldStep * (magnitude - held)
      store<f64>(levels + (i << 3), held + 1e-6)
    }
  }
  self.square = square
  self.held = held
  self.holding = holding
}

/** Levels to the reductions that the static curve wants, dB. */
function curve(self: Compressor, detector: i32): void {
  const scale = f64x2.splat(detector == 1 ? 0.5 * LOG : LOG), threshold = f64x2.splat(self.threshold), slope = f64x2.splat(self.slope)
  const half = f64x2.splat(0.5 * self.knee), bend = f64x2.splat(self.knee > 0 ? self.slope / (2 * self.knee) : 0)
  for (let p = levels, end = p + (<usize>CHUNK << 3); p < end; p += 16) {
    const over = f64x2.sub(f64x2.mul(scale, logarithm(v128.load(p))), threshold)
    const into = f64x2.add(over, half)
    const within = f64x2.mul(bend, f64x2.mul(into, into)), above = f64x2.mul(slope, over)
    v128.store(p, v128.and(v128.bitselect(above, within, f64x2.gt(over, half)), f64x2.gt(into, f64x2.splat(0))))
  }
}

/** The reduction follows what is wanted of it. */
function smooth(self: Compressor, detector: i32): void {
  const attack = self.attack, release = self.release, slow = self.slow, memoryStep = self.memoryStep
  let reduction = self.reduction, memory = self.memory
  for (let p = levels, end = p + (<usize>CHUNK << 3); p < end; p += 8) {
    const wanted = load<f64>(p)
    // the photocell that was lit long darkens slowly
    const rate = wanted > reduction ? attack : detector == 2 ? release + (slow - release) * min(1.0, memory / 8) : release
    reduction = rate * reduction + (1 - rate) * wanted
    memory += memoryStep * (reduction - memory)
    store<f64>(p, reduction)
  }
  // far below hearing: what decays on would end among denormal numbers
  self.reduction = reduction < 1e-30 ? 0 : reduction
  self.memory = memory < 1e-30 ? 0 : memory
}

function apply(self: Compressor, left: usize, right: usize): void {
  const dry = f64x2.splat(self.dry), dryStep = f64x2.splat(self.dryStep), wet = f64x2.splat(self.wet), wetStep = f64x2.splat(self.wetStep)
  const neper = f64x2.splat(-0.1151292546497023), two = f64x2.splat(2)
  let at = f64x2(0, 1)
  for (let i: usize = 0, p = levels; i < BYTES; i += 8, p += 16) {
    const gain = f64x2.add(
      f64x2.add(dry, f64x2.mul(at, dryStep)),
      f64x2.mul(f64x2.add(wet, f64x2.mul(at, wetStep)), power(f64x2.mul(neper, v128.load(p)))),
    )
    turned(left + i, gain)
    if (right != 0) turned(right + i, gain)
    at = f64x2.add(at, two)
  }
}

@inline
function turned(at: usize, gain: v128): void {
  v128.store64_lane(at, f32x4.demote_f64x2_zero(f64x2.mul(f64x2.promote_low_f32x4(v128.load64_zero(at)), gain)), 0)
}
