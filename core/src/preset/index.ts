export { copyStages, freshBlock, isStageBlock, readStages, type BlockCells, type StageBlock } from './block'
export { copyCells, pastePlaces, readCells, type CellBlock } from './cells'
export { applyEdit, coalescingKey, type Edit } from './edits'
export { commit, createHistory, redo, resumed, undo, type History } from './history'
export {
  blankPreset,
  createLane,
  createStage,
  defaultParams,
  findSnapshot,
  findStage,
  GUITARS,
  LANE_MODEL,
  MAX_LANES,
  MAX_SNAPSHOTS,
  MAX_STAGES,
  PRESET_FORMAT,
  PRESET_VERSION,
  partsOf,
  ROLES,
  splitsOf,
  stagesOf,
  stripOf,
  type ChainNode,
  type GuitarProfile,
  type Lane,
  type ParallelNode,
  type ParamMap,
  type Preset,
  type RiffChoice,
  type Role,
  type Snapshot,
  type StageNode,
  type StageOverride,
} from './preset'
export { snapshotDifference, type ValueDifference } from './difference'
export { PresetError } from './fields'
export { riffOf, roleOffset, targetOf, trimOf, trimsExactly, trimsOf, type Trim } from './levelling'
export { LIMITS, OFFSET_RANGE, readPreset } from './read'
export { holds, landing, type Landing, type Reach } from './landing'
export {
  BENCH_KEY,
  cellChanges,
  effectiveParams,
  overlaid,
  resolveStage,
  resolveValues,
  tempoOf,
  type CellChange,
  type ResolvedStage,
} from './resolve'
export { canSplit, findLane, laneAround, pathTo, placeAt, placeOf, rowsOf, stepPlace, type Place, type Row } from './routing'
export { presetSchema } from './schema'
export { frozen, judgedDry, withStage, withToggled } from './listening'
export { createLayer, MAX_LAYERS, MAX_RIFF_TAKES, type Layer } from './layers'
export { DEVICE_LIMITS } from './readExtras'
export { DEFAULT_SCALE, deviceSetting, MAX_TAKES, SCALE_KINDS, type DeviceScale, type Take } from './takes'
export { levelFromTakes, type TakeLevel } from './takePlan'
export {
  CONTROL_KINDS,
  CONTROL_LIMITS,
  createControl,
  isLive,
  LFO_SHAPES,
  MAX_CONTROLS,
  MAX_TARGETS,
  movedBy,
  movedTargets,
  ON_SNAPSHOT,
  POSITION,
  positionOf,
  runsItself,
  targetSpec,
  targetValue,
  withMacros,
  type Control,
  type ControlKind,
  type ControlTarget,
  type Moved,
  type OnSnapshot,
  type Positions,
} from './controls'
export {
  BOARD_LIMITS,
  BOARD_PAGES,
  createSwitch,
  EMPTY_BOARD,
  FUNCTION_KINDS,
  functionsOf,
  GESTURES,
  hasRoom,
  samePlace,
  switchAt,
  type Board,
  type BoardPage,
  type BoardPlace,
  type BoardSwitch,
  type FunctionKind,
  type Gesture,
  type SwitchFunction,
} from './board'
export { CAPACITIES, CAPACITY_RANGES, capacityOf, deviceOf, type CapacityCount, type DeviceCapacity, type DeviceProfile } from './device'
export { partName } from './names'
export { DEFAULT_MIDI, type MidiPlan } from './midiPlan'
export { CURVE_SHAPES, curveAt, LINEAR, MAX_DEAD, MAX_POINTS, type Curve, type CurveShape } from './curves'
export { readyMoveEdit, readyMoves, type ReadyMove } from './readyMoves'
export { evenOut } from './evenOut'
export { inputDbAt, loudnessJump, placeOfValue, stillTwentieths } from './travel'
