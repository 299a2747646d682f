export { worstAliasDb } from './alias'
export { Engine, sameStructure, type Plan } from './engine'
export { loudnessSearch, solved, solveLoudness, type Solved } from './levelling'
export { Renderer, renderPreset, type RenderJob, type SharedTaps, type Sound, type Tap } from './offline'
export {
  feelFrom,
  feelOf,
  feelTone,
  levelsFrom,
  stageFeel,
  stageGain,
  stageResponse,
  stageTail,
  type ComplexResponse,
  type StageFeel,
  type StagePart,
} from './probe'
export { switchFault, switchFigures, type SwitchFigures } from './switching'
export { ownUnity, stageDynamics, unitySearch, type Unity } from './unity'
export { mixLayers, placeLayer, type MixFigures, type Placement, type Sides } from './layers'
export { CONTROL_CHUNKS, controlPlan, type ControlPlan } from './controlRack'
