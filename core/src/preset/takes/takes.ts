import type { DeviceScale } from './description'

export const DEFAULT_SCALE: DeviceScale = { name: 'My device', kind: 'db', min: -60, max: 12, stepDb: 3 }

/**
 * Where a device's level control must go to change the loudness by some dB.
 * @returns the setting, rounded to a tenth and held inside the scale, and the dB that it cannot reach (0 where it can)
 */
export function deviceSetting(scale: DeviceScale, setting: number, changeDb: number): { setting: number; missingDb: number } {
  const dbAt = (mark: number) =>
    scale.kind === 'share' ? 20 * Math.log10(Math.max(mark, 1e-6)) : mark * (scale.kind === 'db' ? 1 : scale.stepDb)
  const wanted = dbAt(setting) + changeDb
  const mark = scale.kind === 'share' ? Math.pow(10, wanted / 20) : wanted / (scale.kind === 'db' ? 1 : scale.stepDb)
  const held = Math.min(scale.max, Math.max(scale.min, mark))
  return { setting: Math.round(held * 10) / 10, missingDb: held === mark ? 0 : wanted - dbAt(held) }
}
