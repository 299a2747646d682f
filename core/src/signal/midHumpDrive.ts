import { foldToMono, type Processor, type StereoBlock } from './block'
import { onePoleCoefficient } from './onePole'
import { Clipping } from './clipping'
import { Smooth } from './smooth'
import { audioTaper, dbToGain, FULL_SCALE_VOLTS } from './units'

export interface MidHumpDriveParams {
  /** 0–10. */
  gain: number
  tone: number
  /** dB. */
  level: number
}

/** Diode pair: the clipped part saturates near 0.6 V. */
const DIODE_VOLTS = 0.6

/**
 * Drive with diodes in the feedback of its gain stage: what lies above 720 Hz is amplified and clipped, the whole signal passes
 * beside it, then a first-order tone low-pass. The gain runs from 11.8 to 118 (4.7 kΩ, 51 kΩ + 500 kΩ pot), the tone corner from
 * 720 Hz to 7 kHz. Source: Yeh, Abel, Smith, DAFx-07 (simplified circuit).
 */
export class MidHumpDrive implements Processor<MidHumpDriveParams> {
  readonly latency = Clipping.latency
  private readonly gain = new Smooth()
  private readonly tone = new Smooth()
  private readonly level = new Smooth()
  private readonly clipping = new Clipping()
  private bass = 0
  private top = 0
  private rate = 192_000

  prepare(sampleRate: number): void {
    this.rate = sampleRate * 4
    for (const smooth of [this.gain, this.tone, this.level]) smooth.prepare(sampleRate)
    this.bass = onePoleCoefficient(720, this.rate)
  }

  set(p: MidHumpDriveParams, immediate: boolean): void {
    this.gain.set(1 + (51e3 + 500e3 * audioTaper(p.gain)) / 4.7e3, immediate)
    this.tone.set(p.tone, immediate)
    this.level.set(dbToGain(p.level), immediate)
  }

  tick(): void {
    this.gain.tick()
    this.tone.tick()
    this.level.tick()
    if (this.tone.moving) this.top = onePoleCoefficient(720 * Math.pow(7000 / 720, this.tone.value / 10), this.rate)
  }

  process(block: StereoBlock, frames: number): void {
    foldToMono(block, frames)
    const { clipping, gain, level } = this
    const { left, at } = block
    clipping.raise(left, frames)
    clipping.driveChain(
      frames * 4,
      at * 4,
      gain.value / DIODE_VOLTS,
      gain.step / DIODE_VOLTS / 4,
      FULL_SCALE_VOLTS,
      DIODE_VOLTS,
      this.bass,
      this.top,
    )
    clipping.lower(left, frames)
    for (let i = 0; i < frames; i++) left[i] *= level.value + (at + i) * level.step
  }

  reset(): void {
    this.clipping.reset()
  }
}
