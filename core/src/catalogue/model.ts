import type { ParamValue, Processor, Quality, ResponseSource } from '@fulgor/core/signal'
import { db, onOff, type NumberSpec, type ParamSpecs, type ParamsOf } from './params'

/** How families are treated where a model says nothing else (common practice, no source). */
const FAMILY_TRAITS = {
  gate: {},
  compressor: {},
  drive: { byFoot: true },
  filter: { byFoot: true },
  pitch: { byFoot: true, voice: true },
  amp: {},
  cabinet: {},
  eq: {},
  modulation: { byFoot: true, voice: true, wet: true },
  delay: { byFoot: true, voice: true, wet: true, trails: true },
  reverb: { byFoot: true, voice: true, wet: true, trails: true },
  utility: {},
} as const satisfies Record<string, Traits>
export type Family = keyof typeof FAMILY_TRAITS
export const FAMILIES = Object.keys(FAMILY_TRAITS) as Family[]

/** How a model is treated by what stands around it. */
export interface Traits {
  /** Players switch it by foot. */
  readonly byFoot?: boolean
  /** It adds a voice of its own: in a lane of its own it is heard alone. */
  readonly voice?: boolean
  /** It is taken away when a tone is judged dry. */
  readonly wet?: boolean
  /** Its tail may go on when it is switched off. */
  readonly trails?: boolean
}

/** One line of repeats. */
export interface EchoLine {
  /** ms. */
  readonly time: number
  /** %. */
  readonly feedback: number
  /** dB. */
  readonly level: number
}

/** What the Focus panel can draw of a stage; all are measured on the running processor. */
export type ChartKind = 'response' | 'feel' | 'gain' | 'tail'

/** What a processor may need from outside to be built. */
export interface BuildContext {
  responses: ResponseSource
  /** How finely clipping stages are oversampled. */
  quality: Quality
  /** Told when a stage fails while it sounds: it is mute from then on, and all else goes on. Without it, the failure goes to the caller. */
  failed?: (stage: string, error: unknown) => void
}

type Values = Readonly<Record<string, ParamValue>>

/** A model that a player can choose: the only place that knows its parameters' units, ranges, tapers and defaults. */
export interface StageModel extends Traits {
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
  /** What is shown under the name instead of them, where that hangs on what is moved; empty is flat. */
  readonly summary?: (values: Values) => readonly string[]
  /** Times and rates that a note value replaces, each with the choice that holds the note value. */
  readonly sync?: readonly { readonly time: string; readonly note: string }[]
  /** Values that follow from others, once note values are times. */
  readonly derived?: (values: Values) => Readonly<Record<string, number>>
  /** Parameters that do nothing at these values, each with the reason. */
  readonly inert?: (values: Values) => Readonly<Record<string, string>>
  /** Loud signals saturate it, as in a pedal. */
  readonly limitedHeadroom?: boolean
  /** Off is silence and not a bypass. */
  readonly silentWhenOff?: boolean
  /** While it is on its sound is what it gets times its level, and nothing else. */
  readonly onlyLevel?: boolean
  /** The repeats that are heard of it, for models that repeat. */
  readonly echoes?: (values: Values) => readonly EchoLine[]
  /** µs that 128 frames at 48 kHz take in live quality, beside the engine's own: `npm run bench` on the machine of the notes. */
  readonly cost: number
  /** ms by which the effect's voice is late, where it matters to a player. */
  readonly latencyMs?: number
  build(context: BuildContext): Processor
}

/** Whether an effect's tail goes on when a snapshot or the player switches it off. */
const TRAILS = onOff({ label: 'Trails', initial: 'on' })

const LEVEL = db({ label: 'Level', short: 'lvl', min: -30, max: 20, initial: 0 })

/**
 * Declares a catalogue entry; what it is built of must take just the parameters that stand here. A `level` among the parameters sets the range of the one that every stage has. */
export function stage<P extends ParamSpecs>(
  model: Omit<StageModel, 'params' | 'build' | 'headline' | 'inert' | 'derived' | 'sync' | 'echoes' | 'summary' | 'tags'> & {
    params: P
    /** Words, apart by spaces. */
    tags?: string
    level?: NumberSpec
    headline: readonly ((keyof P & string) | 'level')[]
    summary?: (values: ParamsOf<P>) => readonly string[]
    sync?: readonly { readonly time: keyof P & string; readonly note: keyof P & string }[]
    derived?: (values: ParamsOf<P>) => { readonly [K in keyof P]?: number }
    inert?: (values: ParamsOf<P>) => Readonly<Record<string, string>>
    echoes?: (values: ParamsOf<P>) => readonly EchoLine[]
    build: (context: BuildContext) => Processor<ParamsOf<P>>
  },
): StageModel {
  const { level = LEVEL, tags = '', ...rest } = { ...(FAMILY_TRAITS[model.family] as Traits), ...model }
  const params = { ...model.params, ...(rest.trails ? { trails: TRAILS } : {}), level }
  // every value that reaches a model was checked against its parameters
  return { ...rest, tags: tags.split(' ').filter(Boolean), params } as unknown as StageModel
}

/** True of drives and amps that distort: what stands before them is heard otherwise than what stands behind. */
export const clips = ({ family, linear }: Pick<StageModel, 'family' | 'linear'>): boolean =>
  !linear && (family === 'drive' || family === 'amp')

/** The same reason for several parameters, for {@link StageModel.inert}. */
export const inertIf = (does: boolean, keys: readonly string[], reason: string): Readonly<Record<string, string>> =>
  does ? Object.fromEntries(keys.map((key) => [key, reason])) : {}

/** What is not heard of an effect whose mix is at 0 %: all but what belongs to every stage. */
export const unheardAtNoMix = (values: Readonly<Record<string, unknown>>): Readonly<Record<string, string>> =>
  inertIf(
    values.mix === 0,
    Object.keys(values).filter((key) => key !== 'mix' && key !== 'level' && key !== 'trails'),
    'The mix is at 0 %.',
  )
