import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { mixVoice, setMix } from '../base/mix'
import { ChunkRing } from '../base/chunkRing'
import type { Machine } from '../kernel/machine'
import { OnePole } from '../base/onePole'
import { Glides } from '../base/smooth'
import { dbToGain } from '../base/units'

export interface PitchShiftParams {
  /** Cents, −2400 to 1200. */
  cents: number
  /** Cents by which the right side is apart from the left. */
  apart: number
  /** Hz, first-order low-pass on the shifted voice. */
  tone: number
  /** Hz, first-order high-pass on the shifted voice; none where absent. */
  lowCut?: number
  /** dB of the dry sound and of the voice beside the mix. */
  dryLevel?: number
  wetLevel?: number
  /** %. */
  mix: number
}

/** Reading places: least distance behind the writing one, where a drift is ended, and how far a jump may look for a likeness, ms. */
const NEAR_MS = 2
const FAR_MS = 22
const SEARCH_MS = 15
/** Least length of a jump, ms. */
const JUMP_MS = 2
/** Small shifts drift slowly and stay close. */
const SMALL_CENTS = 60
const SMALL_FAR_MS = 12
/** Crossfade from one place to the next, ms. */
const FADE_MS = 5
const ONSET_FADE_MS = 1.5
/** For so long an attack is played as it is: it is heard once and at once, and the note behind it is shifted. */
const ATTACK_MS = 9
/** An onset: the level of 1 ms rises this far above that of the last 25. */
const ONSET_RATIO = 2.2
const ONSET_LEAST = 1e-3
/** How late the shifted voice is on average, ms; its attacks come after {@link NEAR_MS}. */
export const PITCH_LATENCY_MS = 9

/**
 * Time-domain pitch shifter: reads a delay line faster or slower, and before it runs out jumps by the offset at which the waveform
 * fits best, under a crossfade. At an onset it goes to the newest sound, plays the attack as it is, and never jumps back before it, so
 * that no attack is heard twice. Sources: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 6 (delay-line and synchronised overlap-add shifters);
 * the attack's treatment after Röbel, DAFx-03 (transients in a phase vocoder).
 */
export class PitchShift implements Processor<PitchShiftParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly tone = this.glides.add(0.05)
  private readonly lowCut = this.glides.add()
  private readonly left = new Voice()
  private readonly right = new Voice()
  private rate = 48_000

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.left.prepare(sampleRate, machine)
    this.right.prepare(sampleRate, machine)
  }

  set(p: PitchShiftParams, immediate: boolean): void {
    setMix(this.mix, p.mix, immediate, dbToGain(p.dryLevel ?? 0), dbToGain(p.wetLevel ?? 0))
    this.tone.set(p.tone, immediate)
    this.lowCut.set(p.lowCut ?? 10, immediate)
    this.left.tune(p.cents)
    this.right.tune(p.cents + p.apart)
  }

  tick(): void {
    this.glides.tick()
    if (this.tone.moving) {
      this.left.low.tune(this.tone.value, this.rate)
      this.right.low.tune(this.tone.value, this.rate)
    }
    if (this.lowCut.moving) {
      this.left.high.tune(this.lowCut.value, this.rate)
      this.right.high.tune(this.lowCut.value, this.rate)
    }
  }

  process(block: StereoBlock): void {
    if (this.left.ratio !== this.right.ratio) spreadToStereo(block)
    this.side(this.left, block.left)
    if (block.stereo) this.side(this.right, block.right)
  }

  private side(voice: Voice, data: Float32Array): void {
    mixVoice(this.mix, data, voice.process(data))
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
  readonly high = new OnePole()
  private machine: Machine | null = null
  private ring: ChunkRing | null = null
  private readonly out = new Float32Array(CHUNK)
  private rate = 48_000
  private near = 1
  private far = 2
  private farNow = 2
  private delay = 1
  private leaving = 1
  private leavingStep = 0
  private fade = 1
  private fadeStep = 1
  /** Frames since the last onset. */
  private since = 1e9
  private fast = 0
  private slow = 0
  private fastStep = 0
  private slowStep = 0

  prepare(sampleRate: number, machine: Machine): void {
    this.rate = sampleRate
    this.near = this.frames(NEAR_MS)
    this.far = this.frames(FAR_MS)
    this.fastStep = 1 - Math.exp(-1 / this.frames(1))
    this.slowStep = 1 - Math.exp(-1 / this.frames(25))
    this.machine = machine
    this.ring = new ChunkRing(Math.ceil(this.far + this.frames(SEARCH_MS) + 4 * this.frames(FADE_MS)), machine)
    this.reset()
  }

  private frames(ms: number): number {
    return (ms / 1000) * this.rate
  }

  tune(cents: number): void {
    this.ratio = Math.pow(2, cents / 1200)
    this.farNow = Math.abs(cents) <= SMALL_CENTS ? this.frames(SMALL_FAR_MS) : this.far
  }

  private go(to: number, ms: number, leavingStep: number): void {
    this.leaving = this.delay
    this.leavingStep = leavingStep
    this.delay = to
    this.fade = 0
    this.fadeStep = 1 / Math.round(this.frames(ms))
  }

  /** An onset, at the frame that is put now? */
  private hears(x: number): boolean {
    const power = x * x
    this.fast += this.fastStep * (power - this.fast)
    this.slow += this.slowStep * (power - this.slow)
    this.since++
    const risen = this.fast > ONSET_RATIO * ONSET_RATIO * this.slow && this.fast > ONSET_LEAST * ONSET_LEAST
    return risen && this.since > this.frames(30)
  }

  /** The delay near `around` at which the recent waveform resembles that at the present place most; not before the last onset. */
  private bestPlace(least: number, most: number): number {
    const { ring, machine } = this
    if (!ring || !machine) return least
    const last = Math.min(most, Math.max(least, this.since - 8))
    const here = ring.write - Math.round(this.delay)
    const length = Math.round(this.frames(FADE_MS))
    return machine.kernel.pitchBestPlace(ring.at, ring.mask + 1, ring.write, here, length, Math.round(least), last)
  }

  process(data: Float32Array): Float32Array {
    const { ring, out, ratio, near } = this
    if (!ring) return out
    const attack = this.frames(ATTACK_MS)
    const step = 1 - ratio
    for (let i = 0; i < CHUNK; i++) {
      const x = data[i]
      if (this.hears(x)) {
        const before = this.since > attack ? step : 0
        this.since = 0
        this.go(near, ONSET_FADE_MS, before)
      }
      ring.push(x)
      const moves = this.since > attack
      if (moves) this.delay += step
      if (this.fade >= 1 && moves && ratio !== 1) this.jumpInTime(step)
      let y = ring.between(Math.max(2, this.delay))
      if (this.fade < 1) {
        this.leaving += this.leavingStep
        const old = ring.between(Math.min(ring.frames, Math.max(2, this.leaving)))
        y = this.fade * y + (1 - this.fade) * old
        this.fade = Math.min(1, this.fade + this.fadeStep)
      }
      out[i] = y
    }
    this.low.low(out)
    this.high.high(out)
    return out
  }

  /** Up: back by about a period or more before the reading place meets the writing one. Down: forward before it falls too far behind. */
  private jumpInTime(step: number): void {
    const { near, farNow } = this
    const fade = this.frames(FADE_MS)
    if (step < 0 && this.delay + step * fade < near) {
      // nothing resembles the present place more than itself: a jump of no length would be made again at once
      const least = this.delay + Math.max(-step * fade, this.frames(JUMP_MS))
      const most = near - step * fade + this.frames(SEARCH_MS)
      this.go(this.bestPlace(least, Math.max(least, Math.min(most, farNow + this.delay))), FADE_MS, step)
    } else if (step > 0 && this.delay > farNow)
      this.go(this.bestPlace(near, Math.min(near + this.frames(SEARCH_MS), this.delay - this.frames(JUMP_MS))), FADE_MS, step)
  }

  reset(): void {
    this.ring?.reset()
    this.low.reset()
    this.high.reset()
    this.delay = this.leaving = this.near
    this.fade = 1
    this.since = 1e9
    this.fast = this.slow = 0
  }
}
