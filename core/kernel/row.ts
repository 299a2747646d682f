/**
 * What a passage of stages asks of the kernels in every chunk while nothing about it changes: noted once by the host
 * (core/src/signal/kernel/notes.ts) as steps, each the kind and then its arguments, and repeated here.
 */
import { add, copy, fold, mix, share, silence, turn } from './blocks'
import { Band, bandProcess } from './effects/band'
import { Biquad, biquadProcess } from './effects/biquad'
import { ClippingStage, clippingProcess } from './effects/clipping'
import { Compressor, compressorProcess } from './effects/compressor'
import { Convolution, convolutionProcess } from './effects/convolution'
import { Delay, delayProcess, DelaySettings } from './effects/delay'
import { Echo, echoProcess } from './effects/echo'
import { Gate, gateProcess } from './effects/gate'
import { ModulatedDelay, modulatedDelayProcess } from './effects/modulatedDelay'
import { Network, networkProcess } from './effects/network'
import { PhaseShifter, phaseShifterProcess } from './effects/phaseShifter'
import { Voice, pitchProcess } from './effects/pitch'
import { place } from './effects/placing'
import { Plate, plateProcess } from './effects/plate'
import { Rotary, rotaryProcess } from './effects/rotary'
import { Spring, springTurn } from './effects/spring'
import {
  ROW_ADD,
  ROW_BAND_PROCESS,
  ROW_BIQUAD_PROCESS,
  ROW_CLIPPING_PROCESS,
  ROW_COMPRESSOR_PROCESS,
  ROW_CONVOLUTION_PROCESS,
  ROW_COPY,
  ROW_DELAY_PROCESS,
  ROW_ECHO_PROCESS,
  ROW_FOLD,
  ROW_GATE_PROCESS,
  ROW_MIX,
  ROW_MODULATED_DELAY_PROCESS,
  ROW_NETWORK_PROCESS,
  ROW_PHASE_SHIFTER_PROCESS,
  ROW_PITCH_PROCESS,
  ROW_PLACE,
  ROW_PLATE_PROCESS,
  ROW_RING_BEND,
  ROW_RING_PASS,
  ROW_RING_PUT,
  ROW_RING_TAP,
  ROW_ROTARY_PROCESS,
  ROW_SHARE,
  ROW_SILENCE,
  ROW_SPRING_TURN,
  ROW_STAGE_BEGIN,
  ROW_STAGE_ENTER,
  ROW_STAGE_LEAVE,
  ROW_TURN,
} from './operations.generated'
import { BYTES, copied } from './memory'
import { Ring, ringBend, ringPass, ringPut, ringTap } from './rings'
import { Stage, stageBegin, stageEnter, stageLeave, tires } from './stage'

/** Bytes of a step: its kind and up to seven arguments. */
const STEP: usize = 32

/** The step that runs. */
let now: usize = 0

/** Where the step stands that ran last: the one that failed, where one has. */
export function rowAt(): usize {
  return now
}

/** The k-th argument, from 1 on, of the step that runs. */
@inline
function at(k: usize): usize {
  return load<usize>(now + (k << 2))
}
@inline
function whole(k: usize): i32 {
  return load<i32>(now + (k << 2))
}
@inline
function single(k: usize): f32 {
  return load<f32>(now + (k << 2))
}

/**
 * Chunks one after another through a row, whose block has its sides at `left` and, if what comes in is stereo, at `right`: they come from `from`
 * and `fromRight`, what side-chains hear from `key` to `side`, and they go from the block to `to` and, where the row ends in stereo, to
 * `toRight`. A place is 0 where there is none.
 * @returns chunks that were done; less than none, and it ends there, where a stage falls asleep at the next one if it stays silent
 */
export function rowSpan(
  row: usize, count: i32, left: usize, right: usize, from: usize, fromRight: usize, side: usize, key: usize, to: usize, toRight: usize,
): i32 {
  for (let done = 0; done < count; ) {
    const at = <usize>done * BYTES
    copied(left, from + at)
    if (fromRight != 0) copied(right, fromRight + at)
    if (key != 0) copied(side, key + at)
    const ends = rowRun(row)
    copied(to + at, left)
    if (toRight != 0) copied(toRight + at, right)
    done++
    if (ends) return -done
  }
  return count
}

/** A chunk through all steps of a row. @returns whether one of its stages falls asleep at the next one, if it stays silent */
export function rowRun(row: usize): bool {
  let ends = false
  now = row
  for (let kind = whole(0); kind != 0; kind = whole(0)) {
    switch (kind) {
      case ROW_STAGE_BEGIN:
        stageBegin(changetype<Stage>(at(1)))
        break
      case ROW_STAGE_ENTER:
        stageEnter(changetype<Stage>(at(1)), at(2), at(3))
        break
      case ROW_STAGE_LEAVE:
        stageLeave(changetype<Stage>(at(1)), at(2), at(3), single(4), single(5))
        ends = ends || tires(changetype<Stage>(at(1)))
        break
      case ROW_BIQUAD_PROCESS:
        biquadProcess(changetype<Biquad>(at(1)), at(2), at(3))
        break
      case ROW_CLIPPING_PROCESS:
        clippingProcess(changetype<ClippingStage>(at(1)), at(2))
        break
      case ROW_CONVOLUTION_PROCESS:
        convolutionProcess(changetype<Convolution>(at(1)), at(2))
        break
      case ROW_COPY:
        copy(at(1), at(2), at(3), at(4))
        break
      case ROW_TURN:
        turn(at(1), at(2), single(3), single(4))
        break
      case ROW_MIX:
        mix(at(1), at(2), single(3), single(4), single(5), single(6))
        break
      case ROW_RING_BEND:
        ringBend(changetype<Ring>(at(1)), at(2), at(3))
        break
      case ROW_RING_PASS:
        ringPass(changetype<Ring>(at(1)), at(2), whole(3))
        break
      case ROW_FOLD:
        fold(at(1), at(2), at(3))
        break
      case ROW_ADD:
        add(at(1), at(2), at(3), at(4))
        break
      case ROW_SHARE:
        share(at(1), at(2), single(3), single(4))
        break
      case ROW_SILENCE:
        silence(at(1), at(2))
        break
      case ROW_PLACE:
        place(at(1), at(2), single(3), single(4), single(5), single(6))
        break
      case ROW_GATE_PROCESS:
        gateProcess(changetype<Gate>(at(1)), at(2), at(3), at(4))
        break
      case ROW_COMPRESSOR_PROCESS:
        compressorProcess(changetype<Compressor>(at(1)), at(2), at(3), whole(4))
        break
      case ROW_DELAY_PROCESS:
        delayProcess(changetype<Delay>(at(1)), changetype<DelaySettings>(at(2)), at(3))
        break
      case ROW_ECHO_PROCESS:
        echoProcess(changetype<Echo>(at(1)), at(2), at(3), whole(4), whole(5))
        break
      case ROW_MODULATED_DELAY_PROCESS:
        modulatedDelayProcess(changetype<ModulatedDelay>(at(1)), at(2), at(3))
        break
      case ROW_PHASE_SHIFTER_PROCESS:
        phaseShifterProcess(changetype<PhaseShifter>(at(1)), at(2), at(3))
        break
      case ROW_NETWORK_PROCESS:
        networkProcess(changetype<Network>(at(1)), at(2), at(3), at(4), single(5))
        break
      case ROW_BAND_PROCESS:
        bandProcess(changetype<Band>(at(1)), at(2), at(3))
        break
      case ROW_PITCH_PROCESS:
        pitchProcess(changetype<Voice>(at(1)), at(2))
        break
      case ROW_PLATE_PROCESS:
        plateProcess(changetype<Plate>(at(1)), at(2), at(3), at(4))
        break
      case ROW_ROTARY_PROCESS:
        rotaryProcess(changetype<Rotary>(at(1)), at(2), at(3))
        break
      case ROW_SPRING_TURN:
        springTurn(changetype<Spring>(at(1)), at(2), at(3), single(4), single(5))
        break
      case ROW_RING_PUT:
        ringPut(changetype<Ring>(at(1)), at(2))
        break
      case ROW_RING_TAP:
        ringTap(changetype<Ring>(at(1)), at(2), whole(3), single(4))
        break
      default:
        unreachable()
    }
    now += STEP
  }
  return ends
}
