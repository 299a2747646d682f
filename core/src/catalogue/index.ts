export { catalogue, findModel, modelOf } from './catalogue'
export { BENCH_RESPONSE } from './cabinet'
export {
  benchBehind,
  benchNumber,
  cabSpecs,
  channelFlags,
  channelSpecs,
  createBench,
  createChannel,
  defaultCab,
  defaultMic,
  micSpecs,
} from './micBench'
export { clips, FAMILIES, type BuildContext, type ChartKind, type Family, type StageModel } from './model'
export { quantity, type ChoiceSpec, type NumberSpec, type ParamSpec, type ParamSpecs, type Unit } from './params'
export {
  clockPosition,
  clockToKnob,
  formatNumber,
  formatValue,
  fromTravel,
  nudge,
  potDb,
  potMark,
  roundValue,
  toTravel,
  unitText,
} from './values'
export { parseValue, rangeProblem, type Parsed, type Typing } from './typed'
export { layerSpecs, type LayerParam } from './mixLayer'
