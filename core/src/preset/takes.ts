/** A recording of the player's own device playing a snapshot. */
export interface Take {
  readonly id: string
  /** SHA-256 of the stored recording. */
  readonly file: string
  readonly device: string
  /** YYYY-MM-DD. */
  readonly date: string
  readonly note: string
  /** Where the device's level control stood, in its own scale; null when the player did not say. */
  readonly setting: number | null
}

/** How the level control of the player's device is marked, and what it does. */
export interface DeviceScale {
  readonly name: string
  /** `db`: a mark is a dB; `share`: marks are proportional to the amplitude, as % are; `steps`: a mark is `stepDb` dB. */
  readonly kind: 'db' | 'share' | 'steps'
  readonly min: number
  readonly max: number
  /** dB that one mark is worth, with `steps`. */
  readonly stepDb: number
}

export const SCALE_KINDS = ['db', 'share', 'steps'] as const
export const MAX_TAKES = 12

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
