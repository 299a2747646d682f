export { dearestChain, demoPresets } from './presets'
