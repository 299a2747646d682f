/**
 * Feedback delay network in f32 SIMD: four Schroeder allpasses in a row feed eight delay lines that a Hadamard matrix mixes, each with
 * a gain and a one-pole so that every mode dies at its time. Source: Jot & Chaigne, 90th AES Convention 1991.
 * What it does with the numbers stands in core/src/signal/reverbs/networkTank.ts.
 */
import { alloc } from './memory'

const CHUNK: i32 = 64
const LINES: i32 = 8
const DIFFUSERS: i32 = 4

let lines: usize = 0
let diffusers: usize = 0
let lineMask: i32 = 0
let diffuserMask: i32 = 0
let write: i32 = 0
/**
 * i32: eight line lengths, four diffuser lengths; f32: diffusion at 48, the crossover's coefficient at 52, then gains, poles and what
 * comes to the gains below the crossover from 64 on.
 */
let settings: usize = 0
let states: usize = 0
let feed: usize = 0
/** The fed samples in f32, through the diffusers. */
let spread: usize = 0
let left: usize = 0
let right: usize = 0

/** Bytes of a line and of a diffuser, each with what stands at its start once more behind its end. */
let lineBytes: usize = 0
let diffuserBytes: usize = 0
const PAD: usize = 16

/** Sizes are powers of two above the longest line and diffuser. */
export function setup(lineSize: i32, diffuserSize: i32): void {
  lineMask = lineSize - 1
  diffuserMask = diffuserSize - 1
  lineBytes = (<usize>lineSize << 2) + PAD
  diffuserBytes = (<usize>diffuserSize << 2) + PAD
  lines = alloc(lineBytes * LINES)
  diffusers = alloc(diffuserBytes * DIFFUSERS)
  settings = alloc(160)
  states = alloc(64)
  feed = alloc(<usize>CHUNK * 8)
  spread = alloc(<usize>CHUNK * 4 + PAD)
  left = alloc(<usize>CHUNK * 8)
  right = alloc(<usize>CHUNK * 8)
}

export function settingsAt(): usize {
  return settings
}
export function feedAt(): usize {
  return feed
}
export function leftAt(): usize {
  return left
}
export function rightAt(): usize {
  return right
}

export function reset(): void {
  memory.fill(lines, 0, lineBytes * LINES)
  memory.fill(diffusers, 0, diffuserBytes * DIFFUSERS)
  memory.fill(states, 0, 64)
}

/** Four samples that stand from `place` on; the first ones stand behind the end once more. */
@inline
function read(ring: usize, place: i32, mask: i32): v128 {
  return v128.load(ring + (<usize>(place & mask) << 2))
}

/** Puts four samples from `place` on, around the end where it must be. What lies ahead of the newest sample is never read. */
@inline
function put(ring: usize, place: i32, mask: i32, samples: v128): void {
  const at = place & mask
  v128.store(ring + (<usize>at << 2), samples)
  if (at > mask - 3) for (let k = mask + 1; k < at + 4; k++) store<f32>(ring + (<usize>(k - mask - 1) << 2), load<f32>(ring + (<usize>k << 2)))
  else if (at < 4) v128.store(ring + (<usize>(mask + 1) << 2), v128.load(ring))
}

/** Four samples of four lines, turned: sample t of all four. */
@inline
function low(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 4, 1, 5)
}
@inline
function high(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 6, 3, 7)
}
@inline
function firsts(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 0, 1, 4, 5)
}
@inline
function seconds(a: v128, b: v128): v128 {
  return v128.shuffle<f32>(a, b, 2, 3, 6, 7)
}

/**
 * The diffusers, four samples a turn: all are longer than four. Turns go over the end of the chunk, into what the next one writes anew.
 */
function diffuse(frames: i32, start: i32): void {
  const g = f32x4.splat(load<f32>(settings + 48))
  for (let i = 0; i < frames; i++) store<f32>(spread + (<usize>i << 2), <f32>load<f64>(feed + (<usize>i << 3)))
  for (let d = 0; d < DIFFUSERS; d++) {
    const ring = diffusers + <usize>d * diffuserBytes
    const length = load<i32>(settings + 32 + (<usize>d << 2))
    for (let i = 0; i < frames; i += 4) {
      const at = spread + (<usize>i << 2)
      const delayed = read(ring, start + i - length, diffuserMask)
      const v = f32x4.sub(v128.load(at), f32x4.mul(g, delayed))
      put(ring, start + i, diffuserMask, v)
      v128.store(at, f32x4.add(delayed, f32x4.mul(g, v)))
    }
  }
}

/** What lies below the crossover. */
@inline
function below(state: v128, x: v128, cross: v128): v128 {
  return f32x4.add(state, f32x4.mul(cross, f32x4.sub(x, state)))
}

/** Four lines' one-poles, with a gain of their own below the crossover. */
@inline
function damped(state: v128, x: v128, lows: v128, at: usize): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(v128.load(at, 96), state), f32x4.mul(v128.load(at, 64), x)),
    f32x4.mul(v128.load(at, 128), lows),
  )
}

/** Both outputs of a sample. */
@inline
function heard(sum: v128, i: i32): void {
  const both = f32x4.mul(sum, f32x4(1, 1, -1, -1))
  const sides = f64x2.promote_low_f32x4(f32x4.add(both, v128.shuffle<f32>(both, both, 2, 3, 0, 1)))
  v128.store64_lane(left + (<usize>i << 3), sides, 0)
  v128.store64_lane(right + (<usize>i << 3), sides, 1)
}

/** Half of the matrix, and what is fed in with these signs. */
@inline
function mixed(half: v128, i: i32, signs: v128): v128 {
  const once = f32x4.add(f32x4.mul(half, f32x4(1, -1, 1, -1)), v128.shuffle<f32>(half, half, 1, 0, 3, 2))
  const twice = f32x4.add(f32x4.mul(once, f32x4(1, 1, -1, -1)), v128.shuffle<f32>(once, once, 2, 3, 0, 1))
  const fed = v128.load32_splat(spread + (<usize>i << 2))
  return f32x4.add(f32x4.mul(twice, f32x4.splat(0.35355339)), f32x4.mul(fed, signs))
}

@inline
function ringOf(k: i32): usize {
  return lines + <usize>k * lineBytes
}
@inline
function lengthOf(k: i32): i32 {
  return load<i32>(settings + (<usize>k << 2))
}

/** Every line is longer than four samples: of so many none hears another. */
export function process(frames: i32): void {
  const start = write
  diffuse(frames, start)
  let sa = v128.load(states), sb = v128.load(states, 16), la = v128.load(states, 32), lb = v128.load(states, 48)
  const cross = f32x4.splat(load<f32>(settings + 52))
  const inA = f32x4(1, 1, -1, -1), inB = f32x4(1, -1, -1, 1)
  let a0 = inA, a1 = inA, a2 = inA, a3 = inA, b0 = inB, b1 = inB, b2 = inB, b3 = inB
  for (let i = 0; i < frames; i += 4) {
    const at = start + i
    const x0 = read(ringOf(0), at - lengthOf(0), lineMask), x1 = read(ringOf(1), at - lengthOf(1), lineMask)
    const x2 = read(ringOf(2), at - lengthOf(2), lineMask), x3 = read(ringOf(3), at - lengthOf(3), lineMask)
    const x4 = read(ringOf(4), at - lengthOf(4), lineMask), x5 = read(ringOf(5), at - lengthOf(5), lineMask)
    const x6 = read(ringOf(6), at - lengthOf(6), lineMask), x7 = read(ringOf(7), at - lengthOf(7), lineMask)
    const p = low(x0, x1), q = low(x2, x3), u = high(x0, x1), v = high(x2, x3)
    const r = low(x4, x5), t = low(x6, x7), y = high(x4, x5), z = high(x6, x7)
    // written out four times, for the states must stay in locals; a chunk may end within a turn: what goes over it is neither kept nor heard
    const count = frames - i
    const xa0 = firsts(p, q), xb0 = firsts(r, t)
    la = below(la, xa0, cross)
    lb = below(lb, xb0, cross)
    sa = damped(sa, xa0, la, settings)
    sb = damped(sb, xb0, lb, settings + 16)
    heard(f32x4.add(sa, sb), i)
    a0 = mixed(f32x4.add(sa, sb), i, inA)
    b0 = mixed(f32x4.sub(sa, sb), i, inB)
    if (count > 1) {
      const xa1 = seconds(p, q), xb1 = seconds(r, t)
      la = below(la, xa1, cross)
      lb = below(lb, xb1, cross)
      sa = damped(sa, xa1, la, settings)
      sb = damped(sb, xb1, lb, settings + 16)
      heard(f32x4.add(sa, sb), i + 1)
      a1 = mixed(f32x4.add(sa, sb), i + 1, inA)
      b1 = mixed(f32x4.sub(sa, sb), i + 1, inB)
    }
    if (count > 2) {
      const xa2 = firsts(u, v), xb2 = firsts(y, z)
      la = below(la, xa2, cross)
      lb = below(lb, xb2, cross)
      sa = damped(sa, xa2, la, settings)
      sb = damped(sb, xb2, lb, settings + 16)
      heard(f32x4.add(sa, sb), i + 2)
      a2 = mixed(f32x4.add(sa, sb), i + 2, inA)
      b2 = mixed(f32x4.sub(sa, sb), i + 2, inB)
    }
    if (count > 3) {
      const xa3 = seconds(u, v), xb3 = seconds(y, z)
      la = below(la, xa3, cross)
      lb = below(lb, xb3, cross)
      sa = damped(sa, xa3, la, settings)
      sb = damped(sb, xb3, lb, settings + 16)
      heard(f32x4.add(sa, sb), i + 3)
      a3 = mixed(f32x4.add(sa, sb), i + 3, inA)
      b3 = mixed(f32x4.sub(sa, sb), i + 3, inB)
    }
    const la0 = low(a0, a1), la1 = low(a2, a3), ha0 = high(a0, a1), ha1 = high(a2, a3)
    put(ringOf(0), at, lineMask, firsts(la0, la1))
    put(ringOf(1), at, lineMask, seconds(la0, la1))
    put(ringOf(2), at, lineMask, firsts(ha0, ha1))
    put(ringOf(3), at, lineMask, seconds(ha0, ha1))
    const lb0 = low(b0, b1), lb1 = low(b2, b3), hb0 = high(b0, b1), hb1 = high(b2, b3)
    put(ringOf(4), at, lineMask, firsts(lb0, lb1))
    put(ringOf(5), at, lineMask, seconds(lb0, lb1))
    put(ringOf(6), at, lineMask, firsts(hb0, hb1))
    put(ringOf(7), at, lineMask, seconds(hb0, hb1))
  }
  v128.store(states, sa)
  v128.store(states, sb, 16)
  v128.store(states, la, 32)
  v128.store(states, lb, 48)
  write = (start + frames) & 0x3fffffff
}
