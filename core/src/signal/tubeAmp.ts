import { CHUNK, foldToMono, type Processor, type StereoBlock } from './block'
import { OnePole } from './onePole'
import { Clipping } from './clipping'
import { Smooth } from './smooth'
import { ToneStack, type ToneStackParts } from './toneStack'
import { audioTaper, dbToGain, FULL_SCALE_VOLTS } from './units'

export interface TubeAmpParams {
  /** 0–10. */
  gain: number
  bass: number
  mid: number
  treble: number
  presence: number
  master: number
  /** %. */
  sag: number
  /** dB. */
  level: number
}

/** What distinguishes one amp design from another. */
export interface TubeAmpDesign {
  toneStack: ToneStackParts
  /** Small-signal gain of each preamp stage, and the volts at which it clips. */
  stageGain: number
  stageVolts: number
  /** Bias of the two stages over their clip level: unequal halves, even harmonics. */
  bias: readonly [number, number]
  /** Coupling high-pass before the second stage and low-pass of its input, Hz. */
  couplingHz: number
  millerHz: number
  /** Gain from the tone stack to the power stage at full master. */
  powerGain: number
  /** Share of its supply that the power stage loses at full output and 100 % sag. */
  sagDepth: number
}

/** Full scale of the power stage's clip level: a driven amp comes out near −18 dBFS RMS. */
const OUTPUT_LEVEL = 0.12

/**
 * Two clipping preamp stages with coupling filters, the passive tone stack, master, and a power stage whose supply drops and
 * recovers with the load; all at four times the rate.
 * Sources: Pakarinen & Yeh, CMJ 2009 (structure); Karjalainen & Pakarinen, ICASSP 2006 (stage model, simplified here to a biased
 * memoryless clip between filters); Yeh & Smith, DAFx-06 (tone stack).
 */
export class TubeAmp implements Processor<TubeAmpParams> {
  readonly latency = Clipping.latency
  private readonly gain = new Smooth()
  private readonly bass = new Smooth()
  private readonly mid = new Smooth()
  private readonly treble = new Smooth()
  private readonly presence = new Smooth()
  private readonly master = new Smooth()
  private readonly level = new Smooth()
  private readonly clipping = new Clipping()
  private readonly coupling = new OnePole()
  private readonly miller = new OnePole()
  private readonly inverter = new OnePole()
  private readonly transformerLow = new OnePole()
  private readonly transformerHigh = new OnePole()
  private readonly presenceShelf = new OnePole()
  private readonly toneStack: ToneStack
  private readonly high = new Float64Array(CHUNK * 4)
  private readonly pots = { treble: 0.5, mid: 0.5, bass: 0.5 }
  private rate = 192_000
  private sag = 0
  private load = 0
  private drop = 0
  private fall = 0
  private recover = 0
  private supply = 1
  private supplyNext = 1

  constructor(private readonly design: TubeAmpDesign) {
    this.toneStack = new ToneStack(design.toneStack)
  }

  prepare(sampleRate: number): void {
    this.rate = sampleRate * 4
    for (const s of [this.gain, this.bass, this.mid, this.treble, this.presence, this.master, this.level]) s.prepare(sampleRate)
    this.coupling.tune(this.design.couplingHz, this.rate)
    this.miller.tune(this.design.millerHz, this.rate)
    this.inverter.tune(8_000, this.rate)
    this.transformerLow.tune(45, this.rate)
    this.transformerHigh.tune(11_000, this.rate)
    this.presenceShelf.tune(3_200, this.rate)
    this.fall = 1 - Math.exp(-CHUNK / (sampleRate * 0.015))
    this.recover = 1 - Math.exp(-CHUNK / (sampleRate * 0.15))
  }

  set(p: TubeAmpParams, immediate: boolean): void {
    this.gain.set(audioTaper(p.gain), immediate)
    this.bass.set(audioTaper(p.bass), immediate)
    this.mid.set(p.mid / 10, immediate)
    this.treble.set(p.treble / 10, immediate)
    this.presence.set(dbToGain(p.presence) - 1, immediate)
    this.master.set(audioTaper(p.master), immediate)
    this.level.set(dbToGain(p.level), immediate)
    this.sag = p.sag / 100
  }

  tick(): void {
    const { bass, mid, treble, pots } = this
    this.gain.tick()
    this.presence.tick()
    this.master.tick()
    this.level.tick()
    bass.tick()
    mid.tick()
    treble.tick()
    if (bass.moving || mid.moving || treble.moving) {
      pots.bass = bass.value
      pots.mid = mid.value
      pots.treble = treble.value
      this.toneStack.tune(pots, this.rate)
    }
    const load = this.load / (CHUNK * 4)
    this.load = 0
    this.drop += (load - this.drop) * (load > this.drop ? this.fall : this.recover)
    this.supply = this.supplyNext
    this.supplyNext = 1 - this.sag * this.design.sagDepth * Math.min(1, this.drop)
  }

  process(block: StereoBlock, frames: number): void {
    foldToMono(block, frames)
    const { design, clipping, gain, master, presence, level, high, supply } = this
    const { stageGain, stageVolts, bias } = design
    clipping.raise(block.left, frames)
    const data = clipping.data
    const count = frames * 4
    const at = block.at * 4

    clipping.clip(0, count, (FULL_SCALE_VOLTS * stageGain) / stageVolts, 0, at, bias[0])
    this.coupling.high(data, count)
    this.miller.low(data, count)
    clipping.clip(1, count, gain.value * stageGain, (gain.step * stageGain) / 4, at, bias[1])
    this.toneStack.process(data, count)
    this.inverter.low(data, count)

    const supplyStep = (this.supplyNext - supply) / (CHUNK * 4)
    const sags = supply !== 1 || supplyStep !== 0
    if (sags) for (let i = 0; i < count; i++) data[i] /= supply + (at + i) * supplyStep
    clipping.clip(2, count, master.value * design.powerGain, (master.step * design.powerGain) / 4, at, 0.02)
    let load = this.load
    for (let i = 0; i < count; i++) {
      const y = data[i]
      load += y < 0 ? -y : y
      data[i] = y * (supply + (at + i) * supplyStep)
    }
    this.load = load

    high.set(data)
    this.presenceShelf.high(high, count)
    const lift = presence.step / 4
    for (let i = 0; i < count; i++) data[i] += high[i] * (presence.value + (at + i) * lift)
    this.transformerLow.high(data, count)
    this.transformerHigh.low(data, count)
    clipping.lower(block.left, frames)
    const { left } = block
    for (let i = 0; i < frames; i++) left[i] *= OUTPUT_LEVEL * (level.value + (block.at + i) * level.step)
  }

  reset(): void {
    for (const part of [this.clipping, this.coupling, this.miller, this.inverter]) part.reset()
    for (const part of [this.transformerLow, this.transformerHigh, this.presenceShelf, this.toneStack]) part.reset()
    this.load = this.drop = 0
    this.supply = this.supplyNext = 1
  }
}
