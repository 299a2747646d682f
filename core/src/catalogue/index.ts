export { catalogue, findModel, modelOf } from './catalogue'
export { BENCH_RESPONSE } from './cabinet'
export { benchBehind, benchNumber, cabSpecs, channelFlags, channelSpecs, createBench, createChannel, defaultCab, defaultMic, micSpecs } from './micBench'
export { FAMILIES, type BuildContext, type ChartKind, type Family, type StageModel } from './model'
export type { ChoiceSpec, NumberSpec, ParamSpec, ParamSpecs, Unit } from './params'
export {
  clockPosition,
  clockToKnob,
  formatNumber,
  formatValue,
  fromTravel,
  nudge,
  parseValue,
  potDb,
  potMark,
  rangeProblem,
  roundValue,
  toTravel,
  unitText,
  type Parsed,
} from './values'
export { layerSpecs, type LayerParam } from './mixLayer'
