/**
 * The engine's instance: one memory in which a chain's blocks and effects lie, and what a row of stages does with its blocks. A block is a
 * chunk of f32 a side; `right` is 0 where it is mono. Every effect is one file of effects/, one struct and one process.
 */
export { alloc, newest, release } from './memory'
export * from './effects/band'
export * from './effects/biquad'
export * from './effects/clipping'
export * from './effects/compressor'
export * from './effects/convolution'
export * from './effects/delay'
export * from './effects/echo'
export * from './effects/gate'
export * from './effects/modulatedDelay'
export * from './effects/network'
export * from './effects/phaseShifter'
export * from './effects/pitch'
export * from './effects/placing'
export * from './effects/plate'
export * from './effects/rotary'
export * from './effects/spring'
export { add, copy, crossfade, fold, mix, peak, share, silence, turn } from './blocks'
export {
  ringAllpass,
  ringBend,
  ringCreate,
  ringPass,
  ringPut,
  ringReset,
  ringSwap,
  ringSweep,
  ringTake,
  ringTap,
} from './rings'
export { rowAt, rowRun, rowSpan } from './row'
export { stageBegin, stageCreate, stageEnter, stageLeave, stageReset } from './stage'
