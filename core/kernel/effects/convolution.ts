/**
 * Zero-latency uniform partitioned convolution in f32 SIMD, of one channel.
 *
 * The first 128 taps run as a direct sum; the rest in partitions of 128, overlap-save, as a negacyclic product: the real
 * frame [previous | current] of 256 samples is the complex sequence previous + j·current modulo z^128 − j, see
 * splitting.ts. Source: Gardner, JAES 1995 (convolution without input-output delay).
 */
import { alloc, CHUNK, copied, free } from '../memory'
import { forward, inverse } from '../splitting'

const BLOCK: i32 = 128
const BYTES: usize = <usize>BLOCK * 4

const factors = alloc(BYTES * 2) // re[128] im[128], level by level: 1, 2, 4 … 64 factors
const sums = alloc(64) // sixteen outputs of the direct part
const work = alloc(BYTES * 2) // re[128] im[128]

/** One channel's convolver. */
@unmanaged
export class Convolution {
  /** Response as written by the host, f32. */
  taps: usize
  partitions: i32
  /** Partitions 1 … P − 1: re[128] im[128] each. */
  spectra: usize
  /** Ring of input spectra, same shape. */
  history: usize
  newest: i32
  /** Previous block | current block. */
  line: usize
  /** Tail output for the current block. */
  tail: usize
  /** Frames of the current block that are there: 0 or {@link CHUNK}. */
  filled: i32
}

export function convolutionFactorsAt(): usize {
  return factors
}

/** Makes room for `frames` taps; the host then writes the response and calls {@link convolutionPrepare}. */
export function convolutionCreate(frames: i32): Convolution {
  const self = changetype<Convolution>(alloc(offsetof<Convolution>()))
  const partitions = max((frames + BLOCK - 1) / BLOCK, 1)
  self.partitions = partitions
  self.taps = alloc(<usize>partitions * BYTES)
  self.spectra = alloc(<usize>partitions * BYTES * 2)
  self.history = alloc(<usize>partitions * BYTES * 2)
  self.line = alloc(BYTES * 2 + 64)
  self.tail = alloc(BYTES)
  return self
}
export function convolutionFree(self: Convolution): void {
  free(self.taps)
  free(self.spectra)
  free(self.history)
  free(self.line)
  free(self.tail)
  free(changetype<usize>(self))
}
export function convolutionTapsAt(self: Convolution): usize {
  return self.taps
}

export function convolutionPrepare(self: Convolution): void {
  for (let p = 1; p < self.partitions; p++) {
    const at = self.spectra + <usize>p * BYTES * 2
    memory.copy(at, self.taps + <usize>p * BYTES, BYTES)
    memory.fill(at + BYTES, 0, BYTES)
    forward(at, BLOCK, factors)
  }
  convolutionReset(self)
}

export function convolutionReset(self: Convolution): void {
  memory.fill(self.history, 0, <usize>self.partitions * BYTES * 2)
  memory.fill(self.line, 0, BYTES * 2)
  memory.fill(self.tail, 0, BYTES)
  self.filled = 0
  self.newest = 0
}

/** A chunk in place. */
export function convolutionProcess(self: Convolution, data: usize): void {
  const filled = <usize>self.filled << 2
  const now = self.line + BYTES + filled
  copied(now, data)
  for (let i: usize = 0; i < <usize>CHUNK << 2; i += 64) {
    direct(self.taps, now + i)
    const late = self.tail + filled + i
    v128.store(data + i, f32x4.add(v128.load(sums), v128.load(late)))
    v128.store(data + i, f32x4.add(v128.load(sums, 16), v128.load(late, 16)), 16)
    v128.store(data + i, f32x4.add(v128.load(sums, 32), v128.load(late, 32)), 32)
    v128.store(data + i, f32x4.add(v128.load(sums, 48), v128.load(late, 48)), 48)
  }
  self.filled += CHUNK
  if (self.filled == BLOCK) advance(self)
}

/** First 128 taps of sixteen outputs from `from` on, into `sums`. */
@inline
function direct(taps: usize, from: usize): void {
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
function advance(self: Convolution): void {
  self.filled = 0
  const line = self.line
  if (self.partitions > 1) {
    self.newest = self.newest == 0 ? self.partitions - 1 : self.newest - 1
    const spectrum = self.history + <usize>self.newest * BYTES * 2
    memory.copy(spectrum, line, BYTES * 2)
    forward(spectrum, BLOCK, factors)
    accumulate(self)
    inverse(work, BLOCK, factors)
    memory.copy(self.tail, work + BYTES, BYTES)
  }
  memory.copy(line, line + BYTES, BYTES)
}

function accumulate(self: Convolution): void {
  const spectra = self.spectra, history = self.history, newest = self.newest, partitions = self.partitions
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
