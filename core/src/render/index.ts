export { Engine, sameStructure, type Plan } from './engine'
export { Renderer, renderPreset, type RenderJob, type Sound, type Tap } from './offline'
export { stageResponse, stageTail, stageTransfer, type ComplexResponse } from './probe'
