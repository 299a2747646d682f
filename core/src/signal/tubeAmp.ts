import { CHUNK, foldToMono, type Processor, type StereoBlock } from './block'
import { onePoleCoefficient } from './onePole'
import { Clipping } from './clipping'
import { Smooth } from './smooth'
import { bilinear3, toneStackTransfer, type ToneStackParts } from './toneStack'
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
const POWER_BIAS = 0.02

/**
 * Two clipping preamp stages with coupling filters, the passive tone stack, master, and a power stage whose supply drops and
 * recovers with the load; all at four times the rate, in WebAssembly (core/kernel/clipping.ts).
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
  private readonly toneStack = new Float64Array(8)
  private readonly pots = { treble: 0.5, mid: 0.5, bass: 0.5 }
  private rate = 192_000
  private sag = 0
  private load = 0
  private drop = 0
  private fall = 0
  private recover = 0
  private supplyNext = 1

  constructor(private readonly design: TubeAmpDesign) {}

  prepare(sampleRate: number): void {
    this.rate = sampleRate * 4
    for (const s of [this.gain, this.bass, this.mid, this.treble, this.presence, this.master, this.level]) s.prepare(sampleRate)
    this.fall = 1 - Math.exp(-CHUNK / (sampleRate * 0.015))
    this.recover = 1 - Math.exp(-CHUNK / (sampleRate * 0.15))
    const { stageGain, stageVolts, bias, couplingHz, millerHz } = this.design
    const pole = (hz: number) => onePoleCoefficient(hz, this.rate)
    const { amp } = this.clipping
    amp.set([(FULL_SCALE_VOLTS * stageGain) / stageVolts, bias[0], pole(couplingHz), pole(millerHz)], 0)
    amp[6] = bias[1]
    amp[14] = pole(8_000)
    amp[17] = POWER_BIAS
    amp[20] = pole(3_200)
    amp.set([pole(45), pole(11_000)], 23)
  }

  set(p: TubeAmpParams, immediate: boolean): void {
    this.gain.set(audioTaper(p.gain) * this.design.stageGain, immediate)
    this.bass.set(audioTaper(p.bass), immediate)
    this.mid.set(p.mid / 10, immediate)
    this.treble.set(p.treble / 10, immediate)
    this.presence.set(dbToGain(p.presence) - 1, immediate)
    this.master.set(audioTaper(p.master) * this.design.powerGain, immediate)
    this.level.set(OUTPUT_LEVEL * dbToGain(p.level), immediate)
    this.sag = p.sag / 100
  }

  tick(): void {
    const { gain, bass, mid, treble, presence, master, pots, toneStack } = this
    const { amp } = this.clipping
    gain.tick()
    presence.tick()
    master.tick()
    this.level.tick()
    bass.tick()
    mid.tick()
    treble.tick()
    if (bass.moving || mid.moving || treble.moving) {
      pots.bass = bass.value
      pots.mid = mid.value
      pots.treble = treble.value
      bilinear3(toneStackTransfer(this.design.toneStack, pots), this.rate, toneStack)
      for (let i = 0; i < 4; i++) amp[7 + i] = toneStack[i]
      for (let i = 0; i < 3; i++) amp[11 + i] = toneStack[5 + i]
    }
    amp[4] = gain.value
    amp[5] = gain.step / 4
    amp[21] = presence.value
    amp[22] = presence.step / 4
    this.tickSupply()
    // the clip level of the power stage is its supply: the drive into it rises as the supply drops
    const start = master.value / amp[18]
    amp[15] = start
    amp[16] = ((master.value + CHUNK * master.step) / this.supplyNext - start) / (CHUNK * 4)
  }

  private tickSupply(): void {
    const { amp } = this.clipping
    const load = this.load / (CHUNK * 4)
    this.load = 0
    this.drop += (load - this.drop) * (load > this.drop ? this.fall : this.recover)
    amp[18] = this.supplyNext
    this.supplyNext = 1 - this.sag * this.design.sagDepth * Math.min(1, this.drop)
    amp[19] = (this.supplyNext - amp[18]) / (CHUNK * 4)
  }

  process(block: StereoBlock, frames: number): void {
    foldToMono(block, frames)
    const { clipping, level } = this
    const { left, at } = block
    clipping.raise(left, frames)
    this.load += clipping.ampChain(frames * 4, at * 4)
    clipping.lower(left, frames)
    for (let i = 0; i < frames; i++) left[i] *= level.value + (at + i) * level.step
  }

  reset(): void {
    this.clipping.reset()
    this.load = this.drop = 0
    this.supplyNext = 1
  }
}
