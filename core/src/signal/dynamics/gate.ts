import { rightOf, type Processor, type StereoBlock } from '../base/block'
import { dbToGain } from '../base/units'
import type { Machine, Pointer } from '../kernel/machine'

export interface GateParams {
  /** dBFS at which the gate opens. */
  threshold: number
  /** dB below the threshold at which it starts to close. */
  hysteresis: number
  /** ms. */
  attack: number
  hold: number
  release: number
  /** dB that a closed gate takes away. */
  range: number
  /** What opens it: the signal at its own place, or the dry guitar. */
  key: 'own' | 'dry'
}

/**
 * Noise gate: opens at the threshold, closes only below threshold − hysteresis after the hold time; the gain runs up and down in
 * dB. Level detection: peak with 10 ms decay. Source: Reiss & McPherson, Audio Effects, 2014, ch. 6; times are common practice.
 */
export class Gate implements Processor<GateParams> {
  readonly latency = 0
  readonly listens = true
  readonly steady = true
  readonly still = true
  private rate = 48_000
  private machine: Machine | null = null
  private at: Pointer = 0
  /** What the kernel is told and remembers, in the order of its struct. */
  private numbers = new Float64Array(12)
  private fromDry = false

  prepare(sampleRate: number, machine: Machine): void {
    this.rate = sampleRate
    this.machine = machine
    this.at = machine.make((kernel) => kernel.gateCreate())
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, 12)))
  }

  set(p: GateParams, immediate: boolean): void {
    const { numbers, rate } = this
    const frames = (ms: number) => (ms / 1000) * rate
    numbers[OPEN_AT] = dbToGain(p.threshold)
    numbers[CLOSE_AT] = dbToGain(p.threshold - p.hysteresis)
    numbers[HOLD] = frames(p.hold)
    numbers[ATTACK] = p.range / Math.max(1, frames(p.attack))
    numbers[RELEASE] = p.range / Math.max(1, frames(p.release))
    numbers[FLOOR_DB] = -p.range
    numbers[DECAY] = Math.exp(-1 / (0.01 * rate))
    this.fromDry = p.key === 'dry'
    if (immediate) this.reset()
  }

  /** Values act at once: they only move thresholds and slopes, the gain itself never jumps. */
  tick(): void {}

  process(block: StereoBlock): void {
    this.machine?.kernel.gateProcess(this.at, block.leftAt, rightOf(block), this.fromDry ? block.keyAt : 0)
  }

  reset(): void {
    const { numbers } = this
    numbers[LEVEL] = 0
    numbers[HELD] = numbers[HOLD] + 1
    numbers[IS_OPEN] = 0
    numbers[DB] = numbers[FLOOR_DB]
    numbers[GAIN] = dbToGain(numbers[DB])
  }
}

const [OPEN_AT, CLOSE_AT, HOLD, ATTACK, RELEASE, FLOOR_DB, DECAY, LEVEL, HELD, IS_OPEN, DB, GAIN] = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]
