import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import { mixVoice } from '../base/mix'
import { Glides } from '../base/smooth'

/**
 * Second-order state-variable filter that may be swept: band-pass output with 0 dB at its centre.
 * Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2 (state-variable filter), in the trapezoidal form of Zavalishin 2012.
 */
class BandPass {
  private g = 0
  private k = 1
  private gStep = 0
  private kStep = 0
  private gNext = 0
  private kNext = 1
  private fresh = true
  private s1 = 0
  private s2 = 0

  /** Where the band is at the end of the chunk that begins now. */
  tune(hz: number, q: number, sampleRate: number): void {
    this.g = this.gNext
    this.k = this.kNext
    this.gNext = Math.tan(Math.PI * Math.min(0.45, hz / sampleRate))
    this.kNext = 1 / q
    if (this.fresh) {
      this.g = this.gNext
      this.k = this.kNext
      this.fresh = false
    }
    this.gStep = (this.gNext - this.g) / CHUNK
    this.kStep = (this.kNext - this.k) / CHUNK
  }

  /** Writes k · band-pass, so that the centre is at 0 dB. */
  process(input: Float32Array, out: Float32Array): void {
    let { s1, s2 } = this
    for (let i = 0; i < CHUNK; i++) {
      const g = this.g + i * this.gStep
      const k = this.k + i * this.kStep
      const band = (s1 + g * (input[i] - s2)) / (1 + g * (g + k))
      const low = s2 + g * band
      s1 = 2 * band - s1
      s2 = 2 * low - s2
      out[i] = k * band
    }
    this.s1 = s1
    this.s2 = s2
  }

  reset(): void {
    this.s1 = this.s2 = 0
    this.fresh = true
  }
}

/** Where the swept band lies and how loud it and the dry signal are. */
interface Sweep {
  readonly hz: number
  readonly q: number
  readonly dry: number
  readonly wet: number
}

/** A resonant band beside the dry signal, both sides alike. */
abstract class SweptBand {
  readonly latency = 0
  protected rate = 48_000
  protected readonly glides = new Glides()
  private readonly share = this.glides.mix()
  private readonly left = new BandPass()
  private readonly right = new BandPass()
  private readonly out = new Float32Array(CHUNK)

  prepare(sampleRate: number): void {
    this.rate = sampleRate
    this.glides.prepare(sampleRate)
  }

  protected mix(sweep: Pick<Sweep, 'dry' | 'wet'>, immediate: boolean): void {
    this.share.dry.set(sweep.dry, immediate)
    this.share.wet.set(sweep.wet, immediate)
  }

  protected tune(hz: number, q: number): void {
    this.left.tune(hz, q, this.rate)
    this.right.tune(hz, q, this.rate)
  }

  process(block: StereoBlock): void {
    this.side(this.left, block.left)
    if (block.stereo) this.side(this.right, block.right)
  }

  private side(filter: BandPass, data: Float32Array): void {
    filter.process(data, this.out)
    mixVoice(this.share, data, this.out)
  }

  reset(): void {
    this.left.reset()
    this.right.reset()
  }
}

export interface WahParams {
  /** 0 heel … 10 toe. */
  position: number
  q: number
  /** %. */
  mix: number
}

/** Pedal wah: a band swept from 400 to 2,200 Hz, 12 dB above the input at its centre (common practice, no source). */
export class Wah extends SweptBand implements Processor<WahParams> {
  private readonly position = this.glides.add()
  private readonly q = this.glides.add()

  set(p: WahParams, immediate: boolean): void {
    this.position.set(p.position, immediate)
    this.q.set(p.q, immediate)
    this.mix({ dry: 1 - p.mix / 100, wet: (4 * p.mix) / 100 }, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.tune(400 * Math.pow(2200 / 400, this.position.value / 10), this.q.value)
  }
}

export interface ResonanceParams {
  /** Hz. */
  frequency: number
  q: number
  /** %. */
  mix: number
}

/** A wah left standing in one place: one resonance with a mix of its own. */
export class Resonance extends SweptBand implements Processor<ResonanceParams> {
  private readonly frequency = this.glides.add()
  private readonly q = this.glides.add()

  set(p: ResonanceParams, immediate: boolean): void {
    this.frequency.set(p.frequency, immediate)
    this.q.set(p.q, immediate)
    this.mix({ dry: 1 - p.mix / 100, wet: (3 * p.mix) / 100 }, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.tune(this.frequency.value, this.q.value)
  }
}

export interface EnvelopeFilterParams {
  /** dB: how much louder than −40 dBFS opens it one octave further. */
  sensitivity: number
  /** Hz. */
  from: number
  to: number
  q: number
  /** ms. */
  attack: number
  release: number
  /** %. */
  mix: number
}

/** A band that follows the strength of picking, upwards or (with `from` above `to`) downwards. Source: Zölzer, DAFX 2011, ch. 2. */
export class EnvelopeFilter extends SweptBand implements Processor<EnvelopeFilterParams> {
  override prepare(sampleRate: number): void {
    super.prepare(sampleRate)
  }

  private readonly from = this.glides.add()
  private readonly to = this.glides.add()
  private readonly q = this.glides.add()
  private readonly sensitivity = this.glides.add()
  private attack = 5
  private release = 150
  private level = 0
  private peak = 0

  set(p: EnvelopeFilterParams, immediate: boolean): void {
    this.from.set(Math.log(p.from), immediate)
    this.to.set(Math.log(p.to), immediate)
    this.q.set(p.q, immediate)
    this.sensitivity.set(p.sensitivity, immediate)
    this.attack = p.attack
    this.release = p.release
    this.mix({ dry: 1 - p.mix / 100, wet: (3 * p.mix) / 100 }, immediate)
  }

  tick(): void {
    this.glides.tick()
    const { sensitivity, from, to, q } = this
    const ms = this.peak > this.level ? this.attack : this.release
    this.level += (this.peak - this.level) * (1 - Math.exp((-CHUNK * 1000) / (ms * this.rate)))
    this.peak = 0
    const db = 20 * Math.log10(this.level + 1e-9) + sensitivity.value + 20
    const open = Math.min(1, Math.max(0, db / 20))
    this.tune(Math.exp(from.value + (to.value - from.value) * open), q.value)
  }

  override process(block: StereoBlock): void {
    const { left, right, stereo } = block
    let { peak } = this
    for (let i = 0; i < CHUNK; i++) {
      peak = Math.max(peak, Math.abs(left[i]))
      if (stereo) peak = Math.max(peak, Math.abs(right[i]))
    }
    this.peak = peak
    super.process(block)
  }

  override reset(): void {
    super.reset()
    this.level = this.peak = 0
  }
}
