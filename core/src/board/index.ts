export {
  actsWhileDown,
  arePaired,
  effectOf,
  functionLabel,
  holderOf,
  FUNCTION_NAMES,
  isOn,
  restingSources,
  switchedStages,
  type Effect,
  type Toggled,
} from './functions'
export { Gestures, habitsOf, pressDelay, type GestureEvent, type Habits } from './gestures'
export { layOut } from './layout'
export { hears, midiClashes, midiList, snapshotOf, type MidiRow } from './midiList'
export { TOGETHER_MS, Together, type FootEvent } from './together'
export {
  columnsOf,
  faceAfter,
  footWords,
  isUsable,
  nextInRow,
  reachOf,
  silentStages,
  unreachableSnapshots,
  usableFunctions,
  type Reach,
  type Reached,
} from './reach'
