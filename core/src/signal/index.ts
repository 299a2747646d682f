export { bessel0 } from './bessel0'
export { adapted } from './adapted'
export {
  CHUNK,
  createBlock,
  foldToMono,
  spreadToStereo,
  type ParamValue,
  type ParamValues,
  type Processor,
  type StereoBlock,
} from './block'
export { Biquad, design, identity, sectionResponse, type Section } from './biquad'
export { Cabinet, type CabinetParams, type ResponseSource, type StereoResponse } from './cabinet'
export { CleanBoost } from './cleanBoost'
export { Clipper } from './clipper'
export { Clipping, type Quality } from './clipping'
export { Compressor, staticCurve, type CompressorSettings, type Detector } from './compressor'
export { Convolver, MAX_TAPS } from './convolver'
export { Delay, MAX_DELAY_MS, type DelayParams } from './delay'
export { Drive, type DriveCircuit } from './drive'
export * as driveCircuits from './driveCircuits'
export { Echo, type EchoSettings } from './echo'
export { Fft } from './fft'
export { EnvelopeFilter, Resonance, Wah } from './filters'
export { halfBandCoefficients } from './halfBand'
export { Gate, type GateParams } from './gate'
export { GraphicEq } from './graphicEq'
export { instantiate, splittingFactors, splittingOrder } from './kernel/kernel'
export { mixGains } from './mix'
export { ModulatedDelay } from './modulatedDelay'
export { AMBIENCE, HALL, NetworkTank, ROOM } from './networkTank'
export { OutsideLoop } from './outsideLoop'
export { ParametricEq, type ParametricEqParams, type Slope } from './parametricEq'
export { PHASER, PhaseShifter, VIBE } from './phaseShifter'
export { Lfo, type LfoShape } from './lfo'
export { MAX_PLACING_MS, Placing } from './placing'
export { PITCH_LATENCY_MS, PitchShift } from './pitchShift'
export { PlateTank } from './plateTank'
export { resample } from './resample'
export { Reverb, type ReverbParams } from './reverb'
export { MAX_REVERSE_MS, ReverseDelay } from './reverseDelay'
export { Rotary } from './rotary'
export { Fade, Smooth } from './smooth'
export { SpringTank } from './springTank'
export { Through } from './through'
export { TiltEq } from './tiltEq'
export {
  analogDb,
  bassTaper,
  bilinear,
  digitalMagnitude,
  publishedParts,
  stackTransfer,
  toneStackTransfer,
  type AnalogCoefficients,
  type ToneStack,
  type ToneStackParts,
  type ToneStackPots,
} from './toneStack'
export { Tremolo } from './tremolo'
export { TubeAmp, type AmpChannel, type GainStage, type PowerSection, type TubeAmpDesign, type TubeAmpParams } from './tubeAmp'
export { audioTaper, dbToGain, evenTaper, FULL_SCALE_VOLTS, gainToDb } from './units'
