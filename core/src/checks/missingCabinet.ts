import { placeOf, resolveStage, stagesOf, type Edit, type Preset } from '@fulgor/core/preset'
import type { Check } from './finding'
import { signalPaths, snapshotWords } from './paths'

/** What the last Output stage goes into: a full range, unless the player says that a guitar cabinet follows. */
export function outputInto(preset: Preset, snapshot: string | null): 'full' | 'cabinet' {
  const output = stagesOf(preset.chain).findLast((s) => s.model === 'output')
  return output && resolveStage(preset, output, snapshot).params.into === 'cabinet' ? 'cabinet' : 'full'
}

/** An amp without a cabinet into a full-range system sounds like a swarm of bees. */
export const missingCabinet: Check = {
  id: 'missing-cabinet',
  why: 'The amp’s clipping is meant to go through a guitar loudspeaker, which plays little above 5 kHz. Without one a PA or headphones play all of it, and the sound is harsh and thin.',
  find(preset, newId) {
    const found = new Map<string, string[]>()
    for (const { id } of preset.snapshots) {
      if (outputInto(preset, id) === 'cabinet') continue
      for (const { amps, after } of signalPaths(preset, id)) {
        const amp = amps.at(-1)
        if (amp === undefined || after.length > 0) continue
        const snapshots = found.get(amp) ?? []
        if (!snapshots.includes(id)) snapshots.push(id)
        found.set(amp, snapshots)
      }
    }
    return [...found].map(([amp, snapshots]) => ({
      rule: missingCabinet.id,
      severity: 'warning',
      where: [amp],
      figure: `No cabinet after this amp before a full-range output${snapshotWords(preset, snapshots)}.`,
      reason: 'A guitar loudspeaker ends near 5 kHz; a PA, an interface or headphones let all the fizz above it through.',
      mends: [cabinetAfter(preset, amp, snapshots, newId()), { label: 'A guitar cabinet follows', edits: intoCabinet(preset) }].filter(
        ({ edits }) => edits.length > 0,
      ),
    }))
  },
}

/** A cabinet that is there but off is switched on; else a new one goes in. */
function cabinetAfter(preset: Preset, amp: string, snapshots: readonly string[], stage: string): { label: string; edits: Edit[] } {
  const place = placeOf(preset, amp)
  if (!place) return { label: '', edits: [] }
  const stages = stagesOf(preset.chain)
  const asleep = stages
    .slice(stages.findIndex((s) => s.id === amp))
    .find((s) => s.model === 'cabinet' && placeOf(preset, s.id)?.lane === place.lane)
  if (!asleep)
    return {
      label: 'Add a cabinet after it',
      edits: [
        { type: 'addStage', stage, model: 'cabinet', lane: place.lane, index: place.index + 1 },
        // where another snapshot has one further on, it stays off
        ...(snapshots.length === preset.snapshots.length
          ? []
          : [
              { type: 'setOn', stage, snapshot: null, on: false } as const,
              ...snapshots.map((snapshot) => ({ type: 'setOn', stage, snapshot, on: true }) as const),
            ]),
      ],
    }
  return { label: 'Switch its cabinet on', edits: snapshots.map((snapshot) => ({ type: 'setOn', stage: asleep.id, snapshot, on: true })) }
}

function intoCabinet(preset: Preset): Edit[] {
  const output = stagesOf(preset.chain).findLast((s) => s.model === 'output')
  return output ? [{ type: 'setParam', stage: output.id, snapshot: null, param: 'into', value: 'cabinet' }] : []
}
