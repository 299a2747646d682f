import type { Plan, PlannedChange, ShownPreset, Trouble } from '@fulgor/core/plan'
import { findSnapshot, targetOf } from '@fulgor/core/preset'
import type { SongPart } from '@fulgor/core/show'

/** A song's changes in the night, by place in the running order. */
export function bySong(plan: Plan | null): ReadonlyMap<number, readonly PlannedChange[]> {
  const found = new Map<number, PlannedChange[]>()
  for (const change of plan?.changes ?? []) {
    const own = found.get(change.change.item) ?? []
    own.push(change)
    found.set(change.change.item, own)
  }
  return found
}

export const pressesOf = (changes: readonly PlannedChange[]): number => changes.reduce((n, c) => n + c.presses, 0)

/** The gravest of a part's troubles. */
export function troubleOf(changes: readonly PlannedChange[]): Trouble | null {
  const all = changes.flatMap((c) => c.troubles)
  const order = ['gone', 'unreachable', 'sung', 'tight', 'smeared', 'feet', 'tap']
  return [...all].sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind)).at(0) ?? null
}

/** A trouble in the few words that stand on the line. */
export function shortTrouble(trouble: Trouble): string {
  switch (trouble.kind) {
    case 'gone':
      return 'gone'
    case 'unreachable':
      return 'no switch'
    case 'sung':
    case 'feet':
      return trouble.kind === 'feet' ? 'both feet' : trouble.words
    case 'tight':
      return `${trouble.presses} presses in ${trouble.haveS.toFixed(1)} s`
    case 'smeared':
      return `takes ${trouble.needS.toFixed(1)} s`
    case 'tap':
      return `tap every ${trouble.everyMs} ms`
  }
}

/** Number and name of what sounds in a part. */
export function soundOf(
  part: SongPart,
  presets: readonly ShownPreset[],
): { number: string; name: string; preset: string; lu: number } | null {
  if (!part.sound) return null
  const shown = presets.find((p) => p.id === part.sound?.preset)
  const index = shown?.preset.snapshots.findIndex((s) => s.id === part.sound?.snapshot) ?? -1
  const snapshot = shown ? findSnapshot(shown.preset, part.sound.snapshot) : undefined
  if (!shown || !snapshot) return { number: '?', name: 'gone', preset: '', lu: 0 }
  return {
    number: String(index + 1),
    name: snapshot.name,
    preset: shown.preset.name,
    lu: targetOf(shown.preset, snapshot) - shown.preset.targetLufs,
  }
}
