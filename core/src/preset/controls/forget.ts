import type { Preset } from '../preset'
import { targetSpec } from './controls'
import type { ControlTarget } from './description'

/** Forgets targets whose parameter is gone, and snapshots that they were live in. */
export function forgetTargets(preset: Preset): Preset {
  if (!preset.controls) return preset
  const ids = new Set(preset.snapshots.map((s) => s.id))
  const lost = (t: ControlTarget) => targetSpec(preset, t) === undefined || (t.snapshots?.some((s) => !ids.has(s)) ?? false)
  if (!preset.controls.some((c) => c.targets.some(lost))) return preset
  const controls = preset.controls.map((c) => ({
    ...c,
    targets: c.targets.flatMap((t) => {
      if (targetSpec(preset, t) === undefined) return []
      return [t.snapshots ? { ...t, snapshots: t.snapshots.filter((s) => ids.has(s)) } : t]
    }),
  }))
  return { ...preset, controls }
}
