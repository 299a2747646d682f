import { reachOf, silentStages, unreachableSnapshots } from '@fulgor/core/board'
import { capacityOf, findSnapshot, hasRoom, partName, type BoardSwitch, type Preset } from '@fulgor/core/preset'
import { onFreeSwitch, placeWords } from './freeSwitch'
import type { Check, Finding } from './finding'

/** Snapshots that no switch loads, faces that no switch shows, and stages that never sound. */
export const outOfReach: Check = {
  id: 'out-of-reach',
  why: 'What no foot can get to is not there on stage, and a stage that is off everywhere still takes processing.',
  find(preset, newId) {
    const { board } = preset
    const capacity = capacityOf(preset.device)
    const reach = board ? reachOf(board, capacity) : null
    const finding = (figure: string, reason: string, where: readonly string[], mends: Finding['mends']): Finding => ({
      rule: outOfReach.id,
      severity: 'note',
      where,
      figure,
      reason,
      mends,
    })
    const stages = silentStages(preset, reach?.functions ?? []).map((id) =>
      finding(
        `${partName(preset, id)} is off in every snapshot, and ${board ? 'neither a switch nor a source' : 'no source'} turns it on.`,
        'It never sounds, and costs the device its power all the same.',
        [id],
        [
          ...onFreeSwitch(preset, { do: 'stages', stages: [id], how: 'each' }, newId),
          { label: 'Remove it', edits: [{ type: 'removeStage', stage: id }] },
        ],
      ),
    )
    if (!board || !reach) return stages
    const snapshots = unreachableSnapshots(preset, reach).map((id) =>
      finding(
        `No switch loads “${findSnapshot(preset, id)?.name ?? id}”.`,
        'A foot cannot get there.',
        [],
        onFreeSwitch(preset, { do: 'snapshot', snapshot: id }, newId),
      ),
    )
    const lost = board.switches.filter(
      (own) => hasRoom(capacity, own) && !reach.faces.some((f) => f.page === own.page && f.bank === own.bank),
    )
    const faces = [...new Map(lost.map((own) => [`${own.page} ${own.bank}`, own])).values()].map((own) =>
      finding(
        `${placeWords(own).replace(/^Switch \d+ of b/, 'B')}, cannot be reached from where the board starts.`,
        `No ${own.page === board.start ? 'bank' : 'page'} switch leads there.`,
        [],
        leadingThere(preset, own, newId),
      ),
    )
    return [...stages, ...snapshots, ...faces]
  },
}

function leadingThere(preset: Preset, own: BoardSwitch, newId: () => string): Finding['mends'] {
  const { start } = preset.board ?? { start: own.page }
  return onFreeSwitch(preset, own.page === start ? { do: 'bank', by: 1 } : { do: 'page' }, newId)
}
