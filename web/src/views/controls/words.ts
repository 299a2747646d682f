import { formatValue, modelOf, type ParamSpec } from '@fulgor/core/catalogue'
import {
  findStage,
  partName,
  partsOf,
  POSITION,
  targetSpec,
  type Control,
  type ControlKind,
  type ControlTarget,
  type BoardPage,
  type Curve,
  type CurveShape,
  type Preset,
  GUITAR_STAGE,
} from '@fulgor/core/preset'
import type { ParamValue } from '@fulgor/core/signal'

export const KIND_NAMES: Record<ControlKind, string> = {
  pedal: 'Expression pedal',
  momentary: 'Momentary switch',
  latching: 'Latching switch',
  volume: 'Guitar volume',
  knob: 'Knob',
  macro: 'Macro',
  lfo: 'LFO',
  envelope: 'Envelope',
}

export const CURVE_NAMES: Record<CurveShape, string> = {
  linear: 'straight',
  exponential: 'late',
  logarithmic: 'early',
  s: 'S',
  points: 'drawn',
}

export function targetName(preset: Preset, target: Pick<ControlTarget, 'stage' | 'param'>): string {
  const stage = findStage(preset, target.stage)
  if (target.param === POSITION) return `${partName(preset, target.stage)}, position`
  const label =
    target.param === 'on' ? 'on and off' : stage ? (modelOf(stage.model).params[target.param]?.label ?? target.param) : target.param
  return `${partName(preset, target.stage)}, ${label.toLowerCase()}`
}

export function valueWords(spec: ParamSpec | null | undefined, param: string, value: ParamValue): string {
  if (spec) return formatValue(spec, value)
  return param === 'on' ? (Number(value) >= 0.5 ? 'on' : 'off') : `${Math.round(Number(value) * 100)} %`
}

export function curveWords({ shape, heel, toe }: Curve): string {
  const dead = [heel > 0 ? `from ${Math.round(heel * 100)} %` : '', toe > 0 ? `to ${Math.round((1 - toe) * 100)} %` : ''].filter(Boolean)
  return [CURVE_NAMES[shape], ...dead].join(', ')
}

/** Stages and parameters that can be moved; what an impulse response is made of cannot glide. */
export function movable(preset: Preset, control: Control): { id: string; name: string; params: readonly (readonly [string, string])[] }[] {
  const guitar = {
    id: GUITAR_STAGE,
    name: 'Guitar',
    params: [
      ['volume', 'Volume'],
      ['tone', 'Tone'],
    ] as const,
  }
  const stages = partsOf(preset.chain).map((part) => ({
    id: part.id,
    name: partName(preset, part.id),
    params: [
      ...Object.entries(modelOf(part.model).params).flatMap(([key, spec]) =>
        key === 'response' || key === 'into' ? [] : [[key, spec.label] as const],
      ),
      ['on', 'On and off'] as const,
    ],
  }))
  const macros = (preset.controls ?? [])
    .filter((c) => c.kind === 'macro' && c.id !== control.id)
    .map((c) => ({ id: c.id, name: c.name, params: [[POSITION, 'Position'] as const] }))
  return [...stages, guitar, ...macros]
}

export const specOf = (preset: Preset, target: Pick<ControlTarget, 'stage' | 'param'>): ParamSpec | null | undefined =>
  targetSpec(preset, target)

export const PAGE_NAMES: Record<BoardPage, string> = { snapshots: 'Snapshots', singles: 'Single switches' }

export const NUMBER_FIELD = 'num w-[58px] border-b border-control bg-transparent text-right outline-none focus:border-ink'

export const bindingWords = (midi: Control['midi']): string =>
  midi
    ? `${midi.type === 'cc' ? 'controller' : 'note'} ${midi.number}, ${midi.channel === 0 ? 'any channel' : `channel ${midi.channel}`}`
    : 'none'
