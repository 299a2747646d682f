/**
 * Zero-latency uniform partitioned convolution in f32 SIMD (AssemblyScript). One instance convolves one channel.
 *
 * The first 128 taps run as a direct sum; the rest in partitions of 128, overlap-save, as a negacyclic product: the real
 * frame [previous | current] of 256 samples is the complex sequence previous + j·current modulo z^128 − j, see
 * splitting.ts. Source: Gardner, JAES 1995 (convolution without input-output delay).
 */
import { forward, inverse } from './splitting'

const BLOCK: i32 = 128
const BYTES: usize = <usize>BLOCK * 4

let taps: usize = 0 // response as written by the host, f32
let partitions: i32 = 0
let spectra: usize = 0 // partitions 1..P-1: re[128] im[128] each
let history: usize = 0 // ring of input spectra, same shape
let newest: i32 = 0
let line: usize = 0 // previous block | current block
let head: usize = 0 // first 128 taps, reversed
let tail: usize = 0 // tail output for the current block
let work: usize = 0 // re[128] im[128]
let filled: i32 = 0
let input: usize = 0
let output: usize = 0
let factors: usize = 0 // re[128] im[128], level by level: 1, 2, 4 … 64 factors

function alloc(bytes: usize): usize {
  const at = heap.alloc(bytes + 16)
  memory.fill(at, 0, bytes + 16)
  return (at + 15) & ~15
}

/** Makes room for `frames` taps; the host then writes the response at responseAt(), factors at factorsAt(), calls prepare(). */
export function setup(frames: i32): void {
  partitions = max((frames + BLOCK - 1) / BLOCK, 1)
  taps = alloc(<usize>partitions * BYTES)
  spectra = alloc(<usize>partitions * BYTES * 2)
  history = alloc(<usize>partitions * BYTES * 2)
  line = alloc(BYTES * 2)
  head = alloc(BYTES)
  tail = alloc(BYTES)
  work = alloc(BYTES * 2)
  input = alloc(BYTES)
  output = alloc(BYTES)
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
  for (let i = 0; i < BLOCK; i++) {
    store<f32>(head + ((<usize>(BLOCK - 1 - i)) << 2), load<f32>(taps + ((<usize>i) << 2)))
  }
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
    memory.copy(line + BYTES + ((<usize>filled) << 2), input + ((<usize>done) << 2), (<usize>count) << 2)
    for (let i = 0; i < count; i++) {
      const at = filled + i
      const sum = direct(line + ((<usize>(at + 1)) << 2))
      store<f32>(output + ((<usize>(done + i)) << 2), sum + load<f32>(tail + ((<usize>at) << 2)))
    }
    filled += count
    done += count
    if (filled == BLOCK) advance()
  }
}

@inline
function direct(from: usize): f32 {
  let a = f32x4.splat(0)
  let b = f32x4.splat(0)
  let c = f32x4.splat(0)
  let d = f32x4.splat(0)
  for (let o: usize = 0; o < BYTES; o += 64) {
    a = f32x4.add(a, f32x4.mul(v128.load(from + o), v128.load(head + o)))
    b = f32x4.add(b, f32x4.mul(v128.load(from + o, 16), v128.load(head + o, 16)))
    c = f32x4.add(c, f32x4.mul(v128.load(from + o, 32), v128.load(head + o, 32)))
    d = f32x4.add(d, f32x4.mul(v128.load(from + o, 48), v128.load(head + o, 48)))
  }
  const s = f32x4.add(f32x4.add(a, b), f32x4.add(c, d))
  return f32x4.extract_lane(s, 0) + f32x4.extract_lane(s, 1) + (f32x4.extract_lane(s, 2) + f32x4.extract_lane(s, 3))
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
  for (let o: usize = 0; o < BYTES; o += 16) {
    let re = f32x4.splat(0)
    let im = f32x4.splat(0)
    let slot = newest
    for (let p = 1; p < partitions; p++) {
      const h = spectra + <usize>p * BYTES * 2 + o
      const x = history + <usize>slot * BYTES * 2 + o
      const hr = v128.load(h)
      const hi = v128.load(h, 512)
      const xr = v128.load(x)
      const xi = v128.load(x, 512)
      re = f32x4.add(re, f32x4.sub(f32x4.mul(hr, xr), f32x4.mul(hi, xi)))
      im = f32x4.add(im, f32x4.add(f32x4.mul(hr, xi), f32x4.mul(hi, xr)))
      slot++
      if (slot == partitions) slot = 0
    }
    v128.store(work + o, re)
    v128.store(work + o, im, 512)
  }
}
