import type { Edit, Preset } from '@fulgor/core/preset'
import type { Reading } from '@fulgor/core/reading'

/** A figure that says how bad it is: the larger the worse. */
export interface Amount {
  readonly value: number
  readonly unit: keyof typeof CLEARLY
  /** What it is measured against, as in “limit −1.0”. */
  readonly against?: string
}

/** By how much a figure must grow to be clearly worse (common practice, no source). */
const CLEARLY = { dB: 2, LU: 1.5, dBTP: 1.5, ms: 20, '%': 10, Hz: 300, cents: 50 } as const

export interface Mend {
  readonly label: string
  readonly edits: readonly Edit[]
  /** It changes level, timing or order, and no tone: it may be taken together with others, unheard. */
  readonly safe?: true
}

/** One thing that was found in a preset. */
export interface Finding {
  readonly rule: string
  /** `warning` will go wrong; `note` is worth knowing. */
  readonly severity: 'warning' | 'note'
  /** Stages that it is about. */
  readonly where: readonly string[]
  /** Snapshots in which it is so; all where absent. */
  readonly snapshots?: readonly string[]
  /** Sources that it is about. */
  readonly controls?: readonly string[]
  /** Frequency that it is about, Hz. */
  readonly hz?: number
  /** What is so, with its number. */
  readonly figure: string
  readonly amount?: Amount
  /** Why it matters, in one sentence. */
  readonly reason: string
  /** Each mends it by itself, in one step of undo. */
  readonly mends: readonly Mend[]
}

interface Rule {
  readonly id: string
  /** For the beginner, in two or three sentences; where good players disagree, what each choice does. */
  readonly why: string
}

/** A rule that goes by the preset's values alone. */
export interface Check extends Rule {
  /** @param newId gives ids for what a mend adds */
  find(preset: Preset, newId: () => string): Finding[]
}

/** A preset with what was read of its sound, by snapshot. */
export interface Heard {
  readonly preset: Preset
  readonly readings: Readonly<Record<string, Reading | undefined>>
}

/** A rule that goes by the sound. */
export interface SoundCheck extends Rule {
  find(heard: Heard, newId: () => string): Finding[]
}

/** Names a finding over edits: the same rule at the same place. */
export const findingKey = ({ rule, where, snapshots = [] }: Finding): string =>
  [rule, [...where].sort().join(' '), [...snapshots].sort().join(' ')].join('; ').slice(0, 400)

/** True while the player has set a finding aside and its figure has not become clearly worse since. */
export function isAside(preset: Preset, finding: Finding): boolean {
  const aside = preset.asides?.find((a) => a.finding === findingKey(finding))
  if (!aside) return false
  const { amount } = finding
  return amount === undefined || aside.amount === undefined || amount.value < aside.amount + CLEARLY[amount.unit]
}
