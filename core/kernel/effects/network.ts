/**
 * Feedback delay network, f32 SIMD: four Schroeder allpasses in a row feed eight delay lines that a Hadamard matrix mixes, each with
 * a gain and a one-pole so that every mode dies at its time. Source: Jot & Chaigne, 90th AES Convention 1991.
 * What it does with the numbers stands in core/src/signal/reverbs/networkTank.ts.
 */
import { alloc, CHUNK, copied } from '../memory'

const LINES: i32 = 8
const DIFFUSERS: i32 = 4

/** Each ring has what stands at its start once more behind its end. */
const PAD: usize = 16

/** The fed samples, through the diffusers. */
const spread = alloc(<usize>CHUNK * 4 + PAD)

/** One network. */
@unmanaged
export class Network {
  lines: usize
  diffusers: usize
  lineMask: i32
  diffuserMask: i32
  lineBytes: usize
  diffuserBytes: usize
  write: i32
  /**
   * i32: eight line lengths, four diffuser lengths; f32: diffusion at 48, the crossover's coefficient at 52, then gains, poles and what
   * comes to the gains below the crossover from 64 on.
   */
  settings: usize
  states: usize
}

/** Sizes are powers of two above the longest line and diffuser, each in samples. */
export function networkCreate(lineSize: i32, diffuserSize: i32): Network {
  const self = changetype<Network>(alloc(offsetof<Network>()))
  self.lineMask = lineSize - 1
  self.diffuserMask = diffuserSize - 1
  self.lineBytes = (<usize>lineSize << 2) + PAD
  self.diffuserBytes = (<usize>diffuserSize << 2) + PAD
  self.lines = alloc(self.lineBytes * LINES)
  self.diffusers = alloc(self.diffuserBytes * DIFFUSERS)
  self.settings = alloc(160)
  self.states = alloc(64)
  return self
}
export function networkSettingsAt(self: Network): usize {
  return self.settings
}

export function networkReset(self: Network): void {
  memory.fill(self.lines, 0, self.lineBytes * LINES)
  memory.fill(self.diffusers, 0, self.diffuserBytes * DIFFUSERS)
  memory.fill(self.states, 0, 64)
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

/** The diffusers, four samples a turn: all are longer than four. */
function diffuse(self: Network, feed: usize): void {
  const start = self.write, mask = self.diffuserMask
  const g = f32x4.splat(load<f32>(self.settings + 48))
  copied(spread, feed)
  for (let d = 0; d < DIFFUSERS; d++) {
    const ring = self.diffusers + <usize>d * self.diffuserBytes
    const length = load<i32>(self.settings + 32 + (<usize>d << 2))
    for (let i = 0; i < CHUNK; i += 4) {
      const at = spread + (<usize>i << 2)
      const delayed = read(ring, start + i - length, mask)
      const v = f32x4.sub(v128.load(at), f32x4.mul(g, delayed))
      put(ring, start + i, mask, v)
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

/** Both outputs of a sample, as left, right. */
@inline
function heard(sum: v128): v128 {
  const both = f32x4.mul(sum, f32x4(1, 1, -1, -1))
  return f32x4.add(both, v128.shuffle<f32>(both, both, 2, 3, 0, 1))
}

/** Half of the matrix, and what is fed in with these signs. */
@inline
function mixed(half: v128, i: i32, signs: v128): v128 {
  const once = f32x4.add(f32x4.mul(half, f32x4(1, -1, 1, -1)), v128.shuffle<f32>(half, half, 1, 0, 3, 2))
  const twice = f32x4.add(f32x4.mul(once, f32x4(1, 1, -1, -1)), v128.shuffle<f32>(once, once, 2, 3, 0, 1))
  const fed = v128.load32_splat(spread + (<usize>i << 2))
  return f32x4.add(f32x4.mul(twice, f32x4.splat(0.35355339)), f32x4.mul(fed, signs))
}

/**
 * A chunk of `feed` to both sides, times `level`. Every line is longer than four samples: of so many none hears another. Written out
 * four times, for the states must stay in locals.
 */
export function networkProcess(self: Network, feed: usize, left: usize, right: usize, level: f32): void {
  const start = self.write, mask = self.lineMask, settings = self.settings, states = self.states
  diffuse(self, feed)
  const bytes = self.lineBytes
  const r0 = self.lines, r1 = r0 + bytes, r2 = r1 + bytes, r3 = r2 + bytes, r4 = r3 + bytes, r5 = r4 + bytes, r6 = r5 + bytes, r7 = r6 + bytes
  const n0 = load<i32>(settings), n1 = load<i32>(settings, 4), n2 = load<i32>(settings, 8), n3 = load<i32>(settings, 12)
  const n4 = load<i32>(settings, 16), n5 = load<i32>(settings, 20), n6 = load<i32>(settings, 24), n7 = load<i32>(settings, 28)
  let sa = v128.load(states), sb = v128.load(states, 16), la = v128.load(states, 32), lb = v128.load(states, 48)
  const cross = f32x4.splat(load<f32>(settings + 52)), loud = f32x4.splat(level)
  const inA = f32x4(1, 1, -1, -1), inB = f32x4(1, -1, -1, 1)
  for (let i = 0; i < CHUNK; i += 4) {
    const at = start + i
    const x0 = read(r0, at - n0, mask), x1 = read(r1, at - n1, mask), x2 = read(r2, at - n2, mask), x3 = read(r3, at - n3, mask)
    const x4 = read(r4, at - n4, mask), x5 = read(r5, at - n5, mask), x6 = read(r6, at - n6, mask), x7 = read(r7, at - n7, mask)
    const p = low(x0, x1), q = low(x2, x3), u = high(x0, x1), v = high(x2, x3)
    const r = low(x4, x5), t = low(x6, x7), y = high(x4, x5), z = high(x6, x7)
    const xa0 = firsts(p, q), xb0 = firsts(r, t)
    la = below(la, xa0, cross)
    lb = below(lb, xb0, cross)
    sa = damped(sa, xa0, la, settings)
    sb = damped(sb, xb0, lb, settings + 16)
    const h0 = heard(f32x4.add(sa, sb))
    const a0 = mixed(f32x4.add(sa, sb), i, inA), b0 = mixed(f32x4.sub(sa, sb), i, inB)
    const xa1 = seconds(p, q), xb1 = seconds(r, t)
    la = below(la, xa1, cross)
    lb = below(lb, xb1, cross)
    sa = damped(sa, xa1, la, settings)
    sb = damped(sb, xb1, lb, settings + 16)
    const h1 = heard(f32x4.add(sa, sb))
    const a1 = mixed(f32x4.add(sa, sb), i + 1, inA), b1 = mixed(f32x4.sub(sa, sb), i + 1, inB)
    const xa2 = firsts(u, v), xb2 = firsts(y, z)
    la = below(la, xa2, cross)
    lb = below(lb, xb2, cross)
    sa = damped(sa, xa2, la, settings)
    sb = damped(sb, xb2, lb, settings + 16)
    const h2 = heard(f32x4.add(sa, sb))
    const a2 = mixed(f32x4.add(sa, sb), i + 2, inA), b2 = mixed(f32x4.sub(sa, sb), i + 2, inB)
    const xa3 = seconds(u, v), xb3 = seconds(y, z)
    la = below(la, xa3, cross)
    lb = below(lb, xb3, cross)
    sa = damped(sa, xa3, la, settings)
    sb = damped(sb, xb3, lb, settings + 16)
    const h3 = heard(f32x4.add(sa, sb))
    const a3 = mixed(f32x4.add(sa, sb), i + 3, inA), b3 = mixed(f32x4.sub(sa, sb), i + 3, inB)
    const g0 = low(h0, h1), g1 = low(h2, h3), to = <usize>i << 2
    v128.store(left + to, f32x4.mul(loud, firsts(g0, g1)))
    v128.store(right + to, f32x4.mul(loud, seconds(g0, g1)))
    const la0 = low(a0, a1), la1 = low(a2, a3), ha0 = high(a0, a1), ha1 = high(a2, a3)
    put(r0, at, mask, firsts(la0, la1))
    put(r1, at, mask, seconds(la0, la1))
    put(r2, at, mask, firsts(ha0, ha1))
    put(r3, at, mask, seconds(ha0, ha1))
    const lb0 = low(b0, b1), lb1 = low(b2, b3), hb0 = high(b0, b1), hb1 = high(b2, b3)
    put(r4, at, mask, firsts(lb0, lb1))
    put(r5, at, mask, seconds(lb0, lb1))
    put(r6, at, mask, firsts(hb0, hb1))
    put(r7, at, mask, seconds(hb0, hb1))
  }
  v128.store(states, sa)
  v128.store(states, sb, 16)
  v128.store(states, la, 32)
  v128.store(states, lb, 48)
  self.write = (start + CHUNK) & 0x3fffffff
}
