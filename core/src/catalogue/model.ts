import type { ParamValue, Processor, Quality, ResponseSource } from '@fulgor/core/signal'
import { tagsOf } from './tags'
import { db, onOff, type NumberSpec, type ParamSpecs } from './params'

export const FAMILIES = [
  'gate',
  'compressor',
  'drive',
  'filter',
  'pitch',
  'amp',
  'cabinet',
  'eq',
  'modulation',
  'delay',
  'reverb',
  'utility',
] as const
export type Family = (typeof FAMILIES)[number]

/** What the Focus panel can draw of a stage; all are measured on the running processor. */
export type ChartKind = 'response' | 'feel' | 'gain' | 'tail'

/** What a processor may need from outside to be built. */
export interface BuildContext {
  responses: ResponseSource
  /** How finely clipping stages are oversampled. */
  quality: Quality
}

type Values = Readonly<Record<string, ParamValue>>

/** A model that a player can choose: the only place that knows its parameters' units, ranges, tapers and defaults. */
export interface StageModel {
  readonly id: string
  readonly name: string
  readonly family: Family
  /** What it is for, in one sentence. */
  readonly purpose: string
  /** Words that players look for it by. */
  readonly tags: readonly string[]
  /** What to look for on a device that lacks it. */
  readonly substitute: string
  /** The model's own, and `level`, which every stage has. */
  readonly params: ParamSpecs
  readonly charts: readonly ChartKind[]
  /** Linear and time-invariant: a response describes it whole. */
  readonly linear: boolean
  /** Two parameters shown under the stage's name. */
  readonly headline: readonly string[]
  /** Times and rates that a note value replaces, each with the choice that holds the note value. */
  readonly sync?: readonly { readonly time: string; readonly note: string }[]
  /** Values that follow from others, once note values are times. */
  readonly derived?: (values: Values) => Readonly<Record<string, number>>
  /** Parameters that do nothing at these values, each with the reason. */
  readonly inert?: (values: Values) => Readonly<Record<string, string>>
  /** Off is silence and not a bypass. */
  readonly silentWhenOff?: boolean
  /** ms by which the effect's voice is late, where it matters to a player. */
  readonly latencyMs?: number
  build(context: BuildContext): Processor
}

/** Whether an effect's tail goes on when a snapshot or the player switches it off. */
const TRAILS = onOff({ label: 'Trails', initial: 'on' })

const LEVEL = db({ label: 'Level', short: 'lvl', min: -30, max: 20, initial: 0 })

/** Declares a catalogue entry. A `level` among the parameters sets the range of the one that every stage has. */
export function stage<P extends ParamSpecs>(
  model: Omit<StageModel, 'params' | 'build' | 'headline' | 'tags'> & {
    params: P
    level?: NumberSpec
    headline: readonly ((keyof P & string) | 'level')[]
    build(context: BuildContext): Processor<never>
  },
): StageModel {
  const { level = LEVEL, ...rest } = model
  const trails = model.family === 'delay' || model.family === 'reverb' ? { trails: TRAILS } : {}
  return { ...rest, tags: tagsOf(model.id), params: { ...model.params, ...trails, level } }
}

/** The same reason for several parameters, for {@link StageModel.inert}. */
export const inertIf = (does: boolean, keys: readonly string[], reason: string): Readonly<Record<string, string>> =>
  does ? Object.fromEntries(keys.map((key) => [key, reason])) : {}
