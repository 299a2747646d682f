export { gainOf, type GainFigures } from './gain'
export { inputsOf, readSnapshot, thdAt, type Dry, type Reading, type ReadingJob, type RenderTaps, type StageReading } from './reading'
export { isShipped, playedRiff, soundOf, type Played } from './performance'
