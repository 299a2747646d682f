import type { ParamValue } from '@fulgor/core/signal'
import {
  createStage,
  findSnapshot,
  findStage,
  MAX_SNAPSHOTS,
  MAX_STAGES,
  stagesOf,
  type ChainNode,
  type Preset,
  type RiffChoice,
  type Snapshot,
  type StageNode,
  type StageOverride,
} from './preset'
import { cellChanges, resolveStage } from './resolve'

/** One step that a player can take and undo. `snapshot: null` means the base. New ids come with the edit, so that it is pure. */
export type Edit =
  | { type: 'rename'; name: string }
  | { type: 'setTags'; tags: readonly string[] }
  | { type: 'setNotes'; notes: string }
  | { type: 'setTempo'; tempo: number }
  | { type: 'setTarget'; lufs: number }
  | { type: 'setRiff'; riff: RiffChoice }
  | { type: 'setParam'; stage: string; snapshot: string | null; param: string; value: ParamValue }
  | { type: 'setOn'; stage: string; snapshot: string | null; on: boolean }
  | { type: 'resetCell'; stage: string; snapshot: string; param?: string }
  | { type: 'cellToBase'; stage: string; snapshot: string }
  | { type: 'baseToSnapshot'; snapshot: string }
  | { type: 'snapshotToBase'; snapshot: string }
  | { type: 'addStage'; stage: string; model: string; index: number }
  | { type: 'removeStage'; stage: string }
  | { type: 'moveStage'; stage: string; index: number }
  | { type: 'addSnapshot'; snapshot: string; name: string }
  | { type: 'duplicateSnapshot'; source: string; snapshot: string; name: string }
  | { type: 'renameSnapshot'; snapshot: string; name: string }
  | { type: 'moveSnapshot'; snapshot: string; index: number }
  | { type: 'removeSnapshot'; snapshot: string }
  | { type: 'setOutputLevels'; stage: string; levels: Readonly<Record<string, number>> }
  | { type: 'replace'; preset: Preset }

/**
 * Applies an edit; the result shares what did not change. An edit that changes nothing returns the same object.
 * @throws RangeError with a sentence for the player when the edit cannot be made
 */
export function applyEdit(preset: Preset, edit: Edit): Preset {
  switch (edit.type) {
    case 'rename':
      return { ...preset, name: edit.name }
    case 'setTags':
      return { ...preset, tags: edit.tags }
    case 'setNotes':
      return { ...preset, notes: edit.notes }
    case 'setTempo':
      return { ...preset, tempo: edit.tempo }
    case 'setTarget':
      return { ...preset, targetLufs: edit.lufs }
    case 'setRiff':
      return { ...preset, riff: edit.riff }
    case 'setParam':
      return setParam(preset, edit.stage, edit.snapshot, edit.param, edit.value)
    case 'setOn':
      return setOn(preset, edit.stage, edit.snapshot, edit.on)
    case 'resetCell':
      return resetCell(preset, edit.stage, edit.snapshot, edit.param)
    case 'cellToBase':
      return cellToBase(preset, edit.stage, edit.snapshot)
    case 'baseToSnapshot':
      return mapSnapshot(preset, edit.snapshot, (s) => ({ ...s, stages: {} }))
    case 'snapshotToBase':
      return stagesOf(preset.chain).reduce((p, stage) => cellToBase(p, stage.id, edit.snapshot), preset)
    case 'addStage':
      return addStage(preset, edit.stage, edit.model, edit.index)
    case 'removeStage':
      return removeStage(preset, edit.stage)
    case 'moveStage':
      return moveStage(preset, edit.stage, edit.index)
    case 'addSnapshot':
      return insertSnapshot(preset, preset.snapshots.length, { id: edit.snapshot, name: edit.name, stages: {} })
    case 'duplicateSnapshot': {
      const source = requireSnapshot(preset, edit.source)
      return insertSnapshot(preset, preset.snapshots.indexOf(source) + 1, { ...source, id: edit.snapshot, name: edit.name })
    }
    case 'renameSnapshot':
      return mapSnapshot(preset, edit.snapshot, (s) => ({ ...s, name: edit.name }))
    case 'moveSnapshot':
      return { ...preset, snapshots: moved(preset.snapshots, preset.snapshots.indexOf(requireSnapshot(preset, edit.snapshot)), edit.index) }
    case 'removeSnapshot':
      requireSnapshot(preset, edit.snapshot)
      if (preset.snapshots.length === 1) throw new RangeError('A preset keeps at least one snapshot.')
      return { ...preset, snapshots: preset.snapshots.filter((s) => s.id !== edit.snapshot) }
    case 'setOutputLevels':
      return Object.entries(edit.levels).reduce((p, [snapshot, level]) => setParam(p, edit.stage, snapshot, 'level', level), preset)
    case 'replace':
      return edit.preset
  }
}

/** Edits with the same key that follow each other quickly are one step of undo. */
export function coalescingKey(edit: Edit): string | null {
  switch (edit.type) {
    case 'setParam':
      return `param ${edit.stage} ${edit.snapshot} ${edit.param}`
    case 'rename':
    case 'setTempo':
    case 'setTarget':
    case 'setNotes':
      return edit.type
    case 'renameSnapshot':
      return `name ${edit.snapshot}`
    default:
      return null
  }
}

function requireStage(preset: Preset, id: string): StageNode {
  const stage = findStage(preset, id)
  if (!stage) throw new RangeError(`There is no stage “${id}” in this preset.`)
  return stage
}

function requireSnapshot(preset: Preset, id: string): Snapshot {
  const snapshot = findSnapshot(preset, id)
  if (!snapshot) throw new RangeError(`There is no snapshot “${id}” in this preset.`)
  return snapshot
}

function mapStages(nodes: readonly ChainNode[], id: string, change: (stage: StageNode) => StageNode): readonly ChainNode[] {
  return nodes.map((node) => {
    if (node.kind === 'stage') return node.id === id ? change(node) : node
    return { ...node, lanes: node.lanes.map((lane) => ({ ...lane, nodes: mapStages(lane.nodes, id, change) })) }
  })
}

function mapSnapshot(preset: Preset, id: string, change: (snapshot: Snapshot) => Snapshot): Preset {
  requireSnapshot(preset, id)
  return { ...preset, snapshots: preset.snapshots.map((s) => (s.id === id ? change(s) : s)) }
}

function mapCell(preset: Preset, snapshotId: string, stageId: string, change: (cell: StageOverride) => StageOverride): Preset {
  return mapSnapshot(preset, snapshotId, (snapshot) => {
    const next = change(snapshot.stages[stageId] ?? {})
    const { [stageId]: _, ...others } = snapshot.stages
    const empty = next.on === undefined && Object.keys(next.params ?? {}).length === 0
    return { ...snapshot, stages: empty ? others : { ...others, [stageId]: next } }
  })
}

function setParam(preset: Preset, stageId: string, snapshotId: string | null, param: string, value: ParamValue): Preset {
  const stage = requireStage(preset, stageId)
  if (snapshotId === null) {
    return { ...preset, chain: mapStages(preset.chain, stageId, (s) => ({ ...s, params: { ...s.params, [param]: value } })) }
  }
  if (stage.params[param] === value) return resetCell(preset, stageId, snapshotId, param)
  return mapCell(preset, snapshotId, stageId, (cell) => ({ ...cell, params: { ...cell.params, [param]: value } }))
}

function setOn(preset: Preset, stageId: string, snapshotId: string | null, on: boolean): Preset {
  const stage = requireStage(preset, stageId)
  if (snapshotId === null) return { ...preset, chain: mapStages(preset.chain, stageId, (s) => ({ ...s, on })) }
  return mapCell(preset, snapshotId, stageId, (cell) => ({ ...cell, on: on === stage.on ? undefined : on }))
}

function resetCell(preset: Preset, stageId: string, snapshotId: string, param?: string): Preset {
  return mapCell(preset, snapshotId, stageId, (cell) => {
    if (param === undefined) return {}
    if (param === 'on') return { ...cell, on: undefined }
    const { [param]: _, ...params } = cell.params ?? {}
    return { ...cell, params }
  })
}

/** The base takes the cell's values; other snapshots that do not differ follow. */
function cellToBase(preset: Preset, stageId: string, snapshotId: string): Preset {
  const stage = requireStage(preset, stageId)
  if (cellChanges(preset, stage, snapshotId).length === 0) return preset
  const { on, params } = resolveStage(preset, stage, snapshotId)
  const written = { ...preset, chain: mapStages(preset.chain, stageId, (s) => ({ ...s, on, params })) }
  return resetCell(written, stageId, snapshotId)
}

function addStage(preset: Preset, id: string, model: string, index: number): Preset {
  if (stagesOf(preset.chain).length >= MAX_STAGES) throw new RangeError(`A preset holds at most ${MAX_STAGES} stages.`)
  const chain = [...preset.chain]
  chain.splice(Math.min(Math.max(index, 0), chain.length), 0, createStage(id, model))
  return { ...preset, chain }
}

function removeStage(preset: Preset, id: string): Preset {
  requireStage(preset, id)
  const without = (nodes: readonly ChainNode[]): ChainNode[] =>
    nodes
      .filter((node) => node.kind !== 'stage' || node.id !== id)
      .map((node) => (node.kind === 'stage' ? node : { ...node, lanes: node.lanes.map((l) => ({ ...l, nodes: without(l.nodes) })) }))
  return {
    ...preset,
    chain: without(preset.chain),
    snapshots: preset.snapshots.map((snapshot) => {
      const { [id]: _, ...stages } = snapshot.stages
      return { ...snapshot, stages }
    }),
  }
}

function moveStage(preset: Preset, id: string, index: number): Preset {
  requireStage(preset, id)
  const move = (nodes: readonly ChainNode[]): readonly ChainNode[] => {
    const from = nodes.findIndex((node) => node.kind === 'stage' && node.id === id)
    if (from >= 0) return moved(nodes, from, index)
    return nodes.map((node) => (node.kind === 'stage' ? node : { ...node, lanes: node.lanes.map((l) => ({ ...l, nodes: move(l.nodes) })) }))
  }
  return { ...preset, chain: move(preset.chain) }
}

function insertSnapshot(preset: Preset, index: number, snapshot: Snapshot): Preset {
  if (preset.snapshots.length >= MAX_SNAPSHOTS) throw new RangeError(`A preset holds at most ${MAX_SNAPSHOTS} snapshots.`)
  const snapshots = [...preset.snapshots]
  snapshots.splice(index, 0, snapshot)
  return { ...preset, snapshots }
}

function moved<T>(list: readonly T[], from: number, to: number): T[] {
  const next = [...list]
  const [item] = next.splice(from, 1)
  next.splice(Math.min(Math.max(to, 0), next.length), 0, item)
  return next
}
