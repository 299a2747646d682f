import { NOTE_VALUES } from '@fulgor/core/stage'

/** How a number is shown and typed. `knob` is a 0–10 scale with a clock position; `plain` has no unit, `count` is a whole number. */
export type Unit =
  | 'knob'
  | 'percent'
  | 'db'
  | 'dbfs'
  | 'lufs'
  | 'hz'
  | 'us'
  | 'ms'
  | 's'
  | 'bpm'
  | 'q'
  | 'cents'
  | 'semitones'
  | 'ratio'
  | 'pan'
  | 'mm'
  | 'deg'
  | 'm'
  | 'kohm'
  | 'henry'
  | 'nf'
  | 'pf'
  | 'plain'
  | 'count'

export interface NumberSpec {
  readonly kind: 'number'
  readonly label: string
  /** The label in a narrow cell. */
  readonly short: string
  readonly unit: Unit
  readonly min: number
  readonly max: number
  readonly initial: number
  /** How slider travel maps to the value. */
  readonly taper: 'linear' | 'log'
  /** What an arrow key adds on a linear taper; on a log taper an arrow key multiplies by 2^(1/24). */
  readonly step: number
  /** A level in dB that is also a pot marked 0–10: an audio taper that stands at `max` fully up, so that noon is 20 dB less. */
  readonly pot?: true
  /** A share that comes round again: typed also in dB, or as the number of repeats until −60 dB. */
  readonly loop?: true
  /** Watts that a level of 0 dB below full stands for: typed also as what is left. */
  readonly fullWatts?: number
}

export interface ChoiceSpec<V extends string = string> {
  readonly kind: 'choice'
  readonly label: string
  readonly short: string
  readonly options: readonly { readonly value: V; readonly label: string }[]
  readonly initial: V
  /**
   * `swap`: the processor cannot glide to the new choice, the stage crossfades to a second instance.
   * `glide`: the processor takes the new choice while it runs.
   * `resolve`: turned into another parameter's value before it reaches the processor.
   */
  readonly change: 'swap' | 'glide' | 'resolve'
}

export type ParamSpec = NumberSpec | ChoiceSpec
export type ParamSpecs = Readonly<Record<string, ParamSpec>>
/** The values that these parameters have. */
export type ParamsOf<P extends ParamSpecs> = { readonly [K in keyof P]: P[K] extends ChoiceSpec<infer V> ? V : number }

interface NumberOptions {
  label: string
  short?: string
  min: number
  max: number
  initial: number
  taper?: 'linear' | 'log'
  step?: number
  pot?: true
  loop?: true
  fullWatts?: number
}

const number =
  (unit: Unit, step: number) =>
  (o: NumberOptions): NumberSpec => ({ kind: 'number', unit, step, taper: 'linear', ...o, short: o.short ?? o.label.toLowerCase() })

export const db = number('db', 0.5)
/** A number that is typed and belongs to no stage. */
export const quantity = (unit: Unit, label: string, [min, max]: readonly [number, number], initial = min): NumberSpec =>
  number(unit, unit === 'count' ? 1 : 0.1)({ label, min, max, initial })
export const hertz = (o: NumberOptions): NumberSpec => ({ ...number('hz', 1)(o), taper: o.taper ?? 'log' })
export const ms = number('ms', 1)
export const us = number('us', 10)
export const mm = number('mm', 1)
export const degrees = number('deg', 1)
export const seconds = (o: NumberOptions): NumberSpec => ({ ...number('s', 0.1)(o), taper: o.taper ?? 'log' })
export const quality = (o: NumberOptions): NumberSpec => ({ ...number('q', 0.1)(o), taper: o.taper ?? 'log' })
export const knob = (o: Omit<NumberOptions, 'min' | 'max'>): NumberSpec => number('knob', 0.1)({ min: 0, max: 10, ...o })
export const percent = (o: Omit<NumberOptions, 'min' | 'max'> & { min?: number; max?: number }): NumberSpec =>
  number('percent', 1)({ ...o, min: o.min ?? 0, max: o.max ?? 100 })
export const cents = number('cents', 1)
export const semitones = number('semitones', 1)
export const ratio = (o: NumberOptions): NumberSpec => ({ ...number('ratio', 0.1)(o), taper: o.taper ?? 'log' })
/** A number without a unit of its own. */
export const plain = number('plain', 0.1)
/** −100 % left to 100 % right. */
export const pan = (o: Omit<NumberOptions, 'min' | 'max' | 'initial'> & { initial?: number }): NumberSpec =>
  number('pan', 5)({ initial: 0, ...o, min: -100, max: 100 })
/** A note value that sets a time or rate from the tempo, or “free”. */
export const noteValue = (label: string, initial: string, free: 'ms' | 's' | 'Hz' = 'ms'): ChoiceSpec =>
  choice<string>({
    label,
    short: 'note',
    options: [['free', `Free (${free})`], ...NOTE_VALUES.map((n) => [n.id, n.name] as const)],
    initial,
    change: 'resolve',
  })
export const onOff = (o: { label: string; short?: string; initial?: 'off' | 'on' }): ChoiceSpec<'off' | 'on'> =>
  choice({
    ...o,
    options: [
      ['off', 'Off'],
      ['on', 'On'],
    ],
    initial: o.initial ?? 'off',
    change: 'glide',
  })
export const choice = <const V extends string>(o: {
  label: string
  short?: string
  options: readonly (readonly [value: V, label: string])[]
  initial: NoInfer<V>
  change?: 'swap' | 'glide' | 'resolve'
}): ChoiceSpec<V> => ({
  kind: 'choice',
  label: o.label,
  short: o.short ?? o.label.toLowerCase(),
  options: o.options.map(([value, label]) => ({ value, label })),
  initial: o.initial,
  change: o.change ?? 'swap',
})
