export { minimumPhase } from './minimumPhase'
export { cabinetResponses, synthesiseResponse, type CabinetResponse } from './responses'
