import { stagesOf, type Edit } from '@fulgor/core/preset'
import type { Check } from './finding'
import { outputInto } from './missingCabinet'
import { signalPaths, snapshotWords } from './paths'

/** A simulated cabinet into a real one is two in a row. */
export const cabinetIntoCabinet: Check = {
  id: 'cabinet-into-cabinet',
  why: 'A real guitar cabinet filters what comes to it. A simulated one before it filters twice: dull and boxy. Either the amp block goes out without cabinet, or a full-range system follows.',
  find(preset) {
    const snapshots = preset.snapshots.filter(({ id }) => outputInto(preset, id) === 'cabinet')
    const holding = snapshots.filter(({ id }) => signalPaths(preset, id).some((p) => p.cabinets.length > 0)).map((s) => s.id)
    if (holding.length === 0) return []
    const cabinets = [...new Set(holding.flatMap((id) => signalPaths(preset, id).flatMap((p) => p.cabinets)))]
    const output = stagesOf(preset.chain).findLast((s) => s.model === 'output')
    const edits: Edit[] = cabinets.map((stage) => ({ type: 'setOn', stage, snapshot: null, on: false }))
    return [
      {
        rule: cabinetIntoCabinet.id,
        severity: 'warning',
        where: [...cabinets, ...(output ? [output.id] : [])],
        figure: `${cabinets.length === 1 ? 'A cabinet stage' : `${cabinets.length} cabinet stages`} before an output that goes into a guitar cabinet${snapshotWords(preset, holding)}.`,
        reason: 'The real loudspeaker filters once more what the simulated one has filtered.',
        mends: [
          { label: cabinets.length === 1 ? 'Switch the cabinet off' : 'Switch the cabinets off', edits },
          {
            label: 'The output is full-range',
            edits: output ? [{ type: 'setParam', stage: output.id, snapshot: null, param: 'into', value: 'full' }] : [],
          },
        ],
      },
    ]
  },
}
