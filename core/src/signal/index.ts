export { bessel0 } from './filters/bessel0'
export { adapted } from './base/adapted'
export {
  CHUNK,
  createBlock,
  give,
  listen,
  rightOf,
  foldToMono,
  spreadToStereo,
  take,
  type ParamValue,
  type ParamValues,
  type Processor,
  type StereoBlock,
} from './base/block'
export { ChunkRing } from './base/chunkRing'
export { Biquad, design, identity, sectionResponse, type Section } from './filters/biquad'
export { Cabinet, type CabinetParams, type ResponseSource, type StereoResponse } from './convolution/cabinet'
export { CleanBoost } from './clipping/cleanBoost'
export { Clipper } from './clipping/clipper'
export { Clipping, type Quality } from './clipping/clipping'
export { Compressor, staticCurve, type CompressorSettings, type Detector } from './dynamics/compressor'
export { Convolver, MAX_TAPS } from './convolution/convolver'
export { Delay, MAX_DELAY_MS, type DelayParams } from './delays/delay'
export { Drive, type DriveCircuit } from './clipping/drive'
export * as driveCircuits from './clipping/driveCircuits'
export { Echo, type EchoSettings } from './delays/echo'
export { Fft } from './base/fft'
export { EnvelopeFilter, Resonance, Wah } from './filters/filters'
export { halfBandCoefficients } from './filters/halfBand'
export { Gate, type GateParams } from './dynamics/gate'
export { circuitTransfer, potShare, transferDb, type Coil, type Taper, type Transfer, type Wiring } from './guitar/circuit'
export { fitted, sectionsDb } from './guitar/fitted'
export { GuitarInput, type GuitarInputParams } from './guitar/guitarInput'
export { GraphicEq } from './filters/graphicEq'
export { instantiate, splittingFactors, splittingOrder } from './kernel/kernel'
export { inPassing, Machine, type EngineKernel, type Pointer } from './kernel/machine'
export { rowBytes } from './kernel/notes'
export { mixGains } from './base/mix'
export { ModulatedDelay } from './modulation/modulatedDelay'
export { AMBIENCE, HALL, NetworkTank, ROOM } from './reverbs/networkTank'
export { OutsideLoop } from './routing/outsideLoop'
export { FOURTH_ORDER_Q, ParametricEq, type ParametricEqParams, type Slope } from './filters/parametricEq'
export { PHASER, PhaseShifter, VIBE } from './modulation/phaseShifter'
export { Lfo, type LfoShape } from './base/lfo'
export { MAX_PLACING_MS, Placing } from './routing/placing'
export { PITCH_LATENCY_MS, PitchShift } from './modulation/pitchShift'
export { PlateTank } from './reverbs/plateTank'
export { resample } from './base/resample'
export { Reverb, type ReverbParams } from './reverbs/reverb'
export { MAX_REVERSE_MS, ReverseDelay } from './delays/reverseDelay'
export { Rotary } from './modulation/rotary'
export { Glides, Smooth } from './base/smooth'
export { SpringTank } from './reverbs/springTank'
export { Through } from './routing/through'
export { TiltEq } from './filters/tiltEq'
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
} from './filters/toneStack'
export { Tremolo } from './modulation/tremolo'
export { TubeAmp, type AmpChannel, type GainStage, type PowerSection, type TubeAmpDesign, type TubeAmpParams } from './clipping/tubeAmp'
export { audioTaper, dbToGain, evenTaper, FULL_SCALE_VOLTS, gainToDb } from './base/units'
