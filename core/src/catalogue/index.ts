export { catalogue, findModel, modelOf } from './catalogue'
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
  rangeProblem,
  roundValue,
  toTravel,
  unitText,
  type Parsed,
} from './values'
