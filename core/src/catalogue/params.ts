/** How a number is shown and typed. `knob` is a 0–10 scale with a clock position. */
export type Unit = 'knob' | 'percent' | 'db' | 'hz' | 'ms' | 's' | 'q'

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
}

export interface ChoiceSpec {
  readonly kind: 'choice'
  readonly label: string
  readonly short: string
  readonly options: readonly { readonly value: string; readonly label: string }[]
  readonly initial: string
  /**
   * `swap`: the processor cannot glide to the new choice, the stage crossfades to a second instance.
   * `resolve`: turned into another parameter's value before it reaches the processor.
   */
  readonly change: 'swap' | 'resolve'
}

export type ParamSpec = NumberSpec | ChoiceSpec
export type ParamSpecs = Readonly<Record<string, ParamSpec>>

interface NumberOptions {
  label: string
  short?: string
  min: number
  max: number
  initial: number
  taper?: 'linear' | 'log'
  step?: number
}

const number =
  (unit: Unit, step: number) =>
  (o: NumberOptions): NumberSpec => ({ kind: 'number', unit, step, taper: 'linear', ...o, short: o.short ?? o.label.toLowerCase() })

export const db = number('db', 0.5)
export const hertz = (o: NumberOptions): NumberSpec => ({ ...number('hz', 1)(o), taper: o.taper ?? 'log' })
export const ms = number('ms', 1)
export const seconds = (o: NumberOptions): NumberSpec => ({ ...number('s', 0.1)(o), taper: o.taper ?? 'log' })
export const quality = (o: NumberOptions): NumberSpec => ({ ...number('q', 0.1)(o), taper: o.taper ?? 'log' })
export const knob = (o: Omit<NumberOptions, 'min' | 'max'>): NumberSpec => number('knob', 0.1)({ min: 0, max: 10, ...o })
export const percent = (o: Omit<NumberOptions, 'min' | 'max'> & { max?: number }): NumberSpec =>
  number('percent', 1)({ ...o, min: 0, max: o.max ?? 100 })
export const choice = (o: {
  label: string
  short?: string
  options: readonly (readonly [value: string, label: string])[]
  initial: string
  change?: 'swap' | 'resolve'
}): ChoiceSpec => ({
  kind: 'choice',
  label: o.label,
  short: o.short ?? o.label.toLowerCase(),
  options: o.options.map(([value, label]) => ({ value, label })),
  initial: o.initial,
  change: o.change ?? 'swap',
})
