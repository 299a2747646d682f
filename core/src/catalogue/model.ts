import type { Processor, ResponseSource } from '@fulgor/core/signal'
import type { ParamSpecs } from './params'

export const FAMILIES = ['gate', 'drive', 'amp', 'cabinet', 'eq', 'delay', 'reverb', 'utility'] as const
export type Family = (typeof FAMILIES)[number]

/** What the Focus panel can draw of a stage; all are measured on the running processor. */
export type ChartKind = 'response' | 'transfer' | 'tail'

/** What a processor may need from outside to be built. */
export interface BuildContext {
  responses: ResponseSource
}

/** A model that a player can choose: the only place that knows its parameters' units, ranges, tapers and defaults. */
export interface StageModel {
  readonly id: string
  readonly name: string
  readonly family: Family
  /** What it is for, in one sentence. */
  readonly purpose: string
  /** What to look for on a device that lacks it. */
  readonly substitute: string
  readonly params: ParamSpecs
  readonly charts: readonly ChartKind[]
  /** Linear and time-invariant: a response describes it whole. */
  readonly linear: boolean
  /** Two parameters shown under the stage's name. */
  readonly headline: readonly string[]
  /** The parameter that a note value replaces, with the choice that holds the note value. */
  readonly sync?: { readonly time: string; readonly note: string }
  build(context: BuildContext): Processor
}

/** Declares a catalogue entry; the processor's parameters are those declared here. */
export function stage<P extends ParamSpecs>(
  model: Omit<StageModel, 'params' | 'build' | 'headline'> & {
    params: P
    headline: readonly (keyof P & string)[]
    build(context: BuildContext): Processor<never>
  },
): StageModel {
  return model
}
