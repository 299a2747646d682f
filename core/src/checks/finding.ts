import type { Edit, Preset } from '@fulgor/core/preset'

/** One thing that was found in a preset. */
export interface Finding {
  readonly rule: string
  readonly severity: 'warning' | 'note'
  /** Stages that it is about. */
  readonly where: readonly string[]
  /** Sources that it is about. */
  readonly controls?: readonly string[]
  /** What is so, with its number. */
  readonly figure: string
  /** Why it matters, in one sentence. */
  readonly reason: string
  /** Each mends it by itself, in one step of undo. */
  readonly mends: readonly { readonly label: string; readonly edits: readonly Edit[] }[]
}

export interface Check {
  readonly id: string
  /** @param newId gives ids for what a mend adds */
  find(preset: Preset, newId: () => string): Finding[]
}
