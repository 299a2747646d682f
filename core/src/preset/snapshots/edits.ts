import { TAP_PAUSE_MS } from '@fulgor/core/stage'
import { moved } from '../chain/map'
import { edit } from '../edit'
import type { RiffChoice, Role } from '../levels/description'
import type { Preset } from '../preset'
import { MAX_SNAPSHOTS, type Snapshot } from './description'
import { mapSnapshot, requireSnapshot } from './snapshots'

/** What a snapshot is for and how it is levelled; null takes a choice away. */
interface Plan {
  readonly role?: Role | null
  readonly offset?: number | null
  readonly riff?: RiffChoice | null
  readonly ignored?: boolean
  readonly tempo?: number | null
  readonly tap?: string | null
  readonly parent?: string | null
}

export const snapshotEdits = {
  addSnapshot: edit<{ snapshot: string; name: string }>((preset, { snapshot, name }) =>
    insertSnapshot(preset, preset.snapshots.length, { id: snapshot, name, stages: {} }),
  ),
  duplicateSnapshot: edit<{ source: string; snapshot: string; name: string }>((preset, { source: from, snapshot, name }) => {
    const source = requireSnapshot(preset, from)
    // what the device played was the other one
    const { takes: _, ...own } = source
    return insertSnapshot(preset, preset.snapshots.indexOf(source) + 1, { ...own, id: snapshot, name, parent: source.id })
  }),
  renameSnapshot: edit<{ snapshot: string; name: string }>(
    (preset, { snapshot, name }) => mapSnapshot(preset, snapshot, (s) => ({ ...s, name })),
    { joins: ({ snapshot }) => snapshot },
  ),
  moveSnapshot: edit<{ snapshot: string; index: number }>((preset, { snapshot, index }) => ({
    ...preset,
    snapshots: moved(preset.snapshots, preset.snapshots.indexOf(requireSnapshot(preset, snapshot)), index),
  })),
  removeSnapshot: edit<{ snapshot: string }>(
    (preset, { snapshot }) => {
      if (preset.snapshots.length === 1) throw new RangeError('A preset keeps at least one snapshot.')
      return { ...preset, snapshots: orphaned(preset.snapshots, requireSnapshot(preset, snapshot)) }
    },
    { removes: true },
  ),
  setPlan: edit<{ snapshot: string; plan: Plan }>((preset, { snapshot, plan }) => mapSnapshot(preset, snapshot, (s) => planned(s, plan)), {
    joins: ({ snapshot, plan }) => `${snapshot} ${Object.keys(plan).join()}`,
    within: ({ plan }) => (plan.tempo === undefined ? undefined : TAP_PAUSE_MS),
  }),
}

/** A snapshot with other choices; what is null or false is left out of the document. */
function planned(snapshot: Snapshot, plan: Plan): Snapshot {
  const { role, offset, riff, ignored, tempo, tap, parent, ...rest } = { ...snapshot, ...plan }
  return {
    ...rest,
    ...(role ? { role } : {}),
    ...(offset === null || offset === undefined ? {} : { offset }),
    ...(riff ? { riff } : {}),
    ...(ignored ? { ignored } : {}),
    ...(tempo === null || tempo === undefined ? {} : { tempo }),
    ...(tap ? { tap } : {}),
    ...(parent ? { parent } : {}),
  }
}

/** The others without a snapshot; what had grown from it has grown from its parent now. */
function orphaned(snapshots: readonly Snapshot[], gone: Snapshot): Snapshot[] {
  return snapshots.filter((s) => s !== gone).map((s) => (s.parent === gone.id ? planned(s, { parent: gone.parent ?? null }) : s))
}

function insertSnapshot(preset: Preset, index: number, snapshot: Snapshot): Preset {
  if (preset.snapshots.length >= MAX_SNAPSHOTS) throw new RangeError(`A preset holds at most ${MAX_SNAPSHOTS} snapshots.`)
  const snapshots = [...preset.snapshots]
  snapshots.splice(index, 0, snapshot)
  return { ...preset, snapshots }
}
