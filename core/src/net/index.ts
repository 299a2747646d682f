export type { Cascade, Fight } from './conflicts'
export { NET_HZ, netAt, type Contributor } from './curve'
export { netCurve, responseMeter, type NetPath, type NetSection, type ResponseOf } from './net'
