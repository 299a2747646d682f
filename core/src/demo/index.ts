export { demoPresets } from './presets'
