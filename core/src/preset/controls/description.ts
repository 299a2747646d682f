import {
  choice,
  DocumentError,
  filled,
  flag,
  id,
  list,
  named,
  nullable,
  number,
  optional,
  pair,
  record,
  refined,
  text,
  type Field,
  type RecordOf,
} from '@fulgor/core/document'
import type { ParamValue } from '@fulgor/core/signal'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { bindingField } from '../midi/description'

export const MAX_CONTROLS = 24
export const MAX_TARGETS = 64
/** Largest share of the travel in which nothing moves, at either end. */
export const MAX_DEAD = 0.45
export const MAX_POINTS = 16

/** What can move parameters. */
export const CONTROL_KINDS = ['pedal', 'momentary', 'latching', 'volume', 'knob', 'macro', 'lfo', 'envelope'] as const
export type ControlKind = (typeof CONTROL_KINDS)[number]

/** What a source does to its targets when a snapshot is loaded. */
export const ON_SNAPSHOT = ['jump', 'pickup', 'keep'] as const
export type OnSnapshot = (typeof ON_SNAPSHOT)[number]

export const LFO_SHAPES = ['sine', 'triangle', 'square', 'throb'] as const

/** How a source's travel becomes a target's. */
export const CURVE_SHAPES = ['linear', 'exponential', 'logarithmic', 's', 'points'] as const
export type CurveShape = (typeof CURVE_SHAPES)[number]

const share = number([0, 1])

const curveField = record({
  shape: choice(CURVE_SHAPES),
  /** Share of the travel at heel and toe in which nothing moves, 0–0.45. */
  heel: number([0, MAX_DEAD]),
  toe: number([0, MAX_DEAD]),
  /** With `points`: travel and value, 0–1 each, in the order of the travel; straight in between. */
  points: optional(
    refined(list(pair(share), MAX_POINTS), (points, path) => {
      if (points.some(([x], i) => i > 0 && x < points[i - 1][0])) throw new DocumentError(path, 'must stand in the order of the travel.')
    }),
  ),
})

export type Curve = RecordOf<typeof curveField.fields>

export const LINEAR: Curve = { shape: 'linear', heel: 0, toe: 0 }

/** A value in the target's own unit; whether it fits is seen once the chain is known. */
const endField: Field<ParamValue> = {
  read(value, path) {
    if (typeof value !== 'number' && typeof value !== 'string') throw new DocumentError(path, 'must be a number or a choice.')
    return value
  },
  schema: () => ({ type: ['number', 'string'] }),
}

const targetRecord = record({
  id: id(),
  /** A stage or lane; or a macro, with the parameter `position`. */
  stage: text(40),
  /** A parameter of the stage, or `on`. */
  param: text(40),
  /** Value at heel and at toe, in the parameter's unit; either way round. A choice runs through its options, `on` is 0 or 1. */
  from: endField,
  to: endField,
  curve: curveField,
  /** Snapshots that it is live in; null: all. */
  snapshots: nullable(list(text(40), 8)),
})

/** One parameter that a source moves. */
export type ControlTarget = RecordOf<typeof targetRecord.fields>

const decibels = number([-80, 0])

const controlRecord = record({
  id: id(),
  kind: choice(CONTROL_KINDS),
  name: text(60),
  /** Position that it rests in, 0 heel to 1 toe. */
  rest: number([0, 1], { about: 'Position that it rests in, 0 heel to 1 toe.' }),
  /** ms, time constant of its glide. */
  smoothing: number([0, 2_000], { about: 'ms.' }),
  onSnapshot: choice(ON_SNAPSHOT),
  /** Controller or note that moves it. */
  midi: nullable(bindingField),
  /** Of an LFO: one turn lasts this note value, or with `free` that of `hz`. */
  note: choice(['free', ...NOTE_VALUES.map((n) => n.id)]),
  hz: number([0.02, 20]),
  shape: choice(LFO_SHAPES),
  /** Of the guitar's volume: the player says where it stands, instead of its being heard from the input. */
  declared: flag({ about: 'The player says where the guitar’s volume stands.' }),
  /** Of an envelope or the guitar's volume: dBFS of the dry input at heel and toe, and its times in ms. */
  low: decibels,
  high: decibels,
  attack: number([0.1, 2_000], { about: 'ms.' }),
  release: number([1, 5_000], { about: 'ms.' }),
  targets: list(
    named('target', () => targetRecord),
    MAX_TARGETS,
  ),
})

/** A source that the player moves, or that moves by itself. */
export type Control = RecordOf<typeof controlRecord.fields>

/** An assignment that is live in every snapshot. */
export const createTarget = (
  id: string,
  stage: string,
  param: string,
  from: ParamValue,
  to: ParamValue,
  curve: Curve = LINEAR,
): ControlTarget => ({ id, stage, param, from, to, curve, snapshots: null })

export const controlFields = controlRecord.fields

export const createControl = (id: string, kind: ControlKind, name: string): Control => ({
  id,
  kind,
  name,
  rest: 0,
  smoothing: 20,
  onSnapshot: 'jump',
  midi: null,
  note: 'free',
  hz: 0.5,
  shape: 'sine',
  declared: false,
  low: -50,
  high: -12,
  attack: kind === 'volume' ? 80 : 5,
  release: kind === 'volume' ? 600 : 150,
  targets: [],
})

/** Sources and what they move. */
export const controlsField = refined(
  list(
    named('control', () =>
      filled(controlRecord, ['id', 'name', 'kind', 'targets'], ({ kind }) => {
        const { id: _, kind: __, name: ___, targets: ____, ...initial } = createControl('', kind as ControlKind, '')
        return initial
      }),
    ),
    MAX_CONTROLS,
    { ids: 'own' },
  ),
  (controls, path) => {
    const count = controls.reduce((n, c) => n + c.targets.length, 0)
    if (count > MAX_TARGETS) throw new DocumentError(path, `holds ${count} assignments, at most ${MAX_TARGETS} are possible.`)
  },
)
