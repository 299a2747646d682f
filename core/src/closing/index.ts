export {
  benchFor,
  cabinetEdit,
  designsFor,
  designWords,
  FIRST_PLACES,
  nearestFiles,
  placesAround,
  sourceWords,
  together,
  type Ranked,
  type Source,
} from './cabinet'
export { asParametric, bandWords, EQ_PLACES, eqEdit, type EqPlace } from './equaliser'
export {
  beforeAmp,
  modelsOf,
  nearness,
  searchSettings,
  settingEdit,
  settingWords,
  type Aimed,
  type Look,
  type Setting,
  type Where,
} from './amps'
export { timeProposals } from './time'
export { anyOf, heardOf, ORDERS, STEPS, type Proposal, type Step } from './proposal'
export { modelCandidate, presetCandidate, snapshotCandidate, type Candidate } from './candidates'
