import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import type { Machine, Pointer } from '../kernel/machine'
import { setMix } from '../base/mix'
import { onePoleCoefficient } from '../base/onePole'
import { Glides, putMoving } from '../base/smooth'
import { SWAP_SECONDS, SwapLength } from '../base/swapDelay'

export interface DelayParams {
  /** ms. */
  time: number
  /** %: each repeat is this share of the one before. */
  feedback: number
  /** Hz: first-order low-pass on every repeat. */
  tone: number
  /** %: dry stays whole up to 50, the repeats are whole from 50 on. */
  mix: number
}

/** Longest time in ms. */
export const MAX_DELAY_MS = 2000

/**
 * Digital delay: whole-sample times, so that repeats keep their level; a new time crossfades in 30 ms without a glide; trails.
 * Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2. It runs in core/kernel/effects/delay.ts.
 */
export class Delay implements Processor<DelayParams> {
  readonly latency = 0
  readonly steady = true
  private readonly glides = new Glides()
  private readonly feedback = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly tone = this.glides.add(0.05)
  private readonly input = this.glides.fade()
  private readonly swap = this.glides.fade(SWAP_SECONDS)
  private readonly length = new SwapLength(this.swap)
  private readonly lines: Pointer[] = []
  private machine: Machine | null = null
  private settingsAt: Pointer = 0
  private numbers = new Float32Array(0)
  private lengths = new Int32Array(0)
  private coefficient = new Float64Array(0)
  private rate = 48_000

  get still(): boolean {
    return this.glides.still && this.length.still
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    const size = 1 << Math.ceil(Math.log2((MAX_DELAY_MS / 1000) * sampleRate + CHUNK))
    for (let side = 0; side < 2; side++) this.lines.push(machine.make((kernel) => kernel.delayCreate(size)))
    this.settingsAt = machine.make((kernel) => kernel.delaySettingsCreate())
    machine.keep((buffer) => {
      this.numbers = new Float32Array(buffer, this.settingsAt, 10)
      this.lengths = new Int32Array(buffer, this.settingsAt + 40, 2)
      this.coefficient = new Float64Array(buffer, this.settingsAt + 48, 1)
    })
    this.machine = machine
  }

  set(p: DelayParams, immediate: boolean): void {
    this.feedback.set(p.feedback / 100, immediate)
    setMix(this.mix, p.mix, immediate)
    this.tone.set(p.tone, immediate)
    this.length.set(Math.max(1, Math.round((p.time / 1000) * this.rate)), immediate)
  }

  send(open: boolean, immediate: boolean): void {
    this.input.set(open, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.length.tick()
    if (this.glides.still) return
    const { numbers, lengths, mix } = this
    if (this.tone.moving) this.coefficient[0] = onePoleCoefficient(this.tone.value, this.rate)
    putMoving(numbers, 0, this.feedback)
    putMoving(numbers, 1, mix.dry)
    putMoving(numbers, 2, mix.wet)
    putMoving(numbers, 3, this.input)
    putMoving(numbers, 4, this.swap)
    lengths[0] = this.length.current
    lengths[1] = this.length.previous
  }

  process(block: StereoBlock): void {
    const kernel = this.machine?.kernel
    kernel?.delayProcess(this.lines[0], this.settingsAt, block.leftAt)
    if (block.stereo) kernel?.delayProcess(this.lines[1], this.settingsAt, block.rightAt)
  }

  reset(): void {
    for (const line of this.lines) this.machine?.kernel.delayReset(line)
  }
}
