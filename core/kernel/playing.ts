/** Kernel of plucked strings and what stands behind them, f64: decaying sines, open strings that answer, the doubled rate, the coil, noise. */
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

/** Of a pair of resonators: a1, a2, gain, and what stood one and two frames before; f64, two of each. */
const PAIR: usize = 5 * 16
/** Pairs of a string, whose first three and second three resonators lie side by side. */
const PAIRS: usize = 3
const STRINGS: usize = 6
const resonators = alloc(PAIR * PAIRS * STRINGS)
const heard = alloc(MOST * 4)

/** Resonators, a string after the other, a pair after the other. */
export function resonatorsAt(): usize {
  return resonators
}

/** Adds to `count` frames what the open strings answer, each y[n] = a1·y[n−1] − a2·y[n−2] + gain·x[n]. */
export function answer(count: i32): void {
  memory.copy(heard, frames, (<usize>count) << 2)
  for (let string: usize = 0; string < STRINGS; string++) answerOf(resonators + string * PAIRS * PAIR, count)
}

function answerOf(first: usize, count: i32): void {
  const second = first + PAIR, third = second + PAIR
  const a = v128.load(first), b = v128.load(first, 16), g = v128.load(first, 32)
  const c = v128.load(second), d = v128.load(second, 16), h = v128.load(second, 32)
  const e = v128.load(third), f = v128.load(third, 16), i = v128.load(third, 32)
  let p1 = v128.load(first, 48), p2 = v128.load(first, 64), q1 = v128.load(second, 48), q2 = v128.load(second, 64)
  let r1 = v128.load(third, 48), r2 = v128.load(third, 64)
  const tiny = f64x2.splat(1e-20)
  let from = heard
  for (let to = frames, end = frames + ((<usize>count) << 2); to < end; to += 4) {
    const x = f64x2.splat(<f64>load<f32>(from))
    const y0 = f64x2.add(f64x2.add(f64x2.sub(f64x2.mul(a, p1), f64x2.mul(b, p2)), f64x2.mul(g, x)), tiny)
    const y1 = f64x2.add(f64x2.add(f64x2.sub(f64x2.mul(c, q1), f64x2.mul(d, q2)), f64x2.mul(h, x)), tiny)
    const y2 = f64x2.add(f64x2.add(f64x2.sub(f64x2.mul(e, r1), f64x2.mul(f, r2)), f64x2.mul(i, x)), tiny)
    p2 = p1
    p1 = y0
    q2 = q1
    q1 = y1
    r2 = r1
    r1 = y2
    const sum = f64x2.add(f64x2.add(y0, y1), y2)
    const half = <f32>(<f64>load<f32>(to) + f64x2.extract_lane(sum, 0))
    store<f32>(to, <f32>(<f64>half + f64x2.extract_lane(sum, 1)))
    from += 4
  }
  v128.store(first, p1, 48)
  v128.store(first, p2, 64)
  v128.store(second, q1, 48)
  v128.store(second, q2, 64)
  v128.store(third, r1, 48)
  v128.store(third, r2, 64)
}

/** Frames that the doubling looks to either side. */
const REACH: usize = 24
const slow = alloc((MOST / 2 + 2 * REACH) * 4)
const taps = alloc(REACH * 8)

/** Where the first of the frames of the lower rate stands, behind {@link REACH} that come before it; as many follow the last. */
export function slowAt(): usize {
  return slow + REACH * 4
}

/** Half of the doubling's taps, from the middle on, f64. */
export function tapsAt(): usize {
  return taps
}

/** The same sound at twice the rate: `count` frames of the lower one, a multiple of four. */
export function double(count: i32): void {
  let out = frames
  for (let at = slow + REACH * 4, end = at + ((<usize>count) << 2); at < end; at += 16) {
    let early = f64x2.splat(0), late = early
    let before = at, after = at + 4
    for (let tap = taps, last = taps + REACH * 8; tap < last; tap += 8) {
      const t = v128.load64_splat(tap), x = v128.load(before), y = v128.load(after)
      const X = v128.shuffle<i64>(x, x, 1, 1), Y = v128.shuffle<i64>(y, y, 1, 1)
      early = f64x2.add(early, f64x2.mul(t, f64x2.add(f64x2.promote_low_f32x4(x), f64x2.promote_low_f32x4(y))))
      late = f64x2.add(late, f64x2.mul(t, f64x2.add(f64x2.promote_low_f32x4(X), f64x2.promote_low_f32x4(Y))))
      before -= 4
      after += 4
    }
    const between = v128.shuffle<i64>(f32x4.demote_f64x2_zero(early), f32x4.demote_f64x2_zero(late), 0, 2), whole = v128.load(at)
    v128.store(out, v128.shuffle<f32>(whole, between, 0, 4, 1, 5))
    v128.store(out, v128.shuffle<f32>(whole, between, 2, 6, 3, 7), 16)
    out += 32
  }
}

let z1: f64 = 0
let z2: f64 = 0

/** The coil's state at rest. */
export function calm(): void {
  z1 = z2 = 0
}

/** A section of second order over `count` frames and then a level; goes on from where it ended. */
export function coil(count: i32, b0: f64, b1: f64, b2: f64, a1: f64, a2: f64, level: f64): void {
  let u = z1, v = z2
  for (let p = frames, end = frames + ((<usize>count) << 2); p < end; p += 4) {
    const x = <f64>load<f32>(p)
    const y = b0 * x + u
    u = b1 * x - a1 * y + v
    v = b2 * x - a2 * y
    store<f32>(p, <f32>(<f64>(<f32>y) * level))
  }
  z1 = u
  z2 = v
}

let state: u32 = 0
const wave = alloc(9 * 8)

/** Of the noise: sine and cosine of the mains now and their turn a frame, hum, hiss, and the three shares of the hum; f64. */
export function noiseAt(): usize {
  return wave
}
export function seed(now: u32): void {
  state = now
}
/** What the next {@link seed} goes on from. */
export function seedOf(): u32 {
  return state
}

/** An even deviate from 0 to 1 (mulberry32), as Deviates in core/src/riffs/playing.ts. */
@inline
function deviate(): f64 {
  state += 0x6d2b79f5
  let t: u32 = (state ^ (state >> 15)) * (state | 1)
  t = (t + (t ^ (t >> 7)) * (t | 61)) ^ t
  return <f64>(t ^ (t >> 14)) / 4294967296
}

/** Adds hum and hiss to `count` frames. */
export function noise(count: i32): void {
  let sin = load<f64>(wave), cos = load<f64>(wave, 8)
  const turnSin = load<f64>(wave, 16), turnCos = load<f64>(wave, 24), hum = load<f64>(wave, 32), hiss = load<f64>(wave, 40)
  const first = load<f64>(wave, 48), second = load<f64>(wave, 56), fourth = load<f64>(wave, 64)
  for (let p = frames, end = frames + ((<usize>count) << 2); p < end; p += 4) {
    const twice = 2 * sin * cos
    const swing = first * sin + second * twice + fourth * 2 * twice * (1 - 2 * sin * sin)
    const a = deviate(), b = deviate()
    store<f32>(p, <f32>(<f64>load<f32>(p) + (hiss * (a + b - 1) + hum * swing)))
    const next = sin * turnCos + cos * turnSin
    cos = cos * turnCos - sin * turnSin
    sin = next
  }
  store<f64>(wave, sin)
  store<f64>(wave, cos, 8)
}
