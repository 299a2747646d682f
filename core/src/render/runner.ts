import type { Pointer, StereoBlock } from '@fulgor/core/signal'
import type { ResolvedStage } from '@fulgor/core/preset'

/** Anything in the chain that sounds: a stage, a split, or a row of both. */
export interface Runner {
  /** Delay in frames, the same whether stages are on or off. */
  readonly latency: number
  /** False where the dry guitar is heard by nothing in it. */
  readonly listens: boolean
  /** Takes the values of a snapshot by stage id; `immediate` for a start from silence. */
  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void
  /** A chunk in place: what moves goes on by a chunk, then it sounds. */
  process(block: StereoBlock): void
  reset(): void

  /** Most steps of a row that it takes. */
  readonly steps: number
  /** Every chunk asks the kernels the same with the same numbers, until one of its other methods is called. */
  readonly steady: boolean
  /** Nothing of it moves by itself: {@link tick} does nothing. */
  readonly still: boolean
  /** From now on a passage repeats what it asks; it ends the passage when that changes. */
  join(passage: Passing): void
  /** While a passage repeats it: lets what moves by itself go on by a chunk. */
  tick(): void
  /** A step of a row has failed. @returns false where it was none of its own, else it is mute now */
  failAt(step: Pointer, error: unknown): boolean
}

/** What repeats some runners. */
export interface Passing {
  /** They are asked themselves again. */
  end(): void
}
