import { rangeProblem } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { NOTE_VALUES } from '@fulgor/core/stage'
import {
  CONTROL_KINDS,
  CONTROL_LIMITS,
  createControl,
  LFO_SHAPES,
  MAX_CONTROLS,
  MAX_TARGETS,
  ON_SNAPSHOT,
  targetSpec,
  type Control,
  type ControlTarget,
} from './controls'
import { CURVE_SHAPES, MAX_DEAD, MAX_POINTS, type Curve } from './curves'
import { array, flag, noOthers, numberIn, object, oneOf, PresetError, readId, text } from './fields'
import type { Preset } from './preset'
import { readMidiBinding } from './readBoard'

const FIELDS = ['id', 'name', 'kind', 'rest', 'smoothing', 'onSnapshot', 'midi', 'note', 'hz', 'shape', 'declared', 'low', 'high', 'attack', 'release', 'targets'] // prettier-ignore

/** Sources and what they move, of a preset whose chain and snapshots are read. @throws PresetError */
export function readControls(value: unknown, preset: Preset): readonly Control[] {
  const ids = new Set<string>()
  const controls = array(value, 'controls', MAX_CONTROLS).map((c, i) => readControl(c, `controls[${i}]`, ids))
  const whole = { ...preset, controls }
  const count = controls.reduce((n, c) => n + c.targets.length, 0)
  if (count > MAX_TARGETS) throw new PresetError('controls', `holds ${count} assignments, at most ${MAX_TARGETS} are possible.`)
  controls.forEach((control, i) => control.targets.forEach((target, k) => checkTarget(whole, target, `controls[${i}].targets[${k}]`)))
  return controls
}

function readControl(value: unknown, path: string, ids: Set<string>): Control {
  const o = object(value, path)
  noOthers(o, path, FIELDS)
  const made = createControl(readId(o.id, `${path}.id`, ids), oneOf(o.kind, `${path}.kind`, CONTROL_KINDS), text(o.name, `${path}.name`, 60, 1)) // prettier-ignore
  const number = (key: 'rest' | 'smoothing' | 'hz' | 'low' | 'high' | 'attack' | 'release', range: readonly [number, number]) =>
    o[key] === undefined ? made[key] : numberIn(o[key], `${path}.${key}`, range)
  return {
    ...made,
    rest: number('rest', [0, 1]),
    smoothing: number('smoothing', CONTROL_LIMITS.smoothing),
    onSnapshot: o.onSnapshot === undefined ? made.onSnapshot : oneOf(o.onSnapshot, `${path}.onSnapshot`, ON_SNAPSHOT),
    midi: o.midi === undefined || o.midi === null ? null : readMidiBinding(o.midi, `${path}.midi`),
    note: o.note === undefined ? made.note : oneOf(o.note, `${path}.note`, ['free', ...NOTE_VALUES.map((n) => n.id)]),
    hz: number('hz', CONTROL_LIMITS.hz),
    shape: o.shape === undefined ? made.shape : oneOf(o.shape, `${path}.shape`, LFO_SHAPES),
    declared: o.declared === undefined ? made.declared : flag(o.declared, `${path}.declared`),
    low: number('low', CONTROL_LIMITS.db),
    high: number('high', CONTROL_LIMITS.db),
    attack: number('attack', CONTROL_LIMITS.attack),
    release: number('release', CONTROL_LIMITS.release),
    targets: array(o.targets, `${path}.targets`, MAX_TARGETS).map((t, k) => readTarget(t, `${path}.targets[${k}]`, ids)),
  }
}

function readTarget(value: unknown, path: string, ids: Set<string>): ControlTarget {
  const o = object(value, path)
  noOthers(o, path, ['id', 'stage', 'param', 'from', 'to', 'curve', 'snapshots'])
  const end = (key: 'from' | 'to'): ParamValue => {
    const raw = o[key]
    if (typeof raw !== 'number' && typeof raw !== 'string') throw new PresetError(`${path}.${key}`, 'must be a number or a choice.')
    return raw
  }
  return {
    id: readId(o.id, `${path}.id`, ids),
    stage: text(o.stage, `${path}.stage`, 40, 1),
    param: text(o.param, `${path}.param`, 40, 1),
    from: end('from'),
    to: end('to'),
    curve: readCurve(o.curve, `${path}.curve`),
    snapshots: o.snapshots === null ? null : array(o.snapshots, `${path}.snapshots`, 8).map((s, i) => text(s, `${path}.snapshots[${i}]`, 40, 1)), // prettier-ignore
  }
}

function readCurve(value: unknown, path: string): Curve {
  const o = object(value, path)
  noOthers(o, path, ['shape', 'heel', 'toe', 'points'])
  const curve = {
    shape: oneOf(o.shape, `${path}.shape`, CURVE_SHAPES),
    heel: numberIn(o.heel, `${path}.heel`, [0, MAX_DEAD]),
    toe: numberIn(o.toe, `${path}.toe`, [0, MAX_DEAD]),
  }
  if (o.points === undefined) return curve
  const points = array(o.points, `${path}.points`, MAX_POINTS).map((p, i) => {
    const pair = array(p, `${path}.points[${i}]`, 2)
    return [numberIn(pair[0], `${path}.points[${i}][0]`, [0, 1]), numberIn(pair[1], `${path}.points[${i}][1]`, [0, 1])] as const
  })
  if (points.some(([x], i) => i > 0 && x < points[i - 1][0]))
    throw new PresetError(`${path}.points`, 'must stand in the order of the travel.')
  return { ...curve, points }
}

/** A target names a parameter that is there, values in its range, and snapshots of the preset. */
function checkTarget(preset: Preset, target: ControlTarget, path: string): void {
  const spec = targetSpec(preset, target)
  if (spec === undefined) throw new PresetError(path, `there is no “${target.param}” at “${target.stage}” to move.`)
  for (const key of ['from', 'to'] as const) {
    const value = target[key]
    if (spec?.kind === 'choice') {
      if (!spec.options.some((o) => o.value === value))
        throw new PresetError(`${path}.${key}`, `must be one of ${spec.options.map((o) => o.value).join(', ')}.`)
      continue
    }
    const problem = typeof value !== 'number' ? 'must be a number.' : spec ? rangeProblem(spec, value) : value < 0 || value > 1 ? 'must lie from 0 to 1.' : null // prettier-ignore
    if (problem) throw new PresetError(`${path}.${key}`, problem)
  }
  const strange = target.snapshots?.find((s) => !preset.snapshots.some((own) => own.id === s))
  if (strange !== undefined) throw new PresetError(`${path}.snapshots`, `there is no snapshot “${strange}”.`)
}
