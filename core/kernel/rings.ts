/**
 * Delay lines as rings of f32, whose size is a power of two, which are written a chunk at a time. A place is given by the frames that it lies
 * before the chunk that is put next, or was put just now.
 */
import { betweenFour, closed, two } from './lanes'
import { alloc, BYTES, CHUNK, copied, sample } from './memory'

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
 * A chunk in place through a length that wanders: 2 + depth · (1 + swing) frames, swing −1 … 1; four f64 at `moving` are depth and its step a frame, swing and
 * its step. What is put counts from the next frame on.
 */
export function ringBend(self: Ring, data: usize, moving: usize): void {
  const depth = load<f64>(moving), depthStep = load<f64>(moving, 8), swing = load<f64>(moving, 16), swingStep = load<f64>(moving, 24)
  copied(place(self), data)
  closed(self.data, self.mask, <usize>self.write << 2)
  for (let i: i32 = 0; i < CHUNK; i += 4) {
    const early = bent(depth, depthStep, swing, swingStep, i), late = bent(depth, depthStep, swing, swingStep, i + 2)
    v128.store(data + (<usize>i << 2), betweenFour(self.data, self.mask, self.write + i, early, late))
  }
  advance(self)
}

/** Lengths that wander, of two frames. */
@inline
function bent(depth: f64, depthStep: f64, swing: f64, swingStep: f64, frame: i32): v128 {
  const at = two(<f64>frame, <f64>(frame + 1))
  const deep = f64x2.add(f64x2.splat(depth), f64x2.mul(at, f64x2.splat(depthStep)))
  const turned = f64x2.add(f64x2.splat(1 + swing), f64x2.mul(at, f64x2.splat(swingStep)))
  return f64x2.add(f64x2.splat(2), f64x2.mul(deep, turned))
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
  const ring = self.data, mask = self.mask, now = place(self), gains = f32x4.splat(gain), ones = f32x4.splat(1)
  for (let i: i32 = 0; i < CHUNK; i += 4) {
    const back = length + slope * <f64>i
    const frames = <i32>back, from = (self.write + i - frames - 1) & mask
    const at = <usize>i << 2
    // nearly always four in a row lie as many whole frames back
    const isRow = <i32>(length + slope * <f64>(i + 3)) == frames && from + 4 <= mask
    const older = isRow ? v128.load(ring + (<usize>from << 2)) : gathered(self, length, slope, i, 1)
    const newer = isRow ? v128.load(ring + (<usize>from << 2), 4) : gathered(self, length, slope, i, 0)
    const part = parts(length, slope, i)
    const delayed = f32x4.add(f32x4.mul(newer, f32x4.sub(ones, part)), f32x4.mul(older, part))
    const v = f32x4.sub(v128.load(data + at), f32x4.mul(gains, delayed))
    v128.store(now + at, v)
    v128.store(data + at, f32x4.add(delayed, f32x4.mul(gains, v)))
  }
  advance(self)
}

/** How far four moving places lie behind a frame, 0 … 1. */
@inline
function parts(length: f64, slope: f64, i: i32): v128 {
  const lengths = f64x2.splat(length), slopes = f64x2.splat(slope)
  const early = f64x2.add(lengths, f64x2.mul(slopes, two(<f64>i, <f64>(i + 1))))
  const late = f64x2.add(lengths, f64x2.mul(slopes, two(<f64>(i + 2), <f64>(i + 3))))
  const a = f32x4.demote_f64x2_zero(f64x2.sub(early, f64x2.floor(early)))
  const b = f32x4.demote_f64x2_zero(f64x2.sub(late, f64x2.floor(late)))
  return v128.shuffle<f32>(a, b, 0, 1, 4, 5)
}

/** The frames before four moving places, and `behind` further back, each by itself. */
function gathered(self: Ring, length: f64, slope: f64, i: i32, behind: i32): v128 {
  let four = f32x4.splat(<f32>swept(self, length, slope, i, behind))
  four = f32x4.replace_lane(four, 1, <f32>swept(self, length, slope, i + 1, behind))
  four = f32x4.replace_lane(four, 2, <f32>swept(self, length, slope, i + 2, behind))
  return f32x4.replace_lane(four, 3, <f32>swept(self, length, slope, i + 3, behind))
}

@inline
function swept(self: Ring, length: f64, slope: f64, i: i32, behind: i32): f64 {
  return sample(self.data, self.write + i - <i32>(length + slope * <f64>i) - behind, self.mask)
}
