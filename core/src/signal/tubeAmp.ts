import { CHUNK, foldToMono, type Processor, type StereoBlock } from './block'
import { Clipping, type Operation, type Quality, type StageShape } from './clipping'
import { Smooth } from './smooth'
import { bilinear, digitalMagnitude, stackTransfer, type ToneStack, type ToneStackPots } from './toneStack'
import { audioTaper, dbToGain } from './units'

/** Knobs that a design lacks stay undefined. All 0–10 but for those noted. */
export interface TubeAmpParams {
  gain: number
  bass?: number
  mid?: number
  treble?: number
  tone?: number
  presence?: number
  cut?: number
  master?: number
  bright?: 'off' | 'on'
  channel?: string
  /** Power section: more headroom and scooped, or earlier compression and mid-forward. */
  valves: 'large' | 'small'
  /** dB below full power. */
  power: number
  /** %. */
  sag: number
}

/** A preamp stage: its gain counts from the stage before at its clip level (the first one: from full scale) to its own. */
export interface GainStage extends StageShape {
  gain: number
}

export interface AmpChannel {
  readonly stages: readonly GainStage[]
  /** Index of the stage that the gain knob feeds. */
  readonly gainBefore: number
  /** Index of the stage that the tone stack feeds; the number of stages when it stands behind them all. */
  readonly toneBefore: number
  /** Gain into the power stage at full master. */
  readonly powerGain: number
  /** Correction of the output so that channels and amps are about equally loud, dB. */
  readonly outputDb: number
}

/** What distinguishes one amp design from another. */
export interface TubeAmpDesign {
  /** High-pass and low-pass at the input, Hz; none where the first stage passes all that a guitar has. */
  readonly inputHz?: readonly [low: number, high: number]
  /** Capacitor over the volume pot: corner in Hz and lift in dB at low settings. */
  readonly bright?: { readonly hz: number; readonly db: number }
  readonly channels: Readonly<Record<string, AmpChannel>>
  readonly toneStack: ToneStack
  readonly power: {
    /** Share of the hard knee: what negative feedback makes of a soft clip. */
    readonly feedback: number
    readonly bias: number
    /** dB that the presence knob lifts at 10, and its corner. */
    readonly presenceDb: number
    readonly presenceHz: number
    /** Share of the supply that is lost at full output and 100 % sag, and the times of drop and recovery in s. */
    readonly sagDepth: number
    readonly sagTimes: readonly [fall: number, recover: number]
  }
}

/** Full scale of the power stage's clip level: a driven amp comes out near −18 dBFS RMS. */
const OUTPUT_LEVEL = 0.12

/** Headroom in dB, low resonance and top lift in dB, transformer corners in Hz of the two power sections. */
const SECTIONS = {
  large: { headroomDb: 4, resonanceDb: 3, topDb: 1.5, lowHz: 32, highHz: 13_000 },
  small: { headroomDb: -2, resonanceDb: 0, topDb: -1.5, lowHz: 60, highHz: 9_000 },
} as const

/**
 * Clipping preamp stages with coupling filters, the passive tone stack, master, and a power stage whose supply drops and recovers
 * with the load; all oversampled, in WebAssembly (core/kernel/clipping.ts).
 * Sources: Pakarinen & Yeh, CMJ 2009 (structure); Karjalainen & Pakarinen, ICASSP 2006 (stage model, simplified here to a biased
 * memoryless clip between filters); Yeh & Smith, DAFx-06 (tone stack).
 */
export class TubeAmp implements Processor<TubeAmpParams> {
  readonly latency: number
  private readonly gain = new Smooth()
  private readonly bass = new Smooth()
  private readonly mid = new Smooth()
  private readonly treble = new Smooth()
  private readonly presence = new Smooth()
  private readonly cut = new Smooth()
  private readonly master = new Smooth()
  private readonly power = new Smooth()
  private readonly bright = new Smooth()
  private readonly pots: ToneStackPots = { treble: 0.5, mid: 0.5, bass: 0.5 }
  private readonly toneStack = new Float64Array(8)
  private clipping: Clipping | null = null
  private readonly ops: { bright?: Operation; gain?: Operation; tone?: Operation; power?: Operation; cut?: Operation } = {}
  private sampleRate = 48_000
  private built = ''
  private channel: AmpChannel
  private gainScale = 1
  private sag = 0
  private drop = 0
  private fall = 0
  private recover = 0
  private toneFresh = true
  private supply = 1
  private supplyNext = 1
  private output = OUTPUT_LEVEL
  private toneGain = 1

  constructor(
    private readonly design: TubeAmpDesign,
    private readonly quality: Quality,
  ) {
    this.latency = Clipping.latency(quality)
    this.channel = Object.values(design.channels)[0]
  }

  prepare(sampleRate: number): void {
    this.sampleRate = sampleRate
    for (const s of this.smooths()) s.prepare(sampleRate)
    const [fall, recover] = this.design.power.sagTimes
    this.fall = 1 - Math.exp(-CHUNK / (sampleRate * fall))
    this.recover = 1 - Math.exp(-CHUNK / (sampleRate * recover))
  }

  private smooths(): readonly Smooth[] {
    return [this.gain, this.bass, this.mid, this.treble, this.presence, this.cut, this.master, this.power, this.bright]
  }

  /** Lays the program out; a choice of channel or valves comes as a second instance, so this happens once. */
  private build(channel: string, valves: 'large' | 'small'): void {
    const { design, ops } = this
    const clipping = new Clipping(this.quality, this.sampleRate)
    const section = SECTIONS[valves]
    this.channel = design.channels[channel] ?? Object.values(design.channels)[0]
    if (design.inputHz) clipping.poles(design.inputHz[0], design.inputHz[1])
    const { stages, gainBefore, toneBefore } = this.channel
    stages.forEach((stage, i) => {
      if (i === toneBefore) ops.tone = clipping.section()
      if (i === gainBefore && design.bright) ops.bright = clipping.shelf(design.bright.hz)
      const op = clipping.stage(stage)
      if (i === gainBefore) {
        ops.gain = op
        this.gainScale = stage.gain
      }
    })
    if (toneBefore >= stages.length) ops.tone = clipping.section()
    if (design.power.presenceDb === 0) ops.cut = clipping.shelf(2_200)
    ops.power = clipping.power({
      bias: design.power.bias,
      hardness: design.power.feedback,
      presenceHz: design.power.presenceHz,
      lowHz: section.lowHz,
      highHz: section.highHz,
      resonanceHz: 110,
    })
    ops.power.put(13, dbToGain(section.resonanceDb) - 1)
    this.toneGain = dbToGain(-section.headroomDb) * this.channel.powerGain
    this.output = OUTPUT_LEVEL * dbToGain(this.channel.outputDb + section.headroomDb / 2)
    this.clipping = clipping
    this.toneFresh = true
  }

  set(p: TubeAmpParams, immediate: boolean): void {
    const wanted = `${p.channel ?? ''} ${p.valves}`
    if (wanted !== this.built) {
      this.build(p.channel ?? '', p.valves)
      this.built = wanted
    }
    const { design } = this
    const top = SECTIONS[p.valves].topDb
    this.gain.set(audioTaper(p.gain), immediate)
    this.bass.set(audioTaper(p.bass ?? 5), immediate)
    this.mid.set((p.mid ?? p.tone ?? 5) / 10, immediate)
    this.treble.set((p.treble ?? p.tone ?? 5) / 10, immediate)
    this.presence.set(dbToGain(((p.presence ?? 0) / 10) * design.power.presenceDb + top) - 1, immediate)
    this.cut.set(dbToGain((-(p.cut ?? 0) / 10) * 15) - 1, immediate)
    this.master.set(p.master === undefined ? 1 : audioTaper(p.master), immediate)
    // less power: the stage clips earlier, and comes out as much quieter
    this.power.set(dbToGain(p.power), immediate)
    // the capacitor bridges what the pot has not turned up: at full volume it does nothing
    const bright = p.bright === 'on' && design.bright ? dbToGain(design.bright.db * (1 - audioTaper(p.gain))) - 1 : 0
    this.bright.set(bright, immediate)
    this.sag = p.sag / 100
  }

  tick(): void {
    const { gain, bass, mid, treble, presence, master, power, ops, clipping } = this
    gain.tick()
    presence.tick()
    master.tick()
    power.tick()
    bass.tick()
    mid.tick()
    treble.tick()
    this.bright.tick()
    this.cut.tick()
    if (!clipping || !ops.power) return
    if (ops.tone) this.tickTone(ops.tone, clipping.factor, bass.moving || mid.moving || treble.moving)
    ops.gain?.ramp(1, gain, this.gainScale)
    ops.bright?.ramp(2, this.bright)
    ops.cut?.ramp(2, this.cut)
    ops.power.ramp(8, presence)
    this.tickSupply(ops.power, clipping.factor)
  }

  /** Moving pots: the circuit is computed where they stand at the chunk's end, and reached in straight lines. */
  private tickTone({ values }: Operation, factor: number, moving: boolean): void {
    const { bass, mid, treble, pots, toneStack } = this
    for (let i = 0; i < 7; i++) {
      values[1 + i] += this.toneFresh ? 0 : values[9 + i] * CHUNK * factor
      values[9 + i] = 0
    }
    if (!moving) return
    pots.bass = bass.value + CHUNK * bass.step
    pots.mid = mid.value + CHUNK * mid.step
    pots.treble = treble.value + CHUNK * treble.step
    bilinear(stackTransfer(this.design.toneStack, pots), this.sampleRate * factor, toneStack)
    for (let i = 0; i < 7; i++) {
      const to = toneStack[i < 4 ? i : i + 1]
      if (this.toneFresh) values[1 + i] = to
      else values[9 + i] = (to - values[1 + i]) / (CHUNK * factor)
    }
    this.toneFresh = false
  }

  /** The clip level of the power stage is its supply: the drive into it rises as the supply drops. */
  private tickSupply(op: Operation, factor: number): void {
    const { master, power } = this
    const load = op.take(22) / (CHUNK * factor)
    this.drop += (load - this.drop) * (load > this.drop ? this.fall : this.recover)
    this.supply = this.supplyNext
    this.supplyNext = 1 - this.sag * this.design.power.sagDepth * Math.min(1, this.drop)
    const masterEnd = master.value + CHUNK * master.step
    const powerEnd = power.value + CHUNK * power.step
    const drive = (master.value * power.value * this.toneGain) / this.supply
    op.put(1, drive)
    op.put(2, ((masterEnd * powerEnd * this.toneGain) / this.supplyNext - drive) / (CHUNK * factor))
    const out = (this.output * this.supply) / power.value
    op.put(5, out)
    op.put(6, ((this.output * this.supplyNext) / powerEnd - out) / (CHUNK * factor))
  }

  process(block: StereoBlock, frames: number): void {
    foldToMono(block, frames)
    this.clipping?.process(block.left, frames, block.at)
  }

  reset(): void {
    this.clipping?.reset()
    this.drop = 0
    this.supply = this.supplyNext = 1
  }
}

/** Response in dB of a design's tone stack as the engine runs it; for tests. */
export function toneStackDb(stack: ToneStack, pots: ToneStackPots, hz: number, sampleRate: number): number {
  const out = new Float64Array(8)
  bilinear(stackTransfer(stack, pots), sampleRate, out)
  return 20 * Math.log10(digitalMagnitude(out, hz, sampleRate))
}
