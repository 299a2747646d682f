export { applyEdit, coalescingKey, type Edit } from './edits'
export { commit, createHistory, redo, undo, type History } from './history'
export {
  blankPreset,
  createStage,
  defaultParams,
  findSnapshot,
  findStage,
  MAX_SNAPSHOTS,
  MAX_STAGES,
  PRESET_FORMAT,
  PRESET_VERSION,
  stagesOf,
  type ChainNode,
  type Lane,
  type ParallelNode,
  type ParamMap,
  type Preset,
  type RiffChoice,
  type Snapshot,
  type StageNode,
  type StageOverride,
} from './preset'
export { LIMITS, PresetError, readPreset } from './read'
export { cellChanges, effectiveParams, resolveStage, resolveValues, type CellChange, type ResolvedStage } from './resolve'
export { presetSchema } from './schema'
