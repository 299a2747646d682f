import type { Processor } from '../base/block'

/** Passes the sound: for stages whose whole effect is the level that every stage has. */
export class Through implements Processor {
  readonly latency = 0
  readonly steady = true
  readonly still = true
  prepare(): void {}
  set(): void {}
  tick(): void {}
  process(): void {}
  reset(): void {}
}
