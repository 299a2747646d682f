import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from './block'
import { mixGains } from './mix'
import { Ring } from './ring'
import { OnePole } from './onePole'
import { Smooth } from './smooth'

export interface PitchShiftParams {
  /** Cents, −2400 to 1200. */
  cents: number
  /** Cents by which the right side is apart from the left. */
  apart: number
  /** Hz, first-order low-pass on the shifted voice. */
  tone: number
  /** %. */
  mix: number
}

/** Where the reading place may lie behind the writing one, ms. */
const NEAR_MS = 6
const FAR_MS = 46
/** Crossfade from one place to the next, ms. */
const FADE_MS = 8
/** How late the shifted voice is on average, ms. */
export const PITCH_LATENCY_MS = Math.round((NEAR_MS + FAR_MS) / 2)

/**
 * Time-domain pitch shifter: reads a delay line faster or slower, and before it runs out jumps by the offset at which the waveform
 * fits best, under a crossfade. Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 6 (delay-line and synchronised overlap-add shifters).
 */
export class PitchShift implements Processor<PitchShiftParams> {
  readonly latency = 0
  private readonly dry = new Smooth()
  private readonly wet = new Smooth()
  private readonly tone = new Smooth()
  private readonly left = new Voice()
  private readonly right = new Voice()
  private rate = 48_000

  prepare(sampleRate: number): void {
    this.rate = sampleRate
    for (const s of [this.dry, this.wet, this.tone]) s.prepare(sampleRate)
    this.tone.prepare(sampleRate, 0.05)
    this.left.prepare(sampleRate)
    this.right.prepare(sampleRate)
  }

  set(p: PitchShiftParams, immediate: boolean): void {
    const { dry, wet } = mixGains(p.mix)
    this.dry.set(dry, immediate)
    this.wet.set(wet, immediate)
    this.tone.set(p.tone, immediate)
    this.left.ratio = Math.pow(2, p.cents / 1200)
    this.right.ratio = Math.pow(2, (p.cents + p.apart) / 1200)
  }

  tick(): void {
    this.dry.tick()
    this.wet.tick()
    this.tone.tick()
    if (this.tone.moving) {
      this.left.low.tune(this.tone.value, this.rate)
      this.right.low.tune(this.tone.value, this.rate)
    }
    this.left.tick()
    this.right.tick()
  }

  process(block: StereoBlock, frames: number): void {
    if (this.left.ratio !== this.right.ratio) spreadToStereo(block, frames)
    this.side(this.left, block.left, block.at, frames)
    if (block.stereo) this.side(this.right, block.right, block.at, frames)
  }

  private side(voice: Voice, data: Float64Array, at: number, frames: number): void {
    const { dry, wet } = this
    const out = voice.process(data, frames)
    for (let i = 0; i < frames; i++) {
      const k = at + i
      data[i] = data[i] * (dry.value + k * dry.step) + out[i] * (wet.value + k * wet.step)
    }
  }

  reset(): void {
    this.left.reset()
    this.right.reset()
  }
}

/** One reading place, and during a crossfade the one that it leaves. */
class Voice {
  ratio = 1
  readonly low = new OnePole()
  private ring = new Ring(1)
  private readonly out = new Float64Array(CHUNK)
  private near = 1
  private far = 2
  private fadeFrames = 1
  private delay = 1
  private leaving = 1
  private fade = 1

  prepare(sampleRate: number): void {
    this.near = (NEAR_MS / 1000) * sampleRate
    this.far = (FAR_MS / 1000) * sampleRate
    this.fadeFrames = Math.round((FADE_MS / 1000) * sampleRate)
    this.ring = new Ring(Math.ceil(this.far * 1.5) + 2_048)
    this.reset()
  }

  /** On the control grid: is it time to jump? */
  tick(): void {
    if (this.fade < 1 || this.ratio === 1) return
    const drift = (1 - this.ratio) * (this.fadeFrames + CHUNK)
    const ends = this.delay + drift
    if (ends > this.near && ends < this.far) return
    this.leaving = this.delay
    this.delay = this.bestPlace(this.ratio > 1 ? this.far - 0.3 * (this.far - this.near) : this.near + 0.05 * (this.far - this.near))
    this.fade = 0
  }

  /** The delay near `around` at which the recent waveform resembles that at the present place most. */
  private bestPlace(around: number): number {
    const { buffer, mask, write } = this.ring
    const span = Math.round(0.3 * (this.far - this.near))
    const length = this.fadeFrames
    const here = write - Math.round(this.delay)
    let best = Math.round(around)
    let most = -Infinity
    for (let offset = 0; offset < span; offset += 4) {
      const place = Math.round(around) + offset
      const there = write - place
      let product = 0
      let power = 1e-9
      for (let n = -length; n < 0; n += 4) {
        const a = buffer[(here + n) & mask]
        const b = buffer[(there + n) & mask]
        product += a * b
        power += b * b
      }
      const likeness = (product * Math.abs(product)) / power
      if (likeness > most) {
        most = likeness
        best = place
      }
    }
    return best
  }

  process(data: Float64Array, frames: number): Float64Array {
    const { ring, out, ratio, fadeFrames } = this
    const step = 1 - ratio
    for (let i = 0; i < frames; i++) {
      ring.push(data[i])
      this.delay += step
      let y = ring.between(Math.max(2, this.delay))
      if (this.fade < 1) {
        this.leaving += step
        const old = ring.between(Math.max(2, this.leaving))
        y = this.fade * y + (1 - this.fade) * old
        this.fade = Math.min(1, this.fade + 1 / fadeFrames)
      }
      out[i] = y
    }
    this.low.low(out, frames)
    return out
  }

  reset(): void {
    this.ring.reset()
    this.low.reset()
    this.delay = this.leaving = 0.5 * (this.near + this.far)
    this.fade = 1
  }
}
