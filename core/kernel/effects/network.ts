/**
 * Feedback delay network, f32 SIMD: four Schroeder allpasses in a row feed eight delay lines that a Hadamard matrix mixes, each with
 * a gain and a one-pole so that every mode dies at its time. Source: Jot & Chaigne, 90th AES Convention 1991.
 * What it does with the numbers stands in core/src/signal/reverbs/networkTank.ts.
 */
import { early, firsts, lasts, late } from '../lanes'
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

/** Puts the four samples from the i-th of a chunk on; those that begin a ring stand behind its end once more. */
@inline
function put(ring: usize, bytes: usize, to: usize, samples: v128): void {
  v128.store(ring + to, samples)
  if (to == 0) v128.store(ring + bytes - PAD, samples)
}

/** The diffusers, four samples a turn: all are longer than four. A chunk never runs over a ring's end, since rings are whole numbers of chunks. */
function diffuse(self: Network, feed: usize): void {
  const mask = self.diffuserMask, bytes = self.diffuserBytes
  const start = self.write & mask
  const g = f32x4.splat(load<f32>(self.settings + 48))
  copied(spread, feed)
  for (let d = 0; d < DIFFUSERS; d++) {
    const ring = self.diffusers + <usize>d * bytes
    const length = load<i32>(self.settings + 32 + (<usize>d << 2))
    for (let i = 0; i < CHUNK; i += 4) {
      const at = spread + (<usize>i << 2)
      const delayed = read(ring, start + i - length, mask)
      const v = f32x4.sub(v128.load(at), f32x4.mul(g, delayed))
      put(ring, bytes, <usize>(start + i) << 2, v)
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

/**
 * A chunk of `feed` to both sides, times `level`. Every line is longer than four samples: of so many none hears another. What has a memory takes
 * four lines at a time, written out four times, for the states must stay in locals; the matrix takes four samples at a time.
 */
export function networkProcess(self: Network, feed: usize, left: usize, right: usize, level: f32): void {
  const mask = self.lineMask, settings = self.settings, states = self.states
  const start = self.write & mask
  diffuse(self, feed)
  const bytes = self.lineBytes
  const r0 = self.lines, r1 = r0 + bytes, r2 = r1 + bytes, r3 = r2 + bytes, r4 = r3 + bytes, r5 = r4 + bytes, r6 = r5 + bytes, r7 = r6 + bytes
  const n0 = load<i32>(settings), n1 = load<i32>(settings, 4), n2 = load<i32>(settings, 8), n3 = load<i32>(settings, 12)
  const n4 = load<i32>(settings, 16), n5 = load<i32>(settings, 20), n6 = load<i32>(settings, 24), n7 = load<i32>(settings, 28)
  let sa = v128.load(states), sb = v128.load(states, 16), la = v128.load(states, 32), lb = v128.load(states, 48)
  const cross = f32x4.splat(load<f32>(settings + 52)), loud = f32x4.splat(level), scale = f32x4.splat(0.35355339)
  for (let i = 0; i < CHUNK; i += 4) {
    const at = start + i
    const x0 = read(r0, at - n0, mask), x1 = read(r1, at - n1, mask), x2 = read(r2, at - n2, mask), x3 = read(r3, at - n3, mask)
    const p = firsts(x0, x1), q = firsts(x2, x3), u = lasts(x0, x1), v = lasts(x2, x3)
    const xa0 = early(p, q), xa1 = late(p, q), xa2 = early(u, v), xa3 = late(u, v)
    la = below(la, xa0, cross)
    const a0 = damped(sa, xa0, la, settings)
    la = below(la, xa1, cross)
    const a1 = damped(a0, xa1, la, settings)
    la = below(la, xa2, cross)
    const a2 = damped(a1, xa2, la, settings)
    la = below(la, xa3, cross)
    sa = damped(a2, xa3, la, settings)
    const x4 = read(r4, at - n4, mask), x5 = read(r5, at - n5, mask), x6 = read(r6, at - n6, mask), x7 = read(r7, at - n7, mask)
    const r = firsts(x4, x5), t = firsts(x6, x7), y = lasts(x4, x5), z = lasts(x6, x7)
    const xb0 = early(r, t), xb1 = late(r, t), xb2 = early(y, z), xb3 = late(y, z)
    lb = below(lb, xb0, cross)
    const b0 = damped(sb, xb0, lb, settings + 16)
    lb = below(lb, xb1, cross)
    const b1 = damped(b0, xb1, lb, settings + 16)
    lb = below(lb, xb2, cross)
    const b2 = damped(b1, xb2, lb, settings + 16)
    lb = below(lb, xb3, cross)
    sb = damped(b2, xb3, lb, settings + 16)
    const al = firsts(a0, a1), ah = firsts(a2, sa), ar = lasts(a0, a1), as = lasts(a2, sa)
    const bl = firsts(b0, b1), bh = firsts(b2, sb), br = lasts(b0, b1), bs = lasts(b2, sb)
    const l0 = early(al, ah), l4 = early(bl, bh), l1 = late(al, ah), l5 = late(bl, bh)
    const l2 = early(ar, as), l6 = early(br, bs), l3 = late(ar, as), l7 = late(br, bs)
    // what all eight lines give, of line k and k + 4 first
    const s0 = f32x4.add(l0, l4), s1 = f32x4.add(l1, l5), s2 = f32x4.add(l2, l6), s3 = f32x4.add(l3, l7)
    const to = <usize>i << 2, place = <usize>at << 2
    v128.store(left + to, f32x4.mul(loud, f32x4.sub(s0, s2)))
    v128.store(right + to, f32x4.mul(loud, f32x4.sub(s1, s3)))
    const fed = v128.load(spread + to)
    let c = f32x4.add(s0, s1), d = f32x4.add(s2, s3), e = f32x4.sub(s0, s1), f = f32x4.sub(s2, s3)
    put(r0, bytes, place, f32x4.add(f32x4.mul(f32x4.add(c, d), scale), fed))
    put(r1, bytes, place, f32x4.add(f32x4.mul(f32x4.add(e, f), scale), fed))
    put(r2, bytes, place, f32x4.sub(f32x4.mul(f32x4.sub(c, d), scale), fed))
    put(r3, bytes, place, f32x4.sub(f32x4.mul(f32x4.sub(e, f), scale), fed))
    const d0 = f32x4.sub(l0, l4), d1 = f32x4.sub(l1, l5), d2 = f32x4.sub(l2, l6), d3 = f32x4.sub(l3, l7)
    c = f32x4.add(d0, d1)
    d = f32x4.add(d2, d3)
    e = f32x4.sub(d0, d1)
    f = f32x4.sub(d2, d3)
    put(r4, bytes, place, f32x4.add(f32x4.mul(f32x4.add(c, d), scale), fed))
    put(r5, bytes, place, f32x4.sub(f32x4.mul(f32x4.add(e, f), scale), fed))
    put(r6, bytes, place, f32x4.sub(f32x4.mul(f32x4.sub(c, d), scale), fed))
    put(r7, bytes, place, f32x4.add(f32x4.mul(f32x4.sub(e, f), scale), fed))
  }
  v128.store(states, sa)
  v128.store(states, sb, 16)
  v128.store(states, la, 32)
  v128.store(states, lb, 48)
  self.write = (self.write + CHUNK) & 0x3fffffff
}
