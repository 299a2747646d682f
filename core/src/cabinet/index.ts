export { alignTo, firstNullHz, type Alignment } from './alignment'
export { besselJ1, pistonDirectivity } from './bessel'
export {
  audible,
  benchOf,
  benchWords,
  BLEND_FRAMES,
  blendId,
  filesOf,
  MAX_CHANNELS,
  type BenchChannel,
  type ChannelSource,
  type MicBench,
  type Side,
} from './bench'
export { blendResponse, channelSpectrum, onsetOf, placedChannels, sumOf, type BlendedResponse } from './blend'
export { spectrumOf, type HalfSpectrum } from './spectrum'
export { resampledResponse, sourceTaps, type FileSource, type SoundFile } from './channelTaps'
export { cancellation, CURVE_HZ, curvePower, powerDb, type Cancellation, type CancelledZone } from './curves'
export { DEFAULT_EXPORT, exportBlend, type ExportSettings } from './exporting'
export { BAND_HZ, bandsOf, centroidOf, inspectResponse, LONGEST_RESPONSE_S, type ResponseReport } from './inspect'
export { drivers, geometryOf, SPEED_OF_SOUND, type CabDesign, type CabGeometry } from './loudspeaker'
export { microphones, proximity, type MicrophoneType } from './microphones'
export { cepstralMinimumPhase, minimumPhase } from './minimumPhase'
export { arrivalSeconds, micResponse, type MicPlace } from './radiation'
export {
  groupKinds,
  inDirection,
  measureOf,
  regionDb,
  REGIONS,
  timbreDistance,
  type Direction,
  type Kind,
  type Measure,
  type Timbre,
} from './ranking'
export { cabinetResponses, responseLibrary, responseTaps, synthesiseResponse, type CabinetResponse } from './responses'
export { cutLossDb, type CutSlope } from './transfer'
export { loudnessGainDb, pinkWeights, weightsBehind, type Weights } from './weights'
