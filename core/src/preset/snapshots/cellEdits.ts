import { blendId, type MicBench } from '@fulgor/core/cabinet'
import { modelOf } from '@fulgor/core/catalogue'
import type { ParamValue } from '@fulgor/core/signal'
import { partsOf, requireStage } from '../chain/chain'
import { mapStage } from '../chain/map'
import { edit } from '../edit'
import type { Preset } from '../preset'
import { pastePlaces, type CellBlock } from './cells'
import type { StageOverride } from './description'
import { BENCH_KEY, cellChanges, resolveStage, type ResolvedStage } from './resolve'
import { mapSnapshot } from './snapshots'

/** What is done to single values; `snapshot: null` means the base. */
export const cellEdits = {
  setParam: edit<{ stage: string; snapshot: string | null; param: string; value: ParamValue }>(
    (preset, { stage, snapshot, param, value }) => setParam(preset, stage, snapshot, param, value),
    { joins: ({ stage, snapshot, param }) => `${stage} ${snapshot} ${param}` },
  ),
  setOn: edit<{ stage: string; snapshot: string | null; on: boolean }>((preset, { stage, snapshot, on }) => {
    requireStage(preset, stage)
    if (snapshot === null) return mapStage(preset, stage, (s) => ({ ...s, on }))
    return mapCell(preset, snapshot, stage, (cell) => ({ ...cell, on }))
  }),
  resetCell: edit<{ stage: string; snapshot: string; param?: string }>((preset, { stage, snapshot, param }) =>
    resetCell(preset, stage, snapshot, param),
  ),
  cellToBase: edit<{ stage: string; snapshot: string }>((preset, { stage, snapshot }) => cellToBase(preset, stage, snapshot)),
  /** What was copied goes onto these snapshots from the stage on down; a block that is narrower is repeated. */
  pasteCells: edit<{ block: CellBlock; stage: string; snapshots: readonly string[] }>((preset, { block, stage, snapshots }) => {
    const places = pastePlaces(preset, block, stage)
    return block.rows.reduce((whole, { cells }, r) => {
      const place = places[r]
      return place === null ? whole : snapshots.reduce((p, snapshot, c) => setCell(p, place.id, snapshot, cells[c % cells.length]), whole)
    }, preset)
  }),
  /** Stages take in some snapshots what they have in another one. */
  fillCells: edit<{ stages: readonly string[]; from: string; to: readonly string[] }>((preset, { stages, from, to }) =>
    stages.reduce((p, id) => {
      const values = resolveStage(p, requireStage(p, id), from)
      return to.reduce((q, snapshot) => setCell(q, id, snapshot, values), p)
    }, preset),
  ),
  swapCells: edit<{ stages: readonly string[]; a: string; b: string }>((preset, { stages, a, b }) =>
    stages.reduce((p, id) => {
      const stage = requireStage(p, id)
      const [left, right] = [resolveStage(p, stage, a), resolveStage(p, stage, b)]
      return setCell(setCell(p, id, a, right), id, b, left)
    }, preset),
  ),
  baseToSnapshot: edit<{ snapshot: string }>((preset, { snapshot }) => mapSnapshot(preset, snapshot, (s) => ({ ...s, stages: {} }))),
  snapshotToBase: edit<{ snapshot: string }>((preset, { snapshot }) =>
    partsOf(preset.chain).reduce((p, stage) => cellToBase(p, stage.id, snapshot), preset),
  ),
}

export function mapCell(preset: Preset, snapshotId: string, stageId: string, change: (cell: StageOverride) => StageOverride): Preset {
  return mapSnapshot(preset, snapshotId, (snapshot) => {
    const next = change(snapshot.stages[stageId] ?? {})
    const { [stageId]: _, ...others } = snapshot.stages
    const empty = next.on === undefined && next.bench === undefined && Object.keys(next.params ?? {}).length === 0
    return { ...snapshot, stages: empty ? others : { ...others, [stageId]: next } }
  })
}

/** What a snapshot was given stays its own, also when it passes the base's value: half of a drag must not land elsewhere. */
export function setParam(preset: Preset, stageId: string, snapshotId: string | null, param: string, value: ParamValue): Preset {
  requireStage(preset, stageId)
  if (snapshotId === null) {
    return mapStage(preset, stageId, (s) => ({ ...s, params: { ...s.params, [param]: value } }))
  }
  return mapCell(preset, snapshotId, stageId, (cell) => ({ ...cell, params: { ...cell.params, [param]: value } }))
}

export function resetCell(preset: Preset, stageId: string, snapshotId: string, param?: string): Preset {
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
