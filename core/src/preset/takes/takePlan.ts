import { targetOf } from '../levels/levelling'
import type { Preset } from '../preset'
import type { Snapshot } from '../snapshots/description'
import type { DeviceScale, Take } from './description'
import { deviceSetting } from './takes'

/** What a snapshot's take asks of the device. */
export interface TakeLevel {
  readonly snapshot: Snapshot
  readonly take: Take
  readonly lufs: number
  /** LUFS that it should have. */
  readonly target: number
  /** dB. */
  readonly change: number
  /** Null while the take does not say where the control stood. */
  readonly setting: number | null
  /** dB that the control cannot reach. */
  readonly missingDb: number
}

/**
 * The level of every snapshot on the player's device, from its last take.
 * @param lufs loudness of each take by its file
 * @param reference snapshot whose take stays as it is, the others coming to their distance from it; null: the preset's target in LUFS
 */
export function levelFromTakes(
  preset: Preset,
  scale: DeviceScale,
  lufs: ReadonlyMap<string, number>,
  reference: string | null,
): TakeLevel[] {
  const rows = preset.snapshots.flatMap((snapshot) => {
    const take = snapshot.takes?.at(-1)
    const heard = take === undefined ? undefined : lufs.get(take.file)
    return take === undefined || heard === undefined || snapshot.ignored ? [] : [{ snapshot, take, lufs: heard }]
  })
  const anchor = rows.find((row) => row.snapshot.id === reference)
  const shift = anchor ? anchor.lufs - targetOf(preset, anchor.snapshot) : 0
  return rows.map((row) => {
    const target = targetOf(preset, row.snapshot) + shift
    const change = target - row.lufs
    const to = row.take.setting === null ? null : deviceSetting(scale, row.take.setting, change)
    return { ...row, target, change, setting: to?.setting ?? null, missingDb: to?.missingDb ?? 0 }
  })
}
