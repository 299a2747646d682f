export { changesOf, movingAt, pedalClashes, type Change, type Wanted } from './changes'
export {
  cleanTap,
  GESTURE_WEIGHT,
  planChanges,
  planPresses,
  SUNG_WEIGHT,
  WAY_WEIGHT,
  wayBetween,
  type FootStep,
  type Plan,
  type PlannedChange,
  type ShownPreset,
  type Trouble,
} from './presses'
export {
  bestLayout,
  boardOfLayout,
  layoutBound,
  layoutCost,
  layoutProblem,
  placeWords,
  standsAt,
  type Layout,
  type LayoutProblem,
} from './layout'
export {
  inSwitchOrder,
  ownSnapshots,
  proposeLayout,
  withBoard,
  withOwnSnapshot,
  withoutOwnSnapshot,
  type LayoutJob,
  type LayoutProposal,
  type MadeSnapshot,
  type OwnSnapshot,
} from './propose'
export { auditOf, auditProposals, type Usage } from './audit'
export { repeatsAt, type Repeats } from './repeats'
