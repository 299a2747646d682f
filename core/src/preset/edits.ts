import { blendId, MAX_CHANNELS, type MicBench } from '@fulgor/core/cabinet'
import { BENCH_RESPONSE, modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import {
  createLane,
  createStage,
  LANE_MODEL,
  findSnapshot,
  findStage,
  MAX_LANE_DEPTH,
  MAX_SNAPSHOTS,
  MAX_LANES,
  MAX_STAGES,
  partsOf,
  stagesOf,
  stripOf,
  type ChainNode,
  type GuitarProfile,
  type Lane,
  type ParallelNode,
  type Preset,
  type RiffChoice,
  type Role,
  type Snapshot,
  type StageNode,
  type StageOverride,
} from './preset'
import { EMPTY_BOARD, forgetFunctions, MAX_SWITCHES, samePlace, type Board, type BoardPlace, type BoardSwitch } from './board'
import type { BlockCells } from './block'
import { pastePlaces, type CellBlock } from './cells'
import { MAX_CONTROLS, MAX_TARGETS, targetSpec, type Control, type ControlTarget } from './controls'
import type { DeviceProfile } from './device'
import { MAX_LAYERS, type Layer } from './layers'
import type { MidiPlan } from './midiPlan'
import { BENCH_KEY, cellChanges, resolveStage, type ResolvedStage } from './resolve'
import { followModel, louder, remodelled } from './remodel'
import { MAX_TAKES, type Take } from './takes'
import { canSplit, depthAt, findLane, placeOf, rowsOf, type Place } from './routing'

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
  /** What was copied goes onto these snapshots from the stage on down; a block that is narrower is repeated. */
  | { type: 'pasteCells'; block: CellBlock; stage: string; snapshots: readonly string[] }
  /** Stages take in some snapshots what they have in another one. */
  | { type: 'fillCells'; stages: readonly string[]; from: string; to: readonly string[] }
  | { type: 'swapCells'; stages: readonly string[]; a: string; b: string }
  | { type: 'baseToSnapshot'; snapshot: string }
  | { type: 'snapshotToBase'; snapshot: string }
  | { type: 'setGuitar'; guitar: GuitarProfile }
  /** `touched` names what was moved: moves of the same thing that follow each other quickly are one step of undo. */
  | { type: 'setBench'; stage: string; snapshot: string | null; bench: MicBench; touched: string }
  | ({ type: 'addStage'; stage: string; model: string } & Place)
  | { type: 'removeStage'; stage: string }
  /** Stages and lanes at once; those that go with a lane before are no error. */
  | { type: 'removeStages'; stages: readonly string[] }
  /** What was copied, with ids of its own, and what snapshots change on it. */
  | ({ type: 'insertNodes'; nodes: readonly ChainNode[]; cells: BlockCells } & Place)
  | { type: 'insertLane'; split: string; index: number; lane: Lane; cells: BlockCells }
  /** Stages of one lane, in their order; the place counts without them. */
  | ({ type: 'moveStages'; stages: readonly string[] } & Place)
  /** Another model in its place, turned up by so much; what is like-named stays, in cells and sources too. */
  | { type: 'changeModel'; stage: string; model: string; gainDb: number }
  /** '' gives it back its model's name. */
  | { type: 'nameStage'; stage: string; name: string }
  | ({ type: 'moveStage'; stage: string } & Place)
  | { type: 'split'; stage: string; split: string; lanes: readonly [string, string]; beside?: string }
  | { type: 'addLane'; split: string; lane: string }
  | { type: 'moveLane'; lane: string; index: number }
  | { type: 'removeLane'; lane: string }
  | { type: 'dissolve'; split: string }
  | { type: 'addSnapshot'; snapshot: string; name: string }
  | { type: 'duplicateSnapshot'; source: string; snapshot: string; name: string }
  | { type: 'renameSnapshot'; snapshot: string; name: string }
  | { type: 'moveSnapshot'; snapshot: string; index: number }
  | { type: 'removeSnapshot'; snapshot: string }
  /** What a snapshot is for and how it is levelled; null takes a choice away. */
  | {
      type: 'setPlan'
      snapshot: string
      plan: {
        role?: Role | null
        offset?: number | null
        riff?: RiffChoice | null
        ignored?: boolean
        tempo?: number | null
        tap?: string | null
        parent?: string | null
      }
    }
  /** What levelling turns; null: the last Output. */
  | { type: 'setTrim'; stage: string | null }
  | { type: 'setLevels'; stage: string; param: string; levels: Readonly<Record<string, number>> }
  | { type: 'addTake'; snapshot: string; take: Take }
  | { type: 'changeTake'; snapshot: string; take: string; change: Partial<Omit<Take, 'id' | 'file'>> }
  | { type: 'removeTake'; snapshot: string; take: string }
  | { type: 'setDevice'; device: DeviceProfile }
  | { type: 'addControl'; control: Control }
  | { type: 'changeControl'; control: string; change: Partial<Omit<Control, 'id' | 'targets'>> }
  | { type: 'removeControl'; control: string }
  | { type: 'addTarget'; control: string; target: ControlTarget }
  | { type: 'changeTarget'; control: string; target: string; change: Partial<Omit<ControlTarget, 'id'>> }
  | { type: 'removeTarget'; control: string; target: string }
  | { type: 'setBoard'; board: Board }
  | { type: 'changeBoard'; change: Partial<Omit<Board, 'switches'>> }
  | { type: 'addSwitch'; own: BoardSwitch }
  | { type: 'changeSwitch'; id: string; change: Partial<Omit<BoardSwitch, 'id' | keyof BoardPlace>> }
  /** What stands there already comes to where the switch was. */
  | { type: 'moveSwitch'; id: string; to: BoardPlace }
  | { type: 'removeSwitch'; id: string }
  | { type: 'setMidiPlan'; plan: MidiPlan }
  | { type: 'addLayer'; layer: Layer }
  | { type: 'changeLayer'; layer: string; change: Partial<Omit<Layer, 'id'>> }
  | { type: 'removeLayer'; layer: string }
  /** Several edits as one step. */
  | { type: 'all'; edits: readonly Edit[] }
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
      return partsOf(preset.chain).reduce((p, stage) => cellToBase(p, stage.id, edit.snapshot), preset)
    case 'pasteCells':
      return pasteCells(preset, edit.block, edit.stage, edit.snapshots)
    case 'fillCells':
      return edit.stages.reduce((p, id) => {
        const values = resolveStage(p, requireStage(p, id), edit.from)
        return edit.to.reduce((q, snapshot) => setCell(q, id, snapshot, values), p)
      }, preset)
    case 'swapCells':
      return edit.stages.reduce((p, id) => {
        const stage = requireStage(p, id)
        const [a, b] = [resolveStage(p, stage, edit.a), resolveStage(p, stage, edit.b)]
        return setCell(setCell(p, id, edit.a, b), id, edit.b, a)
      }, preset)
    case 'addStage':
      return addStage(preset, edit)
    case 'changeModel':
      return changeModel(preset, edit.stage, edit.model, edit.gainDb)
    case 'nameStage':
      return mapStage(preset, edit.stage, ({ name: _, ...s }) => (edit.name === '' ? s : { ...s, name: edit.name }))
    case 'removeStage':
      return removeStage(preset, edit.stage)
    case 'removeStages':
      return edit.stages.reduce((p, id) => (findStage(p, id) ? removeStage(p, id) : p), preset)
    case 'insertNodes':
      return withCells(checked(edit.nodes.reduceRight((p, node) => insertAt(p, node, edit), preset)), edit.cells)
    case 'insertLane':
      return withCells(checked(insertLane(preset, edit.split, edit.index, edit.lane)), edit.cells)
    case 'moveStages':
      return moveStages(preset, edit.stages, edit)
    case 'moveStage':
      return moveStage(preset, edit.stage, edit)
    case 'split':
      return splitAt(preset, edit)
    case 'addLane':
      return mapSplit(preset, edit.split, (split) => {
        if (split.lanes.length >= MAX_LANES) throw new RangeError(`A split holds at most ${MAX_LANES} lanes.`)
        return { ...split, lanes: [...split.lanes, createLane(edit.lane)] }
      })
    case 'moveLane': {
      const { split } = requireLane(preset, edit.lane)
      const from = split.lanes.findIndex((l) => l.id === edit.lane)
      return mapSplit(preset, split.id, (s) => ({ ...s, lanes: moved(s.lanes, from, edit.index) }))
    }
    case 'removeLane':
      return removeLane(preset, edit.lane)
    case 'dissolve':
      return forgetMissing(
        mapNodes(preset, (node) => (node.id === edit.split && node.kind === 'parallel' ? node.lanes.flatMap((l) => l.nodes) : [node])),
      )
    case 'setBench':
      return setBench(preset, edit.stage, edit.snapshot, edit.bench)
    case 'setGuitar':
      return { ...preset, guitar: edit.guitar }
    case 'addSnapshot':
      return insertSnapshot(preset, preset.snapshots.length, { id: edit.snapshot, name: edit.name, stages: {} })
    case 'duplicateSnapshot': {
      const source = requireSnapshot(preset, edit.source)
      // what the device played was the other one
      const { takes: _, ...own } = source
      return insertSnapshot(preset, preset.snapshots.indexOf(source) + 1, {
        ...own,
        id: edit.snapshot,
        name: edit.name,
        parent: source.id,
      })
    }
    case 'renameSnapshot':
      return mapSnapshot(preset, edit.snapshot, (s) => ({ ...s, name: edit.name }))
    case 'moveSnapshot':
      return { ...preset, snapshots: moved(preset.snapshots, preset.snapshots.indexOf(requireSnapshot(preset, edit.snapshot)), edit.index) }
    case 'removeSnapshot':
      if (preset.snapshots.length === 1) throw new RangeError('A preset keeps at least one snapshot.')
      return forgetFunctions(forgetTargets({ ...preset, snapshots: orphaned(preset.snapshots, requireSnapshot(preset, edit.snapshot)) }))
    case 'setLevels':
      return Object.entries(edit.levels).reduce((p, [snapshot, level]) => {
        // what meets the target with the base's level needs none of its own
        const shared = requireStage(p, edit.stage).params[edit.param] === level
        return shared ? resetCell(p, edit.stage, snapshot, edit.param) : setParam(p, edit.stage, snapshot, edit.param, level)
      }, preset)
    case 'setPlan':
      return mapSnapshot(preset, edit.snapshot, (s) => planned(s, edit.plan))
    case 'setTrim': {
      const { trim: _, ...rest } = preset
      return edit.stage === null ? rest : { ...rest, trim: requireStage(preset, edit.stage).id }
    }
    case 'addTake':
      return mapTakes(preset, edit.snapshot, (takes) => {
        if (takes.length >= MAX_TAKES) throw new RangeError(`A snapshot keeps at most ${MAX_TAKES} takes; remove one first.`)
        return [...takes, edit.take]
      })
    case 'changeTake':
      return mapTakes(preset, edit.snapshot, (takes) => takes.map((t) => (t.id === edit.take ? { ...t, ...edit.change } : t)))
    case 'removeTake':
      return mapTakes(preset, edit.snapshot, (takes) => takes.filter((t) => t.id !== edit.take))
    case 'setDevice':
      return { ...preset, device: edit.device }
    case 'addControl':
      if ((preset.controls ?? []).length >= MAX_CONTROLS) throw new RangeError(`A preset has at most ${MAX_CONTROLS} sources.`)
      return { ...preset, controls: [...(preset.controls ?? []), edit.control] }
    case 'changeControl':
      return mapControl(preset, edit.control, (c) => ({ ...c, ...edit.change }))
    case 'removeControl':
      return forgetMissing({ ...preset, controls: (preset.controls ?? []).filter((c) => c.id !== edit.control) })
    case 'addTarget': {
      const count = (preset.controls ?? []).reduce((n, c) => n + c.targets.length, 0)
      if (count >= MAX_TARGETS) throw new RangeError(`A preset has at most ${MAX_TARGETS} assignments.`)
      if (targetSpec(preset, edit.target) === undefined) throw new RangeError('There is no such parameter to move.')
      return mapControl(preset, edit.control, (c) => ({ ...c, targets: [...c.targets, edit.target] }))
    }
    case 'changeTarget':
      return mapControl(preset, edit.control, (c) => ({
        ...c,
        targets: c.targets.map((t) => (t.id === edit.target ? { ...t, ...edit.change } : t)),
      }))
    case 'removeTarget':
      return mapControl(preset, edit.control, (c) => ({ ...c, targets: c.targets.filter((t) => t.id !== edit.target) }))
    case 'setBoard':
      return { ...preset, board: edit.board }
    case 'changeBoard':
      return { ...preset, board: { ...boardOf(preset), ...edit.change } }
    case 'addSwitch': {
      const { switches } = boardOf(preset)
      if (switches.length >= MAX_SWITCHES) throw new RangeError(`A board holds at most ${MAX_SWITCHES} switches.`)
      if (switches.some((s) => samePlace(s, edit.own))) throw new RangeError('There is a switch at this place already.')
      return mapSwitches(preset, (all) => [...all, edit.own])
    }
    case 'changeSwitch':
      return mapSwitches(preset, (all) => all.map((s) => (s.id === edit.id ? { ...s, ...edit.change } : s)))
    case 'moveSwitch':
      return moveSwitch(preset, edit.id, edit.to)
    case 'removeSwitch':
      return mapSwitches(preset, (all) => all.filter((s) => s.id !== edit.id))
    case 'setMidiPlan':
      return { ...preset, midiPlan: edit.plan }
    case 'addLayer':
      if ((preset.layers ?? []).length >= MAX_LAYERS) throw new RangeError(`A mix holds at most ${MAX_LAYERS} layers.`)
      return { ...preset, layers: [...(preset.layers ?? []), edit.layer] }
    case 'changeLayer':
      return { ...preset, layers: (preset.layers ?? []).map((l) => (l.id === edit.layer ? { ...l, ...edit.change } : l)) }
    case 'removeLayer':
      return { ...preset, layers: (preset.layers ?? []).filter((l) => l.id !== edit.layer) }
    case 'all':
      return edit.edits.reduce(applyEdit, preset)
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
    case 'setPlan':
      return `plan ${edit.snapshot} ${Object.keys(edit.plan).join()}`
    case 'changeControl':
      return `control ${edit.control} ${Object.keys(edit.change).join()}`
    case 'changeTarget':
      return `target ${edit.target} ${Object.keys(edit.change).join()}`
    case 'changeBoard':
      return `board ${Object.keys(edit.change).join()}`
    case 'changeSwitch':
      return `switch ${edit.id} ${Object.keys(edit.change).join()}`
    case 'changeLayer':
      return `layer ${edit.layer} ${Object.keys(edit.change).join()}`
    case 'setBench':
      return `bench ${edit.stage} ${edit.snapshot} ${edit.touched}`
    case 'renameSnapshot':
      return `name ${edit.snapshot}`
    case 'nameStage':
      return `stage name ${edit.stage}`
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

function requireLane(preset: Preset, id: string): { lane: Lane; split: ParallelNode } {
  const found = findLane(preset, id)
  if (!found) throw new RangeError(`There is no lane “${id}” in this preset.`)
  return found
}

/** Every node through `change`, inner rows first. */
function mapNodes(preset: Preset, change: (node: ChainNode) => readonly ChainNode[], row?: (lane: Lane) => Lane): Preset {
  const map = (nodes: readonly ChainNode[]): readonly ChainNode[] =>
    nodes.flatMap((node) => {
      if (node.kind === 'stage') return change(node)
      const lanes = node.lanes.map((lane) => {
        const inner = { ...lane, nodes: map(lane.nodes) }
        return row ? row(inner) : inner
      })
      return change({ ...node, lanes })
    })
  return { ...preset, chain: map(preset.chain) }
}

function mapSplit(preset: Preset, id: string, change: (split: ParallelNode) => ParallelNode): Preset {
  return mapNodes(preset, (node) => [node.kind === 'parallel' && node.id === id ? change(node) : node])
}

function mapStage(preset: Preset, id: string, change: (stage: StageNode) => StageNode): Preset {
  return mapNodes(
    preset,
    (node) => [node.kind === 'stage' && node.id === id ? change(node) : node],
    (lane) => {
      if (lane.id !== id) return lane
      const { on, params } = change(stripOf(lane))
      return { ...lane, on, params }
    },
  )
}

function mapSnapshot(preset: Preset, id: string, change: (snapshot: Snapshot) => Snapshot): Preset {
  requireSnapshot(preset, id)
  return { ...preset, snapshots: preset.snapshots.map((s) => (s.id === id ? change(s) : s)) }
}

function mapControl(preset: Preset, id: string, change: (control: Control) => Control): Preset {
  if (!(preset.controls ?? []).some((c) => c.id === id)) throw new RangeError(`There is no source “${id}” in this preset.`)
  return { ...preset, controls: (preset.controls ?? []).map((c) => (c.id === id ? change(c) : c)) }
}

const boardOf = (preset: Preset): Board => preset.board ?? EMPTY_BOARD

function mapSwitches(preset: Preset, change: (switches: readonly BoardSwitch[]) => readonly BoardSwitch[]): Preset {
  const board = boardOf(preset)
  return { ...preset, board: { ...board, switches: change(board.switches) } }
}

function moveSwitch(preset: Preset, id: string, { page, bank, index }: BoardPlace): Preset {
  const own = boardOf(preset).switches.find((s) => s.id === id)
  if (!own) throw new RangeError('There is no such switch on the board.')
  const to = { page, bank, index }
  if (samePlace(own, to)) return preset
  const from = { page: own.page, bank: own.bank, index: own.index }
  return mapSwitches(preset, (all) => all.map((s) => (s === own ? { ...s, ...to } : samePlace(s, to) ? { ...s, ...from } : s)))
}

function mapTakes(preset: Preset, id: string, change: (takes: readonly Take[]) => readonly Take[]): Preset {
  return mapSnapshot(preset, id, ({ takes = [], ...rest }) => {
    const next = change(takes)
    return next.length === 0 ? rest : { ...rest, takes: next }
  })
}

function mapCell(preset: Preset, snapshotId: string, stageId: string, change: (cell: StageOverride) => StageOverride): Preset {
  return mapSnapshot(preset, snapshotId, (snapshot) => {
    const next = change(snapshot.stages[stageId] ?? {})
    const { [stageId]: _, ...others } = snapshot.stages
    const empty = next.on === undefined && next.bench === undefined && Object.keys(next.params ?? {}).length === 0
    return { ...snapshot, stages: empty ? others : { ...others, [stageId]: next } }
  })
}

/** What a snapshot was given stays its own, also when it passes the base's value: half of a drag must not land elsewhere. */
function setParam(preset: Preset, stageId: string, snapshotId: string | null, param: string, value: ParamValue): Preset {
  requireStage(preset, stageId)
  if (snapshotId === null) {
    return mapStage(preset, stageId, (s) => ({ ...s, params: { ...s.params, [param]: value } }))
  }
  return mapCell(preset, snapshotId, stageId, (cell) => ({ ...cell, params: { ...cell.params, [param]: value } }))
}

/** A snapshot with other choices; what is null or false is left out of the document. */
function planned(snapshot: Snapshot, plan: Extract<Edit, { type: 'setPlan' }>['plan']): Snapshot {
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

/** A snapshot takes whole values on a stage; what is as the base needs no word. */
function setCell(preset: Preset, id: string, snapshot: string, { on, params, bench }: ResolvedStage): Preset {
  const stage = requireStage(preset, id)
  const known = modelOf(stage.model).params
  const own = Object.entries(params).filter(([key, value]) => Object.hasOwn(known, key) && value !== stage.params[key])
  return mapCell(preset, snapshot, id, () => ({
    ...(on === stage.on ? {} : { on }),
    ...(own.length === 0 ? {} : { params: Object.fromEntries(own) }),
    ...(bench && stage.model === 'cabinet' && !sameBench(bench, stage.bench) ? { bench } : {}),
  }))
}

const sameBench = (a: MicBench, b: MicBench | undefined): boolean => b !== undefined && blendId(a) === blendId(b)

function pasteCells(preset: Preset, block: CellBlock, stage: string, snapshots: readonly string[]): Preset {
  const places = pastePlaces(preset, block, stage)
  return block.rows.reduce((whole, { cells }, r) => {
    const place = places[r]
    return place === null ? whole : snapshots.reduce((p, snapshot, c) => setCell(p, place.id, snapshot, cells[c % cells.length]), whole)
  }, preset)
}

/** The first bench of a cabinet, or of a snapshot, is also what it plays from then on. */
function setBench(preset: Preset, id: string, snapshot: string | null, bench: MicBench): Preset {
  const stage = requireStage(preset, id)
  if (stage.model !== 'cabinet') throw new RangeError('Only a cabinet has a mic bench.')
  if (bench.channels.length > MAX_CHANNELS) throw new RangeError(`A blend holds at most ${MAX_CHANNELS} channels.`)
  if (snapshot !== null) {
    const first = findSnapshot(preset, snapshot)?.stages[id]?.bench === undefined
    const heard = first && resolveStage(preset, stage, snapshot).params.response !== BENCH_RESPONSE
    return mapCell(preset, snapshot, id, (cell) => ({
      ...cell,
      bench,
      ...(heard ? { params: { ...cell.params, response: BENCH_RESPONSE } } : {}),
    }))
  }
  return mapStage(preset, id, (s) => ({
    ...s,
    bench,
    params: s.bench === undefined ? { ...s.params, response: BENCH_RESPONSE } : s.params,
  }))
}

function setOn(preset: Preset, stageId: string, snapshotId: string | null, on: boolean): Preset {
  requireStage(preset, stageId)
  if (snapshotId === null) return mapStage(preset, stageId, (s) => ({ ...s, on }))
  return mapCell(preset, snapshotId, stageId, (cell) => ({ ...cell, on }))
}

function resetCell(preset: Preset, stageId: string, snapshotId: string, param?: string): Preset {
  return mapCell(preset, snapshotId, stageId, (cell) => {
    if (param === undefined) return {}
    const { on, params = {}, bench } = cell
    const { [param]: _, ...rest } = params
    return {
      ...(on === undefined || param === 'on' ? {} : { on }),
      ...(Object.keys(rest).length === 0 ? {} : { params: rest }),
      ...(bench === undefined || param === BENCH_KEY ? {} : { bench }),
    }
  })
}

/** The base takes the cell's values; other snapshots that do not differ follow. */
function cellToBase(preset: Preset, stageId: string, snapshotId: string): Preset {
  const stage = requireStage(preset, stageId)
  if (cellChanges(preset, stage, snapshotId).length === 0) return preset
  const values = resolveStage(preset, stage, snapshotId)
  const written = mapStage(preset, stageId, (s) => ({ ...s, ...values }))
  return resetCell(written, stageId, snapshotId)
}

function insertAt(preset: Preset, node: ChainNode, { lane, index }: Place): Preset {
  const insert = (nodes: readonly ChainNode[]) => {
    const next = [...nodes]
    next.splice(Math.min(Math.max(index, 0), next.length), 0, node)
    return next
  }
  if (lane === null) return { ...preset, chain: insert(preset.chain) }
  requireLane(preset, lane)
  return mapNodes(
    preset,
    (n) => [n],
    (l) => (l.id === lane ? { ...l, nodes: insert(l.nodes) } : l),
  )
}

function changeModel(preset: Preset, id: string, model: string, gainDb: number): Preset {
  const before = requireStage(preset, id)
  if (before.model === LANE_MODEL || model === LANE_MODEL) throw new RangeError('A lane’s strip is what it is.')
  const next = followModel(
    mapStage(preset, id, (s) => louder(model, remodelled(s, model), gainDb)),
    before,
    model,
  )
  return {
    ...next,
    snapshots: next.snapshots.map((s) => {
      const own = s.stages[id] as StageOverride | undefined
      return own ? { ...s, stages: { ...s.stages, [id]: louder(model, own, gainDb) } } : s
    }),
  }
}

/** Families that fill a lane of their own with the effect alone: there the dry sound has its own lane. */
const EFFECTS = new Set(['modulation', 'pitch', 'delay', 'reverb'])

function addStage(preset: Preset, { stage, model, lane, index }: { stage: string; model: string } & Place): Preset {
  if (stagesOf(preset.chain).length >= MAX_STAGES) throw new RangeError(`A preset holds at most ${MAX_STAGES} stages.`)
  const made = createStage(stage, model)
  const alone = lane !== null && stagesOf(requireLane(preset, lane).lane.nodes).every((s) => EFFECTS.has(modelOf(s.model).family))
  return insertAt(preset, alone ? wetAlone(made) : made, { lane, index })
}

/** A stage that has a lane to itself: an effect gives its wet sound alone. */
const wetAlone = (stage: StageNode): StageNode =>
  EFFECTS.has(modelOf(stage.model).family) && 'mix' in stage.params ? { ...stage, params: { ...stage.params, mix: 100 } } : stage

/** Forgets what snapshots and sources say of stages, lanes and macros that are no longer there. */
function forgetMissing(preset: Preset): Preset {
  const there = new Set(partsOf(preset.chain).map((s) => s.id))
  if (preset.trim !== undefined && !there.has(preset.trim)) {
    const { trim: _, ...rest } = preset
    return forgetMissing(rest)
  }
  const kept = forgetFunctions(forgetTargets(preset))
  if (kept.snapshots.every((s) => Object.keys(s.stages).every((id) => there.has(id)))) return kept
  return {
    ...kept,
    snapshots: kept.snapshots.map((snapshot) => ({
      ...snapshot,
      stages: Object.fromEntries(Object.entries(snapshot.stages).filter(([id]) => there.has(id))),
    })),
  }
}

/** Forgets targets whose parameter is gone, and snapshots that they were live in. */
function forgetTargets(preset: Preset): Preset {
  if (!preset.controls) return preset
  const ids = new Set(preset.snapshots.map((s) => s.id))
  const lost = (t: ControlTarget) => targetSpec(preset, t) === undefined || (t.snapshots?.some((s) => !ids.has(s)) ?? false)
  if (!preset.controls.some((c) => c.targets.some(lost))) return preset
  const controls = preset.controls.map((c) => ({
    ...c,
    targets: c.targets.flatMap((t) => {
      if (targetSpec(preset, t) === undefined) return []
      return [t.snapshots ? { ...t, snapshots: t.snapshots.filter((s) => ids.has(s)) } : t]
    }),
  }))
  return { ...preset, controls }
}

function removeStage(preset: Preset, id: string): Preset {
  requireStage(preset, id)
  if (findLane(preset, id)) return removeLane(preset, id)
  return forgetMissing(mapNodes(preset, (node) => (node.id === id ? [] : [node])))
}

function moveStage(preset: Preset, id: string, to: Place): Preset {
  const stage = requireStage(preset, id)
  const from = placeOf(preset, id)
  if (!from || (from.lane === to.lane && from.index === to.index)) return preset
  const without = mapNodes(preset, (node) => (node.id === id ? [] : [node]))
  const alone = to.lane !== null && to.lane !== from.lane && stagesOf(requireLane(without, to.lane).lane.nodes).length === 0
  return insertAt(without, alone ? wetAlone(stage) : stage, to)
}

function moveStages(preset: Preset, ids: readonly string[], to: Place): Preset {
  const from = ids.map((id) => placeOf(preset, id)?.lane)
  if (from.some((lane) => lane === undefined || lane !== from[0]))
    throw new RangeError('Only stages of the same lane, or of the main row, move together.')
  const stages = ids.map((id) => requireStage(preset, id))
  const without = mapNodes(preset, (node) => (ids.includes(node.id) ? [] : [node]))
  return stages.reduceRight((p, stage) => insertAt(p, stage, to), without)
}

function insertLane(preset: Preset, split: string, index: number, lane: Lane): Preset {
  return mapSplit(preset, split, (s) => {
    if (s.lanes.length >= MAX_LANES) throw new RangeError(`A split holds at most ${MAX_LANES} lanes.`)
    return { ...s, lanes: [...s.lanes.slice(0, index), lane, ...s.lanes.slice(index)] }
  })
}

/** @throws RangeError where what was put in makes more stages or deeper lanes than a preset holds */
function checked(preset: Preset): Preset {
  if (stagesOf(preset.chain).length > MAX_STAGES) throw new RangeError(`A preset holds at most ${MAX_STAGES} stages.`)
  if (rowsOf(preset.chain).some((row) => row.depth > MAX_LANE_DEPTH))
    throw new RangeError(`Lanes may lie ${MAX_LANE_DEPTH} deep, not deeper.`)
  return preset
}

/** What was copied brings what its snapshots changed, where this preset has these snapshots. */
function withCells(preset: Preset, cells: BlockCells): Preset {
  return {
    ...preset,
    snapshots: preset.snapshots.map((s) => (Object.hasOwn(cells, s.id) ? { ...s, stages: { ...s.stages, ...cells[s.id] } } : s)),
  }
}

/** Puts a stage into the first lane of a new split; the second lane takes the stage `beside`, or passes what comes in. */
function splitAt(whole: Preset, edit: { stage: string; split: string; lanes: readonly [string, string]; beside?: string }): Preset {
  const beside = edit.beside === undefined ? undefined : requireStage(whole, edit.beside)
  const preset = beside ? mapNodes(whole, (node) => (node.id === beside.id ? [] : [node])) : whole
  const place = placeOf(preset, edit.stage)
  if (!place) throw new RangeError(`There is no stage “${edit.stage}” in this preset.`)
  if (!canSplit(preset, edit.stage))
    throw new RangeError(`Lanes may lie two deep, not deeper: this stage already stands ${depthAt(preset, place.lane)} deep.`)
  return mapNodes(preset, (node) => {
    if (node.id !== edit.stage) return [node]
    const own = node.kind === 'stage' ? wetAlone(node) : node
    return [
      {
        kind: 'parallel',
        id: edit.split,
        lanes: [createLane(edit.lanes[0], [own]), createLane(edit.lanes[1], beside ? [wetAlone(beside)] : [])],
      },
    ]
  })
}

/** A split of one lane is none: its stages go back into the row. */
function removeLane(preset: Preset, id: string): Preset {
  const { split } = requireLane(preset, id)
  const lanes = split.lanes.filter((lane) => lane.id !== id)
  return forgetMissing(
    mapNodes(preset, (node) => {
      if (node.id !== split.id || node.kind !== 'parallel') return [node]
      return lanes.length === 1 ? lanes[0].nodes : [{ ...node, lanes }]
    }),
  )
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
