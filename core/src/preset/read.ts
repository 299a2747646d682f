import { findModel } from '@fulgor/core/catalogue'
import { NOTE_VALUES } from '@fulgor/core/stage'
import { array, flag, noOthers, numberIn, object, PresetError, readId, readValues, text } from './fields'
import { readBench } from './readBench'
import { readBoard, readMidiPlan } from './readBoard'
import { readControls } from './readControls'
import { readDevice, readLayers, readPickup, readRiff, readTakes } from './readExtras'
import {
  defaultParams,
  LANE_MODEL,
  MAX_LANE_DEPTH,
  MAX_LANES,
  MAX_SNAPSHOTS,
  MAX_STAGES,
  PRESET_FORMAT,
  PRESET_VERSION,
  partsOf,
  ROLES,
  stagesOf,
  type ChainNode,
  type Lane,
  type ParamMap,
  type Preset,
  type Snapshot,
  type StageNode,
  type StageOverride,
} from './preset'

/** Ranges of the fields outside the catalogue; the JSON Schema reads them too. */
export const LIMITS = {
  name: 80,
  stage: 40,
  tag: 30,
  tags: 20,
  notes: 10_000,
  tempo: [20, 400],
  targetLufs: [-60, 0],
  hardPeakDbfs: [-60, 0],
} as const

/** LU that a snapshot may lie above the preset's target. */
export const OFFSET_RANGE = [-20, 20] as const

/**
 * Reads an unknown value as a preset. Missing parameters of a stage take the catalogue's defaults; all else must be there and
 * in range. Older format versions are migrated first (there is one version so far).
 * @throws PresetError naming the field and the reason
 */
export function readPreset(value: unknown): Preset {
  const o = object(value, '')
  if (o.format !== PRESET_FORMAT) throw new PresetError('format', `this is no Fulgor preset: its format must be “${PRESET_FORMAT}”.`)
  if (typeof o.version !== 'number' || !Number.isInteger(o.version) || o.version < 1)
    throw new PresetError('version', 'must be a whole number from 1.')
  if (o.version > PRESET_VERSION)
    throw new PresetError('version', `is ${o.version}; this Fulgor reads presets up to version ${PRESET_VERSION}. Update it first.`)
  noOthers(o, '', [
    'format',
    'version',
    'name',
    'tags',
    'notes',
    'tempo',
    'targetLufs',
    'riff',
    'guitar',
    'trim',
    'device',
    'layers',
    'controls',
    'board',
    'midiPlan',
    'chain',
    'snapshots',
    '$schema',
  ])
  const ids = new Set<string>()
  const chain = array(o.chain, 'chain', MAX_STAGES).map((node, i) => readNode(node, `chain[${i}]`, 0, ids))
  const stages = new Map(partsOf(chain).map((s) => [s.id, s]))
  const count = stagesOf(chain).length
  if (count > MAX_STAGES) throw new PresetError('chain', `holds ${count} stages, at most ${MAX_STAGES} are possible.`)
  const snapshots = array(o.snapshots, 'snapshots', MAX_SNAPSHOTS).map((s, i) => readSnapshot(s, `snapshots[${i}]`, ids, stages))
  if (snapshots.length === 0) throw new PresetError('snapshots', 'must hold at least one snapshot.')
  snapshots.forEach((s, i) => {
    if (s.parent !== undefined && !snapshots.some((other) => other !== s && other.id === s.parent))
      throw new PresetError(`snapshots[${i}].parent`, 'must name another snapshot.')
  })
  if (o.trim !== undefined && !stages.has(o.trim as string)) throw new PresetError('trim', 'must name a stage or lane of the chain.')
  const guitar = object(o.guitar, 'guitar')
  noOthers(guitar, 'guitar', ['name', 'hardPeakDbfs', 'pickup'])
  const preset: Preset = {
    format: PRESET_FORMAT,
    version: PRESET_VERSION,
    name: text(o.name, 'name', LIMITS.name, 1),
    tags: array(o.tags, 'tags', LIMITS.tags).map((tag, i) => text(tag, `tags[${i}]`, LIMITS.tag, 1)),
    notes: text(o.notes, 'notes', LIMITS.notes, 0),
    tempo: numberIn(o.tempo, 'tempo', LIMITS.tempo),
    targetLufs: numberIn(o.targetLufs, 'targetLufs', LIMITS.targetLufs),
    riff: readRiff(o.riff, 'riff'),
    guitar: {
      name: text(guitar.name, 'guitar.name', LIMITS.name, 1),
      hardPeakDbfs: numberIn(guitar.hardPeakDbfs, 'guitar.hardPeakDbfs', LIMITS.hardPeakDbfs),
      ...(guitar.pickup === undefined ? {} : { pickup: readPickup(guitar.pickup, 'guitar.pickup') }),
    },
    ...(o.trim === undefined ? {} : { trim: o.trim as string }),
    ...(o.device === undefined ? {} : { device: readDevice(o.device, 'device') }),
    ...(o.layers === undefined ? {} : { layers: readLayers(o.layers, 'layers') }),
    ...(o.midiPlan === undefined ? {} : { midiPlan: readMidiPlan(o.midiPlan, 'midiPlan') }),
    chain,
    snapshots,
  }
  const controlled = o.controls === undefined ? preset : { ...preset, controls: readControls(o.controls, preset) }
  return o.board === undefined ? controlled : { ...controlled, board: readBoard(o.board, controlled) }
}

function readNote(value: unknown, path: string): string {
  const note = NOTE_VALUES.find((n) => n.id === value)
  if (!note) throw new PresetError(path, `must be one of ${NOTE_VALUES.map((n) => n.id).join(', ')}.`)
  return note.id
}

export function readNode(value: unknown, path: string, depth: number, ids: Set<string>): ChainNode {
  const o = object(value, path)
  if (o.kind === 'stage') return readStage(o, path, ids)
  if (o.kind !== 'parallel') throw new PresetError(`${path}.kind`, 'must be “stage” or “parallel”.')
  if (depth >= MAX_LANE_DEPTH) throw new PresetError(path, `lanes may lie ${MAX_LANE_DEPTH} deep, not deeper.`)
  noOthers(o, path, ['kind', 'id', 'lanes'])
  const lanes = array(o.lanes, `${path}.lanes`, MAX_LANES)
  if (lanes.length < 2) throw new PresetError(`${path}.lanes`, 'a split needs at least two lanes.')
  return {
    kind: 'parallel',
    id: readId(o.id, `${path}.id`, ids),
    lanes: lanes.map((lane, i) => readLane(lane, `${path}.lanes[${i}]`, depth + 1, ids)),
  }
}

export function readLane(value: unknown, path: string, depth: number, ids: Set<string>): Lane {
  const o = object(value, path)
  noOthers(o, path, ['id', 'on', 'params', 'nodes'])
  return {
    id: readId(o.id, `${path}.id`, ids),
    on: flag(o.on, `${path}.on`),
    params: { ...defaultParams(LANE_MODEL), ...readParams(o.params, `${path}.params`, LANE_MODEL) },
    nodes: array(o.nodes, `${path}.nodes`, MAX_STAGES).map((node, i) => readNode(node, `${path}.nodes[${i}]`, depth, ids)),
  }
}

function readStage(o: Record<string, unknown>, path: string, ids: Set<string>): StageNode {
  noOthers(o, path, ['kind', 'id', 'model', 'name', 'on', 'params', ...(o.model === 'cabinet' ? ['bench'] : [])])
  if (typeof o.model !== 'string' || o.model === LANE_MODEL || !findModel(o.model))
    throw new PresetError(`${path}.model`, `there is no stage model “${String(o.model)}”.`)
  return {
    kind: 'stage',
    id: readId(o.id, `${path}.id`, ids),
    model: o.model,
    ...(o.name === undefined ? {} : { name: text(o.name, `${path}.name`, LIMITS.stage, 1) }),
    on: flag(o.on, `${path}.on`),
    params: { ...defaultParams(o.model), ...readParams(o.params, `${path}.params`, o.model) },
    ...(o.bench === undefined ? {} : { bench: readBench(o.bench, `${path}.bench`) }),
  }
}

function readSnapshot(value: unknown, path: string, ids: Set<string>, stages: Map<string, StageNode>): Snapshot {
  const o = object(value, path)
  noOthers(o, path, ['id', 'name', 'role', 'offset', 'riff', 'ignored', 'tempo', 'tap', 'parent', 'takes', 'stages'])
  const role = ROLES.find((r) => r === o.role)
  if (o.role !== undefined && !role) throw new PresetError(`${path}.role`, `must be one of ${ROLES.join(', ')}.`)
  const overrides = object(o.stages, `${path}.stages`)
  return {
    id: readId(o.id, `${path}.id`, ids),
    name: text(o.name, `${path}.name`, LIMITS.name, 1),
    ...(role ? { role } : {}),
    ...(o.offset === undefined ? {} : { offset: numberIn(o.offset, `${path}.offset`, OFFSET_RANGE) }),
    ...(o.riff === undefined ? {} : { riff: readRiff(o.riff, `${path}.riff`) }),
    ...(o.ignored === undefined ? {} : { ignored: flag(o.ignored, `${path}.ignored`) }),
    ...(o.tempo === undefined ? {} : { tempo: numberIn(o.tempo, `${path}.tempo`, LIMITS.tempo) }),
    ...(o.tap === undefined ? {} : { tap: readNote(o.tap, `${path}.tap`) }),
    ...(o.parent === undefined ? {} : { parent: text(o.parent, `${path}.parent`, LIMITS.name, 1) }),
    ...(o.takes === undefined ? {} : { takes: readTakes(o.takes, `${path}.takes`) }),
    stages: Object.fromEntries(
      Object.entries(overrides).map(([id, override]) => {
        const stage = stages.get(id)
        if (!stage) throw new PresetError(`${path}.stages.${id}`, 'there is no such stage in the chain.')
        return [id, readOverride(override, `${path}.stages.${id}`, stage.model)]
      }),
    ),
  }
}

export function readOverride(value: unknown, path: string, model: string): StageOverride {
  const o = object(value, path)
  noOthers(o, path, ['on', 'params', ...(model === 'cabinet' ? ['bench'] : [])])
  return {
    ...(o.on === undefined ? {} : { on: flag(o.on, `${path}.on`) }),
    ...(o.params === undefined ? {} : { params: readParams(o.params, `${path}.params`, model) }),
    ...(o.bench === undefined ? {} : { bench: readBench(o.bench, `${path}.bench`) }),
  }
}

function readParams(value: unknown, path: string, model: string): ParamMap {
  return readValues(value, path, findModel(model)?.params ?? {}, model)
}
