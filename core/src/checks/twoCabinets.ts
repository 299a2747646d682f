import { findStage, placeOf, type Edit, type Preset } from '@fulgor/core/preset'
import type { Check } from './finding'
import { signalPaths, snapshotWords } from './paths'

/** Two cabinets in a row filter twice what one of them has filtered already. */
export const twoCabinets: Check = {
  id: 'two-cabinets',
  why: 'A loudspeaker, its box and a microphone are filters that end near 5 kHz. Two in a row dull and thin the sound. It happens when a cabinet stands in a capture of an amp, or in the amp’s own output.',
  find(preset) {
    const found = new Map<string, { ids: readonly string[]; snapshots: string[] }>()
    for (const { id } of preset.snapshots)
      for (const { after } of signalPaths(preset, id)) {
        if (after.length < 2) continue
        const entry = found.get(after.join(' ')) ?? { ids: after, snapshots: [] }
        if (!entry.snapshots.includes(id)) entry.snapshots.push(id)
        found.set(after.join(' '), entry)
      }
    return [...found.values()].map(({ ids, snapshots }) => ({
      rule: twoCabinets.id,
      severity: 'warning',
      where: ids,
      figure: `${ids.length} cabinets in a row${snapshotWords(preset, snapshots)}.`,
      reason: 'Each takes off the top above some 5 kHz and adds a resonance of its own: in a row the sound grows dull and boxy.',
      mends: [
        { label: ids.length === 2 ? 'Switch the second off' : 'Switch all but the first off', edits: off(preset, ids.slice(1), snapshots) },
        {
          label: ids.length === 2 ? 'Remove the second' : 'Remove all but the first',
          edits: ids.slice(1).map((stage) => ({ type: 'removeStage', stage })),
        },
      ],
    }))
  },
}

/** Off in the base where it holds everywhere, else in those snapshots. */
function off(preset: Preset, stages: readonly string[], snapshots: readonly string[]): Edit[] {
  return stages.flatMap((stage): Edit[] => {
    if (!findStage(preset, stage) || !placeOf(preset, stage)) return []
    const everywhere = snapshots.length === preset.snapshots.length
    const here = snapshots.map((snapshot): Edit => ({ type: 'setOn', stage, snapshot, on: false }))
    return everywhere ? [{ type: 'setOn', stage, snapshot: null, on: false }, ...here] : here
  })
}
