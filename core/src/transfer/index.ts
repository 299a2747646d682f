export { atTheChain, columnOf, edgeOfChain, GATE_ROOM_DB, inputFor, proposeGates, proposeTrims, type TransferColumn } from './columns'
export { fitDb, proposeInput, type InputFit } from './propose'
