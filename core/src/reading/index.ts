export { CLOSES_ABOVE_DB, OPENS_ABOVE_DB, proposeGate, type GateProposal } from './gateCost'
export { gainOf, type GainFigures } from './gain'
export {
  inputsOf,
  readSnapshot,
  thdAt,
  type Dry,
  type Reading,
  type ReadingJob,
  type RenderTaps,
  type StageReading,
  type Turned,
} from './reading'
export { changeDb, type Character } from './change'
export { gapDepthDb } from './gaps'
export { laneAgainst, type LanePair } from './lanes'
export { harshNote, type HarshNote } from './neck'
export { isShipped, playedRiff, readingSignals, soundOf, voiceIn, type Played } from './performance'
export { GOALS, gainParams, gainSearch, type Found, type GainParam, type Goal } from './goal'
