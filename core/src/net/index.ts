export type { Cascade, Fight } from './conflicts'
export { NET_HZ, netAt, type Contributor } from './curve'
export { mergeable, oneEqFor, type OneEq } from './oneEq'
export {
  MOST_WAYS,
  netCurve,
  phaseMeter,
  responseMeter,
  wholeCurve,
  type NetPath,
  type NetSection,
  type PhasedResponse,
  type ResponseOf,
} from './net'
