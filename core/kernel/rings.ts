/**
 * Delay lines as rings of f32, whose size is a power of two, which are written a chunk at a time. A place is given by the frames that it lies
 * before the chunk that is put next, or was put just now.
 */
import { alloc, between, BYTES, CHUNK, copied } from './memory'

@unmanaged
export class Ring {
  /** Size less one. */
  mask: i32
  /** Where the next chunk is put. */
  write: i32
  data: usize
}

/** @param size frames, a power of two and at least a chunk */
export function ringCreate(size: i32): Ring {
  const self = changetype<Ring>(alloc(offsetof<Ring>()))
  self.mask = size - 1
  self.data = alloc(<usize>size << 2)
  return self
}

/** Forgets all sound. */
export function ringReset(self: Ring): void {
  memory.fill(self.data, 0, <usize>(self.mask + 1) << 2)
}

/** Where the next chunk is put, frames. */
@inline
export function place(self: Ring): usize {
  return self.data + (<usize>self.write << 2)
}

@inline
export function advance(self: Ring): void {
  self.write = (self.write + CHUNK) & self.mask
}

/** A chunk that runs over a ring's end, put together. */
const whole = alloc(BYTES)
/** A second one beside it. */
const other = alloc(BYTES)

/** Where the chunk stands that begins `back` frames before the next one; in `room` where it runs over the end. */
@inline
function piece(self: Ring, back: i32, room: usize): usize {
  const size = self.mask + 1
  const from = (self.write - back) & self.mask
  const at = self.data + (<usize>from << 2)
  const first = size - from
  if (first >= CHUNK) return at
  memory.copy(room, at, <usize>first << 2)
  memory.copy(room + (<usize>first << 2), self.data, <usize>(CHUNK - first) << 2)
  return room
}

/** Takes a chunk. */
export function ringPut(self: Ring, data: usize): void {
  copied(place(self), data)
  advance(self)
}

/** data ← the chunk that begins `back` frames before the next one. */
export function ringTake(self: Ring, data: usize, back: i32): void {
  copied(data, piece(self, back, whole))
}

/** A chunk in place: each frame gives way to what was put `back` whole frames before it. */
export function ringPass(self: Ring, data: usize, back: i32): void {
  copied(place(self), data)
  ringTake(self, data, back)
  advance(self)
}

/** The same while one length gives way to another: `share` of `back`, which grows by `step` a frame, and the rest of `before`. */
export function ringSwap(self: Ring, data: usize, back: i32, before: i32, share: f32, step: f32): void {
  copied(place(self), data)
  const to = piece(self, back, whole), from = piece(self, before, other)
  for (let i: i32 = 0; i < CHUNK; i++) {
    const part = share + <f32>i * step, at = <usize>i << 2
    store<f32>(data + at, part * load<f32>(to + at) + (1 - part) * load<f32>(from + at))
  }
  advance(self)
}

/**
 * A chunk in place through a length that wanders: 2 + depth · (1 + swing) frames; four f64 at `moving` are depth and its step a frame, swing and
 * its step. What is put counts from the next frame on.
 */
export function ringBend(self: Ring, data: usize, moving: usize): void {
  const depth = load<f64>(moving), depthStep = load<f64>(moving, 8), swing = load<f64>(moving, 16), swingStep = load<f64>(moving, 24)
  for (let i: i32 = 0; i < CHUNK; i++) {
    const at = data + (<usize>i << 2), k = <f64>i
    const y = <f32>between(self.data, self.mask, self.write + i, 2 + (depth + k * depthStep) * (1 + swing + k * swingStep))
    store<f32>(self.data + (<usize>(self.write + i) << 2), load<f32>(at))
    store<f32>(at, y)
  }
  advance(self)
}

/** data ← data + gain · the chunk that begins `back` frames before the next one. */
export function ringTap(self: Ring, data: usize, back: i32, gain: f32): void {
  const from = piece(self, back, whole), gains = f32x4.splat(gain)
  for (let i: usize = 0; i < BYTES; i += 16) v128.store(data + i, f32x4.add(v128.load(data + i), f32x4.mul(gains, v128.load(from + i))))
}

/** Schroeder allpass over a length of at least a chunk, in place. */
export function ringAllpass(self: Ring, data: usize, length: i32, gain: f32): void {
  const from = piece(self, length, whole), now = place(self), gains = f32x4.splat(gain)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const delayed = v128.load(from + i)
    const v = f32x4.sub(v128.load(data + i), f32x4.mul(gains, delayed))
    v128.store(now + i, v)
    v128.store(data + i, f32x4.add(delayed, f32x4.mul(gains, v)))
  }
  advance(self)
}

/** An allpass whose length moves by `slope` a frame from `length` on, read between two frames; longer than a chunk throughout. */
export function ringSweep(self: Ring, data: usize, length: f64, slope: f64, gain: f32): void {
  const ring = self.data, mask = self.mask, write = self.write
  for (let i: i32 = 0; i < CHUNK; i++) {
    const back = length + slope * <f64>i
    const frames = <i32>back
    const part = <f32>(back - <f64>frames)
    const n = write + i - frames
    const delayed = load<f32>(ring + (<usize>(n & mask) << 2)) * (1 - part) + load<f32>(ring + (<usize>((n - 1) & mask) << 2)) * part
    const at = data + (<usize>i << 2)
    const v = load<f32>(at) - gain * delayed
    store<f32>(ring + (<usize>(write + i) << 2), v)
    store<f32>(at, delayed + gain * v)
  }
  advance(self)
}
