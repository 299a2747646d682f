export { riffTempo, RIFF_PEAK_DBFS, shippedRiffs, synthesiseRiff, type Strength } from './riffs'
