import { CHUNK, foldToMono, type Processor, type StereoBlock } from './block'
import { OnePole } from './onePole'
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
  private readonly bass = new OnePole()
  private readonly top = new OnePole()
  private readonly clean = new Float64Array(CHUNK * 4)
  private rate = 192_000

  prepare(sampleRate: number): void {
    this.rate = sampleRate * 4
    for (const smooth of [this.gain, this.tone, this.level]) smooth.prepare(sampleRate)
    this.bass.tune(720, this.rate)
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
    if (this.tone.moving) this.top.tune(720 * Math.pow(7000 / 720, this.tone.value / 10), this.rate)
  }

  process(block: StereoBlock, frames: number): void {
    foldToMono(block, frames)
    const { clipping, clean, gain, level } = this
    clipping.raise(block.left, frames)
    const data = clipping.data
    const count = frames * 4
    for (let i = 0; i < count; i++) clean[i] = data[i] *= FULL_SCALE_VOLTS
    this.bass.high(data, count)
    clipping.clip(0, count, gain.value / DIODE_VOLTS, gain.step / DIODE_VOLTS / 4, block.at * 4, 0)
    const scale = 1 / FULL_SCALE_VOLTS
    for (let i = 0; i < count; i++) data[i] = (clean[i] + DIODE_VOLTS * data[i]) * scale
    this.top.low(data, count)
    clipping.lower(block.left, frames)
    const { left, at } = block
    for (let i = 0; i < frames; i++) left[i] *= level.value + (at + i) * level.step
  }

  reset(): void {
    this.clipping.reset()
    this.bass.reset()
    this.top.reset()
  }
}
