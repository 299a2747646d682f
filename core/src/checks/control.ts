import { modelOf } from '@fulgor/core/catalogue'
import { findStage, isLive, POSITION, type Control, type ControlTarget, type Preset, type Snapshot } from '@fulgor/core/preset'

/** An assignment with its source. */
export interface Assignment {
  readonly control: Control
  readonly target: ControlTarget
}

/** Everything that moves a parameter of the chain. */
export const assignmentsOf = (preset: Preset): Assignment[] =>
  (preset.controls ?? []).flatMap((control) => control.targets.filter((t) => t.param !== POSITION).map((target) => ({ control, target })))

export const liveIn = (preset: Preset, target: ControlTarget): Snapshot[] => preset.snapshots.filter((s) => isLive(target, s.id))

/** “Delay’s mix”. */
export function paramWords(preset: Preset, { stage: id, param }: Pick<ControlTarget, 'stage' | 'param'>): string {
  const stage = findStage(preset, id)
  if (!stage) return param
  const { name, params } = modelOf(stage.model)
  return `${name}’s ${param === 'on' ? 'switch' : params[param].label.toLowerCase()}`
}

export const names = (snapshots: readonly Snapshot[]): string => snapshots.map((s) => `“${s.name}”`).join(', ')

/** The assignment without some snapshots. */
export function notIn(preset: Preset, { control, target }: Assignment, snapshots: readonly Snapshot[]) {
  const gone = new Set(snapshots.map((s) => s.id))
  const left = liveIn(preset, target).flatMap((s) => (gone.has(s.id) ? [] : [s.id]))
  return left.length === 0
    ? ({ type: 'removeTarget', control: control.id, target: target.id } as const)
    : ({ type: 'changeTarget', control: control.id, target: target.id, change: { snapshots: left } } as const)
}

export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`
