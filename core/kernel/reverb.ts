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
let left: usize = 0
let right: usize = 0

/** Sizes are powers of two above the longest line and diffuser. */
export function setup(lineSize: i32, diffuserSize: i32): void {
  lineMask = lineSize - 1
  diffuserMask = diffuserSize - 1
  lines = alloc(<usize>lineSize * LINES * 4)
  diffusers = alloc(<usize>diffuserSize * DIFFUSERS * 4)
  settings = alloc(160)
  states = alloc(64)
  feed = alloc(<usize>CHUNK * 8)
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
  memory.fill(lines, 0, (<usize>lineMask + 1) * LINES * 4)
  memory.fill(diffusers, 0, (<usize>diffuserMask + 1) * DIFFUSERS * 4)
  memory.fill(states, 0, 64)
}

/** Lines lie side by side: value t of line k at (t & mask) · 8 + k. */
@inline
function endOf(k: i32, at: i32): usize {
  const length = load<i32>(settings + (<usize>k << 2))
  return lines + ((<usize>((at - length) & lineMask)) << 5) + (<usize>k << 2)
}

export function process(frames: i32): void {
  const start = write
  const g = load<f32>(settings + 48)
  for (let d = 0; d < DIFFUSERS; d++) {
    const buffer = diffusers + (<usize>d * (<usize>diffuserMask + 1) << 2)
    const length = load<i32>(settings + 32 + (<usize>d << 2))
    for (let i = 0; i < frames; i++) {
      const delayed = load<f32>(buffer + (<usize>((start + i - length) & diffuserMask) << 2))
      const at = feed + (<usize>i << 3)
      const v = <f32>load<f64>(at) - g * delayed
      store<f32>(buffer + (<usize>((start + i) & diffuserMask) << 2), v)
      store<f64>(at, <f64>(delayed + g * v))
    }
  }
  const gainA = v128.load(settings, 64), gainB = v128.load(settings, 80)
  const poleA = v128.load(settings, 96), poleB = v128.load(settings, 112)
  const belowA = v128.load(settings, 128), belowB = v128.load(settings, 144)
  const cross = f32x4.splat(load<f32>(settings + 52))
  const inA = f32x4(1, 1, -1, -1), inB = f32x4(1, -1, -1, 1)
  const odd = f32x4(1, -1, 1, -1), upper = f32x4(1, 1, -1, -1)
  const scale = f32x4.splat(0.35355339)
  let sa = v128.load(states), sb = v128.load(states, 16), la = v128.load(states, 32), lb = v128.load(states, 48)
  // places of the lines' ends, moved on sample by sample
  let r0 = endOf(0, start), r1 = endOf(1, start), r2 = endOf(2, start), r3 = endOf(3, start)
  let r4 = endOf(4, start), r5 = endOf(5, start), r6 = endOf(6, start), r7 = endOf(7, start)
  const end = lines + ((<usize>lineMask + 1) << 5)
  const around = (<usize>lineMask + 1) << 5
  let w = lines + ((<usize>(start & lineMask)) << 5)
  for (let i = 0; i < frames; i++) {
    let a = v128.load32_zero(r0)
    a = v128.load32_lane(r1, a, 1)
    a = v128.load32_lane(r2, a, 2)
    a = v128.load32_lane(r3, a, 3)
    let b = v128.load32_zero(r4)
    b = v128.load32_lane(r5, b, 1)
    b = v128.load32_lane(r6, b, 2)
    b = v128.load32_lane(r7, b, 3)
    r0 += 32
    r1 += 32
    r2 += 32
    r3 += 32
    r4 += 32
    r5 += 32
    r6 += 32
    r7 += 32
    if (r0 >= end) r0 -= around
    if (r1 >= end) r1 -= around
    if (r2 >= end) r2 -= around
    if (r3 >= end) r3 -= around
    if (r4 >= end) r4 -= around
    if (r5 >= end) r5 -= around
    if (r6 >= end) r6 -= around
    if (r7 >= end) r7 -= around
    la = f32x4.add(la, f32x4.mul(cross, f32x4.sub(a, la)))
    lb = f32x4.add(lb, f32x4.mul(cross, f32x4.sub(b, lb)))
    sa = f32x4.add(f32x4.add(f32x4.mul(poleA, sa), f32x4.mul(gainA, a)), f32x4.mul(belowA, la))
    sb = f32x4.add(f32x4.add(f32x4.mul(poleB, sb), f32x4.mul(gainB, b)), f32x4.mul(belowB, lb))
    const both = f32x4.mul(f32x4.add(sa, sb), upper)
    store<f64>(left + (<usize>i << 3), <f64>(f32x4.extract_lane(both, 0) + f32x4.extract_lane(both, 2)))
    store<f64>(right + (<usize>i << 3), <f64>(f32x4.extract_lane(both, 1) + f32x4.extract_lane(both, 3)))
    let s = f32x4.add(sa, sb), d = f32x4.sub(sa, sb)
    s = f32x4.add(f32x4.mul(s, odd), v128.shuffle<f32>(s, s, 1, 0, 3, 2))
    s = f32x4.add(f32x4.mul(s, upper), v128.shuffle<f32>(s, s, 2, 3, 0, 1))
    d = f32x4.add(f32x4.mul(d, odd), v128.shuffle<f32>(d, d, 1, 0, 3, 2))
    d = f32x4.add(f32x4.mul(d, upper), v128.shuffle<f32>(d, d, 2, 3, 0, 1))
    const x = f32x4.splat(<f32>load<f64>(feed + (<usize>i << 3)))
    s = f32x4.add(f32x4.mul(s, scale), f32x4.mul(x, inA))
    d = f32x4.add(f32x4.mul(d, scale), f32x4.mul(x, inB))
    v128.store(w, s)
    v128.store(w, d, 16)
    w += 32
    if (w >= end) w -= around
  }
  v128.store(states, sa)
  v128.store(states, sb, 16)
  v128.store(states, la, 32)
  v128.store(states, lb, 48)
  write = (start + frames) & 0x3fffffff
}
