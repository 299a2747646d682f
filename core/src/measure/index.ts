export { loudness, type Loudness, type Signal } from './loudness'
export { outputMeasures, rms, stageMeasures, type OutputMeasures, type StageMeasures } from './measures'
export { averageSpectrum, bandPower, centroid, THIRD_OCTAVES, thirdOctaves, type Band, type Spectrum } from './spectrum'
export { samplePeak, truePeak } from './truePeak'
