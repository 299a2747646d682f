export { demoPlaces } from './places'
export { demoGuitars } from './guitars'
export { dearestChain, demoPresets } from './presets'
export { demoResponses } from './responses'
