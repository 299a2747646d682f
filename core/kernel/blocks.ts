/** What is done with whole blocks: a side is a chunk of f32, `right` 0 where a block is mono. */
import { ramp } from './filters'
import { BYTES, copied } from './memory'

/** Below this a block counts as silence: −200 dBFS. */
const SILENT: f32 = 1e-10

@inline
function sounds(data: usize): bool {
  const least = f32x4.splat(SILENT)
  for (let p = data, end = data + BYTES; p < end; p += 16) if (v128.any_true(f32x4.gt(f32x4.abs(v128.load(p)), least))) return true
  return false
}

/** Whether anything is heard; ends at the first sound. */
@inline
export function isHeard(left: usize, right: usize): bool {
  return sounds(left) || (right != 0 && sounds(right))
}

/** Largest magnitude of a side. */
export function peak(data: usize): f32 {
  let most = f32x4.splat(0)
  for (let i: usize = 0; i < BYTES; i += 16) most = f32x4.max(most, f32x4.abs(v128.load(data + i)))
  return max(max(f32x4.extract_lane(most, 0), f32x4.extract_lane(most, 1)), max(f32x4.extract_lane(most, 2), f32x4.extract_lane(most, 3)))
}

/** Both sides of a block into another. */
export function copy(left: usize, right: usize, fromLeft: usize, fromRight: usize): void {
  copied(left, fromLeft)
  if (right != 0) copied(right, fromRight)
}

/** Adds another block's both sides. */
export function add(left: usize, right: usize, fromLeft: usize, fromRight: usize): void {
  for (let i: usize = 0; i < BYTES; i += 16) {
    v128.store(left + i, f32x4.add(v128.load(left + i), v128.load(fromLeft + i)))
    v128.store(right + i, f32x4.add(v128.load(right + i), v128.load(fromRight + i)))
  }
}

@inline
function turned(data: usize, value: f32, step: f32): void {
  const values = f32x4.splat(value), steps = f32x4.splat(step), four = f32x4.splat(4)
  let at = f32x4(0, 1, 2, 3)
  for (let i: usize = 0; i < BYTES; i += 16) {
    v128.store(data + i, f32x4.mul(v128.load(data + i), ramp(values, steps, at)))
    at = f32x4.add(at, four)
  }
}

/** Times a gain that glides. */
export function turn(left: usize, right: usize, value: f32, step: f32): void {
  if (value == 1 && step == 0) return
  turned(left, value, step)
  if (right != 0) turned(right, value, step)
}

/** `share` of what is there and the rest of another block. */
export function crossfade(left: usize, right: usize, otherLeft: usize, otherRight: usize, share: f32, step: f32): void {
  crossed(left, otherLeft, share, step)
  if (right != 0) crossed(right, otherRight, share, step)
}

@inline
function crossed(data: usize, other: usize, share: f32, step: f32): void {
  const shares = f32x4.splat(share), steps = f32x4.splat(step), ones = f32x4.splat(1), four = f32x4.splat(4)
  let at = f32x4(0, 1, 2, 3)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const now = ramp(shares, steps, at)
    v128.store(data + i, f32x4.add(f32x4.mul(now, v128.load(data + i)), f32x4.mul(f32x4.sub(ones, now), v128.load(other + i))))
    at = f32x4.add(at, four)
  }
}

/** to ← a · to + b · from, both gains gliding. */
export function mix(to: usize, from: usize, a: f32, stepA: f32, b: f32, stepB: f32): void {
  const as_ = f32x4.splat(a), stepsA = f32x4.splat(stepA), bs = f32x4.splat(b), stepsB = f32x4.splat(stepB), four = f32x4.splat(4)
  let at = f32x4(0, 1, 2, 3)
  for (let i: usize = 0; i < BYTES; i += 16) {
    v128.store(to + i, f32x4.add(f32x4.mul(v128.load(to + i), ramp(as_, stepsA, at)), f32x4.mul(v128.load(from + i), ramp(bs, stepsB, at))))
    at = f32x4.add(at, four)
  }
}

/** to ← ½ (left + right). */
export function fold(to: usize, left: usize, right: usize): void {
  const half = f32x4.splat(0.5)
  for (let i: usize = 0; i < BYTES; i += 16) v128.store(to + i, f32x4.mul(half, f32x4.add(v128.load(left + i), v128.load(right + i))))
}

/** Each side ← own · itself + other · the other side. */
export function share(left: usize, right: usize, own: f32, other: f32): void {
  const owns = f32x4.splat(own), others = f32x4.splat(other)
  for (let i: usize = 0; i < BYTES; i += 16) {
    const l = v128.load(left + i), r = v128.load(right + i)
    v128.store(left + i, f32x4.add(f32x4.mul(owns, l), f32x4.mul(others, r)))
    v128.store(right + i, f32x4.add(f32x4.mul(owns, r), f32x4.mul(others, l)))
  }
}

/** Nothing in a block any more. */
export function silence(left: usize, right: usize): void {
  memory.fill(left, 0, BYTES)
  if (right != 0) memory.fill(right, 0, BYTES)
}
