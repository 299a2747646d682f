/** Kernel of ranking blends, f32 SIMD: 64 bands of 8 points each, stored point by point so that four bands lie side by side. */
import { alloc } from './memory'

const BANDS: i32 = 64
const BAND_BYTES: usize = 256
const POINT_BYTES: usize = 2048

let wanted: usize = 0
let bands: usize = 0
let re: usize = 0
let im: usize = 0
let turns: usize = 0
let mixes: usize = 0
let product: usize = 0
let cross: usize = 0
let result: usize = 0
let lagCount: i32 = 0
let mixCount: i32 = 0

/** Room for so many candidates, lags and mixes (share of the second's power, share of the product). */
export function setup(count: i32, lags: i32, mixesOf: i32): void {
  lagCount = lags
  mixCount = mixesOf
  wanted = alloc(BAND_BYTES)
  bands = alloc(<usize>count * BAND_BYTES)
  re = alloc(<usize>count * POINT_BYTES)
  im = alloc(<usize>count * POINT_BYTES)
  turns = alloc(<usize>lags * 2 * POINT_BYTES)
  mixes = alloc(<usize>mixesOf * 8)
  product = alloc(2 * POINT_BYTES)
  cross = alloc(BAND_BYTES)
  result = alloc(<usize>lags * 8)
}

export function wantedAt(): usize {
  return wanted
}
export function bandsAt(): usize {
  return bands
}
export function reAt(): usize {
  return re
}
export function imAt(): usize {
  return im
}
export function turnsAt(): usize {
  return turns
}
export function mixesAt(): usize {
  return mixes
}
export function resultAt(): usize {
  return result
}

/** Binary logarithm of four numbers above nought, within 0.0001 (0.0003 dB): exponent, and a Chebyshev fit of the mantissa. */
function octaves(x: v128): v128 {
  const whole = f32x4.convert_i32x4_s(i32x4.sub(i32x4.shr_u(x, 23), i32x4.splat(127)))
  const m = v128.or(v128.and(x, i32x4.splat(0x007fffff)), i32x4.splat(0x3f800000))
  let p = f32x4.add(f32x4.mul(m, f32x4.splat(-0.08001088)), f32x4.splat(0.63551112))
  p = f32x4.add(f32x4.mul(m, p), f32x4.splat(-2.09940228))
  p = f32x4.add(f32x4.mul(m, p), f32x4.splat(4.04961689))
  p = f32x4.add(f32x4.mul(m, p), f32x4.splat(-2.50561466))
  return f32x4.add(whole, p)
}

/** dB of one octave of power, squared. */
const SQUARED_DB: f32 = 9.061905

function sumOf(x: v128): f32 {
  return f32x4.extract_lane(x, 0) + f32x4.extract_lane(x, 1) + f32x4.extract_lane(x, 2) + f32x4.extract_lane(x, 3)
}

/** Mean square deviation of first + share · second + both · product from what is wanted, at equal level. */
function deviation(a: usize, b: usize, share: v128, both: v128): f32 {
  const least = f32x4.splat(1e-12)
  let sum = f32x4.splat(0)
  let square = f32x4.splat(0)
  for (let o: usize = 0; o < BAND_BYTES; o += 16) {
    let p = f32x4.add(v128.load(a + o), f32x4.mul(v128.load(b + o), share))
    p = f32x4.max(f32x4.add(p, f32x4.mul(v128.load(cross + o), both)), least)
    const off = f32x4.sub(octaves(p), v128.load(wanted + o))
    sum = f32x4.add(sum, off)
    square = f32x4.add(square, f32x4.mul(off, off))
  }
  const mean = sumOf(sum) / <f32>BANDS
  return SQUARED_DB * (sumOf(square) / <f32>BANDS - mean * mean)
}

/** Of one candidate alone. */
export function alone(first: i32): f32 {
  const at = bands + <usize>first * BAND_BYTES
  return deviation(at, at, f32x4.splat(0), f32x4.splat(0))
}

let first: usize = 0
let second: usize = 0

/** Takes a pair: the products of both at each point. */
export function take(a: i32, b: i32): void {
  const ar = re + <usize>a * POINT_BYTES
  const ai = im + <usize>a * POINT_BYTES
  const br = re + <usize>b * POINT_BYTES
  const bi = im + <usize>b * POINT_BYTES
  first = bands + <usize>a * BAND_BYTES
  second = bands + <usize>b * BAND_BYTES
  for (let o: usize = 0; o < POINT_BYTES; o += 16) {
    const p = v128.load(ar + o)
    const q = v128.load(ai + o)
    const r = v128.load(br + o)
    const s = v128.load(bi + o)
    v128.store(product + o, f32x4.add(f32x4.mul(p, r), f32x4.mul(q, s)))
    v128.store(product + POINT_BYTES + o, f32x4.sub(f32x4.mul(q, r), f32x4.mul(p, s)))
  }
}

/** The pair's product in each band at a lag. */
function turnTo(lag: i32): void {
  const cos = turns + <usize>lag * 2 * POINT_BYTES
  for (let band: usize = 0; band < BAND_BYTES; band += 16) {
    let sum = f32x4.splat(0)
    for (let o: usize = band; o < POINT_BYTES; o += BAND_BYTES) {
      sum = f32x4.add(sum, f32x4.mul(v128.load(product + o), v128.load(cos + o)))
      sum = f32x4.add(sum, f32x4.mul(v128.load(product + POINT_BYTES + o), v128.load(cos + POINT_BYTES + o)))
    }
    v128.store(cross + band, sum)
  }
}

/** Mean square deviation of the pair at a lag and a mix. */
export function blend(lag: i32, share: f32, both: f32): f32 {
  turnTo(lag)
  return deviation(first, second, f32x4.splat(share), f32x4.splat(both))
}

/** The best mix of the pair at every so many lags: its mean square deviation and its place, lag after lag, stand in the result. */
export function sweep(stride: i32): void {
  let at = result
  for (let lag: i32 = 0; lag < lagCount; lag += stride) {
    turnTo(lag)
    let best: f32 = Infinity
    let place: i32 = 0
    for (let mix: i32 = 0; mix < mixCount; mix++) {
      const from = mixes + (<usize>mix << 3)
      const found = deviation(first, second, v128.load32_splat(from), v128.load32_splat(from + 4))
      if (found < best) {
        best = found
        place = mix
      }
    }
    store<f32>(at, best)
    store<i32>(at + 4, place)
    at += 8
  }
}
