export { riffTempo, shippedRiffs, synthesiseRiff, type Strength } from './riffs'
