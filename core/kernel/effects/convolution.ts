/**
 * Zero-latency partitioned convolution in f32 SIMD, of one channel.
 *
 * A response runs in up to three sections: its first 256 taps in partitions of a chunk, whose input is whole when the chunk is asked for; what follows
 * in partitions of 256, of a long one only up to 1,024 taps, and then in partitions of 1,024. A section that begins one of its blocks behind the response's start has
 * the time of a block for what it adds to the next one. Each is overlap-save with a negacyclic product: the real frame
 * [previous | current] of 2·size samples is the complex sequence previous + j·current modulo z^size − j, see splitting.ts.
 * Source: Gardner, JAES 1995 (convolution without input-output delay).
 */
import { alloc, CHUNK, copied, free } from '../memory'
import { forward, inverse } from '../splitting'

const MIDDLE: i32 = 256
const LARGE: i32 = 1024
/** Below so many taps two transforms of the largest size cost more than they save. */
const LONG: i32 = 6144

const factorsOfChunk = alloc(<usize>CHUNK * 8) // re[size] im[size], level by level: 1, 2, 4 … factors
const factorsOfMiddle = alloc(<usize>MIDDLE * 8)
const factorsOfLarge = alloc(<usize>LARGE * 8)
const work = alloc(<usize>LARGE * 8) // re[size] im[size]

/** A stretch of a response in partitions of one size. */
@unmanaged
class Section {
  size: i32
  /** Tap that it begins at, and how many it has. */
  from: i32
  taps: i32
  partitions: i32
  factors: usize
  /** re[size] im[size] of each partition. */
  spectra: usize
  /** Ring of input spectra, same shape. */
  history: usize
  newest: i32
  /** Previous block | current block. */
  line: usize
  /** Bytes of the current block that are there. */
  filled: usize
  /** What it adds to the current block, unless it is the first: that one adds to the chunk at once. */
  tail: usize
}

/** One channel's convolver. */
@unmanaged
export class Convolution {
  /** Response as written by the host, f32. */
  taps: usize
  frames: i32
  head: Section
  middle: Section | null
  large: Section | null
}

/** Where the host writes the factors of 64, 256 or 1,024 points. */
export function convolutionFactorsAt(size: i32): usize {
  return size == CHUNK ? factorsOfChunk : size == MIDDLE ? factorsOfMiddle : factorsOfLarge
}

/** Taps `from` to `to`, in partitions of `size`. */
function section(size: i32, from: i32, to: i32): Section {
  const self = changetype<Section>(alloc(offsetof<Section>()))
  const bytes = <usize>size << 2
  const partitions = (to - from + size - 1) / size
  self.size = size
  self.from = from
  self.taps = to - from
  self.partitions = partitions
  self.factors = convolutionFactorsAt(size)
  self.spectra = alloc(<usize>partitions * bytes * 2)
  self.history = alloc(<usize>partitions * bytes * 2)
  self.line = alloc(bytes * 2)
  self.tail = alloc(bytes)
  return self
}

/** Makes room for `frames` taps, at least one; the host then writes the response and calls {@link convolutionPrepare}. */
export function convolutionCreate(frames: i32): Convolution {
  const self = changetype<Convolution>(alloc(offsetof<Convolution>()))
  const large = frames >= LONG ? LARGE : frames
  self.frames = frames
  self.taps = alloc(<usize>frames << 2)
  self.head = section(CHUNK, 0, min(frames, MIDDLE))
  self.middle = frames > MIDDLE ? section(MIDDLE, MIDDLE, large) : null
  self.large = frames > large ? section(LARGE, large, frames) : null
  return self
}

export function convolutionFree(self: Convolution): void {
  release(self.head)
  const middle = self.middle, large = self.large
  if (middle) release(middle)
  if (large) release(large)
  free(self.taps)
  free(changetype<usize>(self))
}

function release(self: Section): void {
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
  transformed(self.head, self.taps)
  const middle = self.middle, large = self.large
  if (middle) transformed(middle, self.taps)
  if (large) transformed(large, self.taps)
  convolutionReset(self)
}

/** Spectra of a section's partitions. */
function transformed(self: Section, taps: usize): void {
  const bytes = <usize>self.size << 2
  const whole = <usize>self.partitions * bytes * 2
  memory.fill(self.spectra, 0, whole)
  let from = taps + (<usize>self.from << 2), rest = <usize>self.taps << 2
  for (let at = self.spectra, end = at + whole; at < end; at += bytes * 2) {
    const here = min(rest, bytes)
    memory.copy(at, from, here)
    forward(at, self.size, self.factors)
    from += here
    rest -= here
  }
}

export function convolutionReset(self: Convolution): void {
  clear(self.head)
  const middle = self.middle, large = self.large
  if (middle) clear(middle)
  if (large) clear(large)
}

function clear(self: Section): void {
  const bytes = <usize>self.size << 2
  memory.fill(self.history, 0, <usize>self.partitions * bytes * 2)
  memory.fill(self.line, 0, bytes * 2)
  memory.fill(self.tail, 0, bytes)
  self.filled = 0
  self.newest = 0
}

/** A chunk in place. */
export function convolutionProcess(self: Convolution, data: usize): void {
  const head = self.head, middle = self.middle, large = self.large
  copied(head.line + (<usize>CHUNK << 2), data)
  if (middle) copied(middle.line + (<usize>MIDDLE << 2) + middle.filled, data)
  if (large) copied(large.line + (<usize>LARGE << 2) + large.filled, data)
  advance(head)
  copied(data, work + (<usize>CHUNK << 2))
  if (middle) add(middle, data)
  if (large) add(large, data)
}

/** What a later section adds to a chunk; where its block is complete, it makes ready for the next one. */
@inline
function add(self: Section, data: usize): void {
  const late = self.tail + self.filled, bytes = <usize>self.size << 2
  for (let i: usize = 0; i < <usize>CHUNK << 2; i += 16) v128.store(data + i, f32x4.add(v128.load(data + i), v128.load(late + i)))
  self.filled += <usize>CHUNK << 2
  if (self.filled < bytes) return
  self.filled = 0
  advance(self)
  moved(self.tail, work + bytes, bytes)
}

/** A whole number of 32 bytes; for so few a call would cost more. */
@inline
function moved(to: usize, from: usize, bytes: usize): void {
  for (let end = from + bytes; from < end; from += 32) {
    v128.store(to, v128.load(from))
    v128.store(to, v128.load(from, 16), 16)
    to += 32
  }
}

/** A section's block is complete: what it gives stands in the second half of `work`. */
function advance(self: Section): void {
  const bytes = <usize>self.size << 2
  self.newest = self.newest == 0 ? self.partitions - 1 : self.newest - 1
  const spectrum = self.history + <usize>self.newest * bytes * 2
  moved(spectrum, self.line, bytes * 2)
  moved(self.line, self.line + bytes, bytes)
  forward(spectrum, self.size, self.factors)
  accumulate(self, bytes)
  inverse(work, self.size, self.factors)
}

/** work ← products of the partitions with the blocks that reach them, summed. */
function accumulate(self: Section, bytes: usize): void {
  const stride = bytes * 2
  const spectra = self.spectra, history = self.history
  // from the newest block to the ring's end, and on from its start
  const ring = history + <usize>self.partitions * stride
  const newest = history + <usize>self.newest * stride
  for (let o: usize = 0; o < bytes; o += 32) {
    let re = f32x4.splat(0)
    let im = f32x4.splat(0)
    let re2 = f32x4.splat(0)
    let im2 = f32x4.splat(0)
    let h = spectra + o
    let x = newest + o
    const end = ring + o
    for (let p = self.partitions; p > 0; p--) {
      const hi0 = h + bytes, xi0 = x + bytes
      let hr = v128.load(h)
      let hi = v128.load(hi0)
      let xr = v128.load(x)
      let xi = v128.load(xi0)
      re = f32x4.add(re, f32x4.sub(f32x4.mul(hr, xr), f32x4.mul(hi, xi)))
      im = f32x4.add(im, f32x4.add(f32x4.mul(hr, xi), f32x4.mul(hi, xr)))
      hr = v128.load(h, 16)
      hi = v128.load(hi0, 16)
      xr = v128.load(x, 16)
      xi = v128.load(xi0, 16)
      re2 = f32x4.add(re2, f32x4.sub(f32x4.mul(hr, xr), f32x4.mul(hi, xi)))
      im2 = f32x4.add(im2, f32x4.add(f32x4.mul(hr, xi), f32x4.mul(hi, xr)))
      h += stride
      x += stride
      if (x >= end) x = history + o
    }
    const to = work + o
    v128.store(to, re)
    v128.store(to, re2, 16)
    v128.store(to + bytes, im)
    v128.store(to + bytes, im2, 16)
  }
}
