import { modelOf } from '@fulgor/core/catalogue'
import { heardStages, strokeDbfs, type Preset, type Snapshot } from '@fulgor/core/preset'
import { thdAt, type Reading } from '@fulgor/core/reading'
import type { Heard } from './finding'

/** Snapshots that were read, in their order. */
export const heardOf = ({ preset, readings }: Heard): { snapshot: Snapshot; reading: Reading }[] =>
  preset.snapshots.flatMap((snapshot) => {
    const reading = readings[snapshot.id]
    return reading ? [{ snapshot, reading }] : []
  })

/** “−3.5” or “4.0”; a true minus. */
export const db = (value: number, signed = false): string =>
  `${signed && value > 0 ? '+' : ''}${value.toFixed(1)}`.replace('-', '\u2212').replace(/^\u22120\.0$/, '0.0')

/** “A”, “B” and “C”. */
export function listed(words: readonly string[]): string {
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]}`
}

/** The same finding of several snapshots, told once: grouped by what they share. */
export function grouped<T>(items: readonly T[], key: (item: T) => string): T[][] {
  const groups = new Map<string, T[]>()
  for (const item of items) groups.set(key(item), [...(groups.get(key(item)) ?? []), item])
  return [...groups.values()]
}

/** % of harmonics on a normal stroke of the guitar that plays. */
export const normalThd = (preset: Preset, snapshot: string, reading: Reading): number =>
  thdAt(reading.feel, strokeDbfs(preset, snapshot, 'normal'))

/** The first two stages that are heard over time: what makes sides unlike. */
export const widening = (preset: Preset, snapshot: string): string[] =>
  heardStages(preset, snapshot)
    .filter((s) => ['modulation', 'delay', 'reverb'].includes(modelOf(s.model).family))
    .slice(0, 2)
    .map((s) => s.id)
