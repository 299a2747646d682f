import { edit } from '../edit'
import type { Preset } from '../preset'
import { targetSpec } from './controls'
import { MAX_CONTROLS, MAX_TARGETS, type Control, type ControlTarget } from './description'

export const controlEdits = {
  addControl: edit<{ control: Control }>((preset, { control }) => {
    const { controls = [] } = preset
    if (controls.length >= MAX_CONTROLS) throw new RangeError(`A preset has at most ${MAX_CONTROLS} sources.`)
    return { ...preset, controls: [...controls, control] }
  }),
  changeControl: edit<{ control: string; change: Partial<Omit<Control, 'id' | 'targets'>> }>(
    (preset, { control, change }) => mapControl(preset, control, (c) => ({ ...c, ...change })),
    { joins: ({ control, change }) => `${control} ${Object.keys(change).join()}` },
  ),
  removeControl: edit<{ control: string }>(
    (preset, { control }) => ({ ...preset, controls: (preset.controls ?? []).filter((c) => c.id !== control) }),
    { removes: true },
  ),
  addTarget: edit<{ control: string; target: ControlTarget }>((preset, { control, target }) => {
    const count = (preset.controls ?? []).reduce((n, c) => n + c.targets.length, 0)
    if (count >= MAX_TARGETS) throw new RangeError(`A preset has at most ${MAX_TARGETS} assignments.`)
    if (targetSpec(preset, target) === undefined) throw new RangeError('There is no such parameter to move.')
    return mapControl(preset, control, (c) => ({ ...c, targets: [...c.targets, target] }))
  }),
  changeTarget: edit<{ control: string; target: string; change: Partial<Omit<ControlTarget, 'id'>> }>(
    (preset, { control, target, change }) =>
      mapControl(preset, control, (c) => ({ ...c, targets: c.targets.map((t) => (t.id === target ? { ...t, ...change } : t)) })),
    { joins: ({ target, change }) => `${target} ${Object.keys(change).join()}` },
  ),
  removeTarget: edit<{ control: string; target: string }>((preset, { control, target }) =>
    mapControl(preset, control, (c) => ({ ...c, targets: c.targets.filter((t) => t.id !== target) })),
  ),
}

function mapControl(preset: Preset, id: string, change: (control: Control) => Control): Preset {
  if (!(preset.controls ?? []).some((c) => c.id === id)) throw new RangeError(`There is no source “${id}” in this preset.`)
  return { ...preset, controls: (preset.controls ?? []).map((c) => (c.id === id ? change(c) : c)) }
}
