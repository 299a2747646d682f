import { rangeProblem } from '@fulgor/core/catalogue'
import { DocumentError } from '@fulgor/core/document'
import type { Preset } from '../preset'
import { targetSpec } from './controls'
import type { ControlTarget } from './description'

/** Whether targets name parameters that are there, values in their ranges, and snapshots of the preset. @throws DocumentError */
export function checkControls(preset: Preset): void {
  preset.controls?.forEach((control, i) =>
    control.targets.forEach((target, k) => checkTarget(preset, target, `controls[${i}].targets[${k}]`)),
  )
}

function checkTarget(preset: Preset, target: ControlTarget, path: string): void {
  const spec = targetSpec(preset, target)
  if (spec === undefined) throw new DocumentError(path, `there is no “${target.param}” at “${target.stage}” to move.`)
  for (const key of ['from', 'to'] as const) {
    const value = target[key]
    if (spec?.kind === 'choice') {
      if (!spec.options.some((o) => o.value === value))
        throw new DocumentError(`${path}.${key}`, `must be one of ${spec.options.map((o) => o.value).join(', ')}.`)
      continue
    }
    const outside = (n: number) => (spec ? rangeProblem(spec, n) : n < 0 || n > 1 ? 'must lie from 0 to 1.' : null)
    const problem = typeof value === 'number' ? outside(value) : 'must be a number.'
    if (problem) throw new DocumentError(`${path}.${key}`, problem)
  }
  const strange = target.snapshots?.find((s) => !preset.snapshots.some((own) => own.id === s))
  if (strange !== undefined) throw new DocumentError(`${path}.snapshots`, `there is no snapshot “${strange}”.`)
}
