/**
 * Zero-latency uniform partitioned convolution in f32 SIMD (AssemblyScript). One instance convolves one channel.
 *
 * The first 128 taps run as a direct sum; the rest in partitions of 128, overlap-save, as a negacyclic product: the real
 * frame [previous | current] of 256 samples is the complex sequence previous + j·current modulo z^128 − j, see
 * splitting.ts. Source: Gardner, JAES 1995 (convolution without input-output delay).
 */
import { alloc } from './memory'
import { forward, inverse } from './splitting'

const BLOCK: i32 = 128
const BYTES: usize = <usize>BLOCK * 4

let taps: usize = 0 // response as written by the host, f32
let partitions: i32 = 0
let spectra: usize = 0 // partitions 1..P-1: re[128] im[128] each
let history: usize = 0 // ring of input spectra, same shape
let newest: i32 = 0
let line: usize = 0 // previous block | current block
let sums: usize = 0 // sixteen outputs of the direct part
let tail: usize = 0 // tail output for the current block
let work: usize = 0 // re[128] im[128]
let filled: i32 = 0
let input: usize = 0 // f64, as the host has it
let output: usize = 0 // f64
let fresh: usize = 0 // output, f32
let factors: usize = 0 // re[128] im[128], level by level: 1, 2, 4 … 64 factors

/** Makes room for `frames` taps; the host then writes the response at responseAt(), factors at factorsAt(), calls prepare(). */
export function setup(frames: i32): void {
  partitions = max((frames + BLOCK - 1) / BLOCK, 1)
  taps = alloc(<usize>partitions * BYTES)
  spectra = alloc(<usize>partitions * BYTES * 2)
  history = alloc(<usize>partitions * BYTES * 2)
  line = alloc(BYTES * 2 + 64)
  sums = alloc(64)
  tail = alloc(BYTES)
  work = alloc(BYTES * 2)
  input = alloc(BYTES * 2)
  output = alloc(BYTES * 2)
  fresh = alloc(BYTES)
  factors = alloc(BYTES * 2)
}

export function responseAt(): usize {
  return taps
}
export function factorsAt(): usize {
  return factors
}
export function inputAt(): usize {
  return input
}
export function outputAt(): usize {
  return output
}

export function prepare(): void {
  for (let p = 1; p < partitions; p++) {
    const at = spectra + <usize>p * BYTES * 2
    memory.copy(at, taps + <usize>p * BYTES, BYTES)
    memory.fill(at + BYTES, 0, BYTES)
    forward(at, BLOCK, factors)
  }
  reset()
}

export function reset(): void {
  memory.fill(history, 0, <usize>partitions * BYTES * 2)
  memory.fill(line, 0, BYTES * 2)
  memory.fill(tail, 0, BYTES)
  filled = 0
  newest = 0
}

/** Convolves `frames` (1–128) samples from input to output. */
export function process(frames: i32): void {
  let done = 0
  while (done < frames) {
    const count = min(frames - done, BLOCK - filled)
    take(line + BYTES + ((<usize>filled) << 2), input + ((<usize>done) << 3), count)
    for (let i = 0; i < count; i += 16) {
      const at = filled + i
      direct(line + BYTES + ((<usize>at) << 2))
      const valid = min(count - i, 16)
      const to = fresh + ((<usize>i) << 2)
      const late = tail + ((<usize>at) << 2)
      if (valid == 16) {
        v128.store(to, f32x4.add(v128.load(sums), v128.load(late)))
        v128.store(to, f32x4.add(v128.load(sums, 16), v128.load(late, 16)), 16)
        v128.store(to, f32x4.add(v128.load(sums, 32), v128.load(late, 32)), 32)
        v128.store(to, f32x4.add(v128.load(sums, 48), v128.load(late, 48)), 48)
      } else {
        for (let k: usize = 0; k < <usize>valid; k++) {
          store<f32>(to + (k << 2), load<f32>(sums + (k << 2)) + load<f32>(late + (k << 2)))
        }
      }
    }
    give(output + ((<usize>done) << 3), fresh, count)
    filled += count
    done += count
    if (filled == BLOCK) advance()
  }
}

/** f64 to f32; writes up to three values beyond the last, which the next call overwrites. */
@inline
function take(to: usize, from: usize, count: i32): void {
  for (let i = 0; i < count; i += 4) {
    const a = f32x4.demote_f64x2_zero(v128.load(from + ((<usize>i) << 3)))
    const b = f32x4.demote_f64x2_zero(v128.load(from + ((<usize>i) << 3), 16))
    v128.store(to + ((<usize>i) << 2), v128.shuffle<f32>(a, b, 0, 1, 4, 5))
  }
}

/** f32 to f64. */
@inline
function give(to: usize, from: usize, count: i32): void {
  for (let i = 0; i < count; i += 4) {
    const x = v128.load(from + ((<usize>i) << 2))
    v128.store(to + ((<usize>i) << 3), f64x2.promote_low_f32x4(x))
    v128.store(to + ((<usize>i) << 3), f64x2.promote_low_f32x4(v128.shuffle<f32>(x, x, 2, 3, 2, 3)), 16)
  }
}

/**
 * First 128 taps of sixteen outputs from `from` on, into `sums`. Every output is summed in the same order, so what lies behind the
 * last written sample only spoils outputs that are not there yet.
 */
@inline
function direct(from: usize): void {
  let a = f32x4.splat(0)
  let b = f32x4.splat(0)
  let c = f32x4.splat(0)
  let d = f32x4.splat(0)
  let x = from
  // unaligned loads: shuffles of two neighbours would wait for the one port that does them
  for (let o: usize = 0; o < BYTES; o += 8) {
    let h = v128.load32_splat(taps + o)
    a = f32x4.add(a, f32x4.mul(h, v128.load(x)))
    b = f32x4.add(b, f32x4.mul(h, v128.load(x, 16)))
    c = f32x4.add(c, f32x4.mul(h, v128.load(x, 32)))
    d = f32x4.add(d, f32x4.mul(h, v128.load(x, 48)))
    h = v128.load32_splat(taps + o, 4)
    a = f32x4.add(a, f32x4.mul(h, v128.load(x - 4)))
    b = f32x4.add(b, f32x4.mul(h, v128.load(x - 4, 16)))
    c = f32x4.add(c, f32x4.mul(h, v128.load(x - 4, 32)))
    d = f32x4.add(d, f32x4.mul(h, v128.load(x - 4, 48)))
    x -= 8
  }
  v128.store(sums, a)
  v128.store(sums, b, 16)
  v128.store(sums, c, 32)
  v128.store(sums, d, 48)
}

/** A block is complete: transform it and prepare the tail of the next one. */
function advance(): void {
  filled = 0
  if (partitions > 1) {
    newest = newest == 0 ? partitions - 1 : newest - 1
    const spectrum = history + <usize>newest * BYTES * 2
    memory.copy(spectrum, line, BYTES * 2)
    forward(spectrum, BLOCK, factors)
    accumulate()
    inverse(work, BLOCK, factors)
    memory.copy(tail, work + BYTES, BYTES)
  }
  memory.copy(line, line + BYTES, BYTES)
}

function accumulate(): void {
  for (let o: usize = 0; o < BYTES; o += 32) {
    let re = f32x4.splat(0)
    let im = f32x4.splat(0)
    let re2 = f32x4.splat(0)
    let im2 = f32x4.splat(0)
    let h = spectra + BYTES * 2 + o
    let x = history + <usize>newest * BYTES * 2 + o
    const end = history + <usize>partitions * BYTES * 2
    for (let p = 1; p < partitions; p++) {
      let hr = v128.load(h)
      let hi = v128.load(h, 512)
      let xr = v128.load(x)
      let xi = v128.load(x, 512)
      re = f32x4.add(re, f32x4.sub(f32x4.mul(hr, xr), f32x4.mul(hi, xi)))
      im = f32x4.add(im, f32x4.add(f32x4.mul(hr, xi), f32x4.mul(hi, xr)))
      hr = v128.load(h, 16)
      hi = v128.load(h, 528)
      xr = v128.load(x, 16)
      xi = v128.load(x, 528)
      re2 = f32x4.add(re2, f32x4.sub(f32x4.mul(hr, xr), f32x4.mul(hi, xi)))
      im2 = f32x4.add(im2, f32x4.add(f32x4.mul(hr, xi), f32x4.mul(hi, xr)))
      h += BYTES * 2
      x += BYTES * 2
      if (x >= end) x -= <usize>partitions * BYTES * 2
    }
    v128.store(work + o, re)
    v128.store(work + o, re2, 16)
    v128.store(work + o, im, 512)
    v128.store(work + o, im2, 528)
  }
}
