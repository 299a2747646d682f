import type { StereoBlock } from '@fulgor/core/signal'
import type { ResolvedStage } from '@fulgor/core/preset'

/** Anything in the chain that sounds: a stage, a split, or a row of both. */
export interface Runner {
  /** Delay in frames, the same whether stages are on or off. */
  readonly latency: number
  /** False where the dry guitar is heard by nothing in it. */
  readonly listens: boolean
  /** Takes the values of a snapshot by stage id; `immediate` for a start from silence. */
  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void
  tick(): void
  process(block: StereoBlock): void
  reset(): void
}
