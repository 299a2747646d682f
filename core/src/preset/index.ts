export { blankPreset, playedOn } from './start'
export { PRESET_FORMAT, PRESET_VERSION, presetFields, presetSchema, readPreset, type Preset } from './preset'
export { applyEdit, coalescingKey, type Edit } from './edits'
export { commit, createHistory, redo, resumed, undo, type History } from './history'
export type { ParamMap } from './values'
export type { Aside } from './aside/description'
export {
  defaultParams,
  GUITAR_STAGE,
  LANE_MODEL,
  MAX_LANES,
  MAX_STAGES,
  stageFields,
  stagesOf,
  type ChainNode,
  type Lane,
  type ParallelNode,
  type StageNode,
} from './chain/description'
export { createLane, createStage, findStage, partsOf, splitsOf, stripOf } from './chain/chain'
export { copyStages, freshBlock, isStageBlock, readStages, type BlockCells, type StageBlock } from './chain/block'
export { canSplit, findLane, laneAround, pathTo, placeAt, placeOf, rowsOf, stepPlace, type Place, type Row } from './chain/routing'
export { partName } from './chain/names'
export { MAX_SNAPSHOTS, snapshotFields, type Snapshot, type StageOverride } from './snapshots/description'
export { findSnapshot } from './snapshots/snapshots'
export { copyCells, pastePlaces, readCells, type CellBlock } from './snapshots/cells'
export { snapshotDifference, type ValueDifference } from './snapshots/difference'
export { holds, landing, type Landing, type Reach } from './snapshots/landing'
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
} from './snapshots/resolve'
export { MAX_GUITARS, type Fit, type HandSetting, type OwnHand, type UsedGuitar } from './guitars/description'
export { usedGuitar } from './guitars/edits'
export { chainAlone, onGuitar, onMade } from './guitars/variants'
export { asPlayed, guitarStage, handFrom, handOf, madeHandOf, madeOn, strokeDbfs, type Hand } from './guitars/hand'
export { MAX_RIFF_TAKES, ROLES, type RiffChoice, type Role } from './levels/description'
export { riffOf, roleOffset, targetOf, trimOf, trimsExactly, trimsOf, type Trim } from './levels/levelling'
export {
  clippingBehind,
  clippingStages,
  frozen,
  heardStages,
  judgedDry,
  withStage,
  withStageMatched,
  withToggled,
} from './levels/listening'
export {
  CONTROL_KINDS,
  controlFields,
  createControl,
  createTarget,
  CURVE_SHAPES,
  LFO_SHAPES,
  LINEAR,
  MAX_CONTROLS,
  MAX_DEAD,
  MAX_POINTS,
  MAX_TARGETS,
  ON_SNAPSHOT,
  type Control,
  type ControlKind,
  type ControlTarget,
  type Curve,
  type CurveShape,
  type OnSnapshot,
} from './controls/description'
export {
  isLive,
  movedBy,
  movedTargets,
  POSITION,
  positionOf,
  runsItself,
  targetSpec,
  targetValue,
  withMacros,
  type Moved,
  type Positions,
} from './controls/controls'
export { curveAt } from './controls/curves'
export { readyMoveEdit, readyMoves, type ReadyMove } from './controls/readyMoves'
export { evenOut } from './controls/evenOut'
export { inputDbAt, loudnessJump, placeOfValue, stillTwentieths } from './controls/travel'
export {
  BOARD_PAGES,
  boardFields,
  EMPTY_BOARD,
  FUNCTION_KINDS,
  GESTURES,
  MAX_SWITCH_STAGES,
  samePlace,
  switchFields,
  type Board,
  type BoardPage,
  type BoardPlace,
  type BoardSwitch,
  type FunctionKind,
  type Gesture,
  type SwitchFunction,
} from './board/description'
export { createSwitch, functionsOf, hasRoom, switchAt } from './board/board'
export { DEFAULT_MIDI, type MidiBinding, type MidiPlan } from './midi/description'
export { createLayer, MAX_LAYERS, type Layer } from './layers/description'
export {
  capacityFields,
  deviceFields,
  MAX_TAKES,
  takeFields,
  type DeviceCapacity,
  type DeviceProfile,
  type DeviceScale,
  type Take,
} from './takes/description'
export { DEFAULT_SCALE, deviceSetting } from './takes/takes'
export { asDevice, deviceProfile, deviceSchema, DEVICE_VERSION, readDevice, type DeviceDocument } from './takes/deviceDocument'
export { CAPACITIES, capacityOf, deviceOf, processingOf, type CapacityCount } from './takes/device'
export { levelFromTakes, type TakeLevel } from './takes/takePlan'
