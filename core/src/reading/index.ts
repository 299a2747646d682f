export { CLOSES_ABOVE_DB, OPENS_ABOVE_DB, proposeGate, type GateProposal } from './gateCost'
export { gainOf, type GainFigures } from './gain'
export { inputsOf, readSnapshot, thdAt, type Dry, type Reading, type ReadingJob, type RenderTaps, type StageReading } from './reading'
export { isShipped, playedRiff, soundOf, type Played } from './performance'
