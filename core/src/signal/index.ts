export { CHUNK, createBlock, spreadToStereo, type ParamValue, type ParamValues, type Processor, type StereoBlock } from './block'
export { Biquad, design, identity, sectionResponse, type Section } from './biquad'
export { Cabinet, type CabinetParams, type ResponseSource } from './cabinet'
export { Clipping } from './clipping'
export { Convolver, MAX_TAPS } from './convolver'
export { Delay, MAX_DELAY_MS, mixGains, type DelayParams } from './delay'
export { Fft } from './fft'
export { Gate, type GateParams } from './gate'
export { instantiate, splittingFactors, splittingOrder } from './kernel/kernel'
export { Hall, type HallParams } from './hall'
export { MidHumpDrive, type MidHumpDriveParams } from './midHumpDrive'
export { ParametricEq, type ParametricEqParams, type Slope } from './parametricEq'
export { resample } from './resample'
export { Fade, Smooth } from './smooth'
export {
  analogDb,
  bilinear3,
  digital3Db,
  publishedParts,
  ToneStack,
  toneStackTransfer,
  type ToneStackParts,
  type ToneStackPots,
} from './toneStack'
export { Trim, type TrimParams } from './trim'
export { TubeAmp, type TubeAmpDesign, type TubeAmpParams } from './tubeAmp'
export { audioTaper, dbToGain, FULL_SCALE_VOLTS, gainToDb } from './units'
