import { applyEdit, type Preset } from '@fulgor/core/preset'
import { cardboard, fizz, whistle } from './balance'
import { boomBeforeGain } from './boomBeforeGain'
import { cabinetIntoCabinet } from './cabinetIntoCabinet'
import { deadTravel, driveChangesNothing } from './changesNothing'
import { cleanDistorts } from './cleanDistorts'
import { combsInMono } from './combsInMono'
import { compressorBeforeGain } from './compressorBeforeGain'
import { cutMisread } from './cutMisread'
import { delayDrowns } from './delayDrowns'
import { deviceCapacity } from './deviceCapacity'
import { dryInLane } from './dryInLane'
import type { Check, Finding, Heard, Mend, SoundCheck } from './finding'
import { gateBehindTail } from './gateBehindTail'
import { gateClipsSoft } from './gateClipsSoft'
import { gateNeverCloses } from './gateNeverCloses'
import { harshNotes } from './harshNotes'
import { heldBySource } from './heldBySource'
import { hotInput } from './hotInput'
import { idleControl } from './idleControl'
import { laneCancels } from './laneCancels'
import { lateLane } from './lateLane'
import { latePress } from './latePress'
import { leadDoesNotRise } from './leadDoesNotRise'
import { littleDynamics } from './littleDynamics'
import { liveAtMaximum } from './liveAtMaximum'
import { midiClash } from './midiClash'
import { missingCabinet } from './missingCabinet'
import { monoLoss } from './monoLoss'
import { movedSyncedTime } from './movedSyncedTime'
import { movedTwice } from './movedTwice'
import { noisy } from './noisy'
import { outOfReach } from './outOfReach'
import { reverbFillsGaps } from './reverbFillsGaps'
import { riffTuning } from './riffTuning'
import { soundAlike } from './soundAlike'
import { storedUnderSource } from './storedUnderSource'
import { tailCut } from './tailCut'
import { timeOffTempo } from './timeOffTempo'
import { tremoloFilled } from './tremoloFilled'
import { twoCabinets } from './twoCabinets'
import { twoModulations } from './twoModulations'

export { findingKey, isAside, type Amount, type Check, type Finding, type Heard, type Mend, type SoundCheck } from './finding'
export { overCeiling, type OutputPeaks } from './overCeiling'

/** Every rule that goes by values, in the order in which findings are told. */
export const checks: readonly Check[] = [
  twoCabinets,
  missingCabinet,
  cabinetIntoCabinet,
  gateBehindTail,
  timeOffTempo,
  movedTwice,
  movedSyncedTime,
  storedUnderSource,
  liveAtMaximum,
  heldBySource,
  deviceCapacity,
  outOfReach,
  delayDrowns,
  dryInLane,
  lateLane,
  tailCut,
  twoModulations,
  tremoloFilled,
  cutMisread,
  riffTuning,
  idleControl,
  latePress,
  midiClash,
]

/** Every rule that goes by the sound. */
export const soundChecks: readonly SoundCheck[] = [
  gateNeverCloses,
  gateClipsSoft,
  noisy,
  cleanDistorts,
  leadDoesNotRise,
  boomBeforeGain,
  monoLoss,
  combsInMono,
  laneCancels,
  hotInput,
  compressorBeforeGain,
  littleDynamics,
  driveChangesNothing,
  deadTravel,
  harshNotes,
  reverbFillsGaps,
  cardboard,
  whistle,
  fizz,
  soundAlike,
]

const OVER_WHY =
  'Above full scale the converter and every file clip, however clean the preset is. Between samples the wave may rise a little higher, and coded files add to it; so the ceiling lies at −1 dBTP (EBU R 128).'

/** What a rule is about, for the beginner. */
export const whyOf = (rule: string): string => [...checks, ...soundChecks].find((c) => c.id === rule)?.why ?? OVER_WHY

/** Everything that the rules of values find in a preset. */
export const checkPreset = (preset: Preset, newId: () => string): Finding[] => checks.flatMap((check) => check.find(preset, newId))

const wrong = (findings: readonly Finding[]): ReadonlySet<string> =>
  new Set(findings.filter((f) => f.severity === 'warning').map((f) => f.rule))

/** Without the mends that would make something else go wrong, as far as values tell. */
export function sparing(preset: Preset, findings: readonly Finding[], newId: () => string): Finding[] {
  const before = wrong(checkPreset(preset, newId))
  const spares = ({ edits }: Mend): boolean => {
    try {
      return [...wrong(checkPreset(applyEdit(preset, { type: 'all', edits }), newId))].every((rule) => before.has(rule))
    } catch (error) {
      // what cannot be done mends nothing
      if (error instanceof RangeError) return false
      throw error
    }
  }
  return findings.map((f) => (f.mends.length === 0 ? f : { ...f, mends: f.mends.filter(spares) }))
}

/** Everything that the rules of sound find. */
export const checkSound = (heard: Heard, newId: () => string): Finding[] => soundChecks.flatMap((check) => check.find(heard, newId))

/** What will go wrong first; in the order of the rules otherwise. */
export const byWeight = (findings: readonly Finding[]): Finding[] => [
  ...findings.filter((f) => f.severity === 'warning'),
  ...findings.filter((f) => f.severity === 'note'),
]
