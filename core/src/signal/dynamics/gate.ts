import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import { dbToGain } from '../base/units'

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
  private rate = 48_000
  private openAt = 0
  private closeAt = 0
  private holdFrames = 0
  private attackStep = 0
  private releaseStep = 0
  private floorDb = -60
  private decay = 0
  private level = 0
  private held = 0
  private isOpen = false
  private fromDry = false
  private db = -60
  private gain = 0

  prepare(sampleRate: number): void {
    this.rate = sampleRate
    this.decay = Math.exp(-1 / (0.01 * sampleRate))
  }

  set(p: GateParams, immediate: boolean): void {
    this.openAt = dbToGain(p.threshold)
    this.closeAt = dbToGain(p.threshold - p.hysteresis)
    this.holdFrames = (p.hold / 1000) * this.rate
    this.floorDb = -p.range
    this.attackStep = p.range / Math.max(1, (p.attack / 1000) * this.rate)
    this.releaseStep = p.range / Math.max(1, (p.release / 1000) * this.rate)
    this.fromDry = p.key === 'dry'
    if (immediate) this.reset()
  }

  /** Values act at once: they only move thresholds and slopes, the gain itself never jumps. */
  tick(): void {}

  process(block: StereoBlock): void {
    const { left, right, stereo, key } = block
    const { fromDry, openAt, closeAt, holdFrames, attackStep, releaseStep, floorDb, decay } = this
    let { level, held, isOpen, db } = this
    let gain = this.gain
    for (let i = 0; i < CHUNK; i++) {
      const own = stereo ? Math.max(Math.abs(left[i]), Math.abs(right[i])) : Math.abs(left[i])
      const magnitude = fromDry ? Math.abs(key[i]) : own
      level = magnitude > level ? magnitude : level * decay
      if (level >= openAt) {
        isOpen = true
        held = 0
      } else if (level >= closeAt) held = 0
      else if (++held > holdFrames) isOpen = false
      if (isOpen ? db < 0 : db !== floorDb) {
        if (isOpen) db = Math.min(0, db + attackStep)
        else db = db > floorDb ? Math.max(floorDb, db - releaseStep) : floorDb
        gain = Math.exp(db * 0.1151292546497023)
      }
      if (db !== 0) {
        left[i] *= gain
        if (stereo) right[i] *= gain
      }
    }
    this.level = level
    this.held = held
    this.isOpen = isOpen
    this.db = db
    this.gain = gain
  }

  reset(): void {
    this.level = 0
    this.held = this.holdFrames + 1
    this.isOpen = false
    this.db = this.floorDb
    this.gain = dbToGain(this.db)
  }
}
