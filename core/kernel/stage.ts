/** What every stage of a row does around its effect: a guard against decaying filters, its level, and how long nothing was heard. */
import { turn, isHeard } from './blocks'
import { alloc, BYTES } from './memory'

@unmanaged
export class Stage {
  /** Added to what enters, with another sign every chunk: far below hearing, it keeps decaying filters out of the denormal range. */
  guard: f32
  /** Something was heard in this chunk. */
  heard: bool
  /** Chunks in a row in which nothing was heard. */
  quiet: i32
  /** After so many of them it falls asleep. */
  patience: i32
}

/** @param patience chunks of silence after which it falls asleep */
export function stageCreate(patience: i32): Stage {
  const self = changetype<Stage>(alloc(offsetof<Stage>()))
  self.guard = 1e-18
  self.patience = patience
  return self
}

/** Forgets how long nothing was heard. */
export function stageReset(self: Stage): void {
  self.heard = false
  self.quiet = 0
}

/** A chunk begins. @returns chunks in a row before it in which nothing was heard */
export function stageBegin(self: Stage): i32 {
  self.guard = -self.guard
  self.quiet = self.heard ? 0 : self.quiet + 1
  self.heard = false
  return self.quiet
}

/** Whether the stage has to be asked at the next chunk whether it falls asleep. */
@inline
export function tires(self: Stage): bool {
  return !self.heard && self.quiet + 1 == self.patience
}

/** A block comes in. @returns whether anything was heard of it */
export function stageEnter(self: Stage, left: usize, right: usize): bool {
  const heard = isHeard(left, right)
  const values = f32x4.splat(self.guard)
  for (let i: usize = 0; i < BYTES; i += 16) v128.store(left + i, f32x4.add(v128.load(left + i), values))
  if (right != 0) for (let i: usize = 0; i < BYTES; i += 16) v128.store(right + i, f32x4.add(v128.load(right + i), values))
  if (heard) self.heard = true
  return heard
}

/** A block goes out, times the stage's gliding level. */
export function stageLeave(self: Stage, left: usize, right: usize, level: f32, step: f32): void {
  turn(left, right, level, step)
  if (isHeard(left, right)) self.heard = true
}
