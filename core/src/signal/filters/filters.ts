import { CHUNK, rightOf, type Processor, type StereoBlock } from '../base/block'
import { Glides, type Smooth } from '../base/smooth'
import type { Machine, Pointer } from '../kernel/machine'

/** The numbers of a band, in the order of core/kernel/effects/band.ts: value and step of each. */
const G = 0
const K = 2
const DRY = 4
const WET = 6
const NUMBERS = 8

/** How loud the band and the dry signal are. */
interface Shares {
  readonly dry: number
  readonly wet: number
}

/**
 * A resonant band beside the dry signal, both sides alike: a second-order state-variable filter that may be swept, with 0 dB at its centre.
 * Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2 (state-variable filter), in the trapezoidal form of Zavalishin 2012. It runs in
 * core/kernel/effects/band.ts.
 */
abstract class SweptBand {
  readonly latency = 0
  readonly steady: boolean = true
  protected rate = 48_000
  protected readonly glides = new Glides()
  private readonly share = this.glides.mix()
  protected machine: Machine | null = null
  private at: Pointer = 0
  private numbers = new Float64Array(NUMBERS)
  private gNext = 0
  private kNext = 1
  private fresh = true

  prepare(sampleRate: number, machine: Machine): void {
    this.rate = sampleRate
    this.glides.prepare(sampleRate)
    this.machine = machine
    this.at = machine.make((kernel) => kernel.bandCreate())
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, NUMBERS)))
  }

  protected mix({ dry, wet }: Shares, immediate: boolean): void {
    this.share.dry.set(dry, immediate)
    this.share.wet.set(wet, immediate)
  }

  /** Where the band is at the end of the chunk that begins now. */
  protected tune(hz: number, q: number): void {
    const g = Math.tan(Math.PI * Math.min(0.45, hz / this.rate))
    const k = 1 / q
    this.glide(G, this.fresh ? g : this.gNext, g)
    this.glide(K, this.fresh ? k : this.kNext, k)
    this.gNext = g
    this.kNext = k
    this.fresh = false
    this.put(DRY, this.share.dry)
    this.put(WET, this.share.wet)
  }

  private glide(at: number, from: number, to: number): void {
    this.numbers[at] = from
    this.numbers[at + 1] = (to - from) / CHUNK
  }

  private put(at: number, { value, step }: Smooth): void {
    this.numbers[at] = value
    this.numbers[at + 1] = step
  }

  process(block: StereoBlock): void {
    this.machine?.kernel.bandProcess(this.at, block.leftAt, rightOf(block))
  }

  reset(): void {
    this.machine?.kernel.bandReset(this.at)
    this.fresh = true
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
  /** It hears its input between the chunks. */
  override readonly steady = false
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
    const { kernel } = block.machine
    this.peak = Math.max(this.peak, kernel.peak(block.leftAt))
    if (block.stereo) this.peak = Math.max(this.peak, kernel.peak(block.rightAt))
    super.process(block)
  }

  override reset(): void {
    super.reset()
    this.level = this.peak = 0
  }
}
