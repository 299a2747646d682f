import { CHUNK, foldToMono, type Processor, type StereoBlock } from '../base/block'
import { Clipping, type Operation, type Quality, type StageShape } from './clipping'
import { createModes, realModes } from '../filters/realModes'
import { Glides, type Smooth } from '../base/smooth'
import {
  bassTaper,
  bilinear,
  digitalMagnitude,
  stackTransfer,
  type AnalogCoefficients,
  type ToneStack,
  type ToneStackPots,
} from '../filters/toneStack'
import { audioTaper, dbToGain, evenTaper } from '../base/units'
import type { Machine } from '../kernel/machine'

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
  /** 5 as the amp is; below it scooped, above it forward. */
  voice?: number
  /** How much of the loudspeaker's resonance the power section lets through. */
  depth?: number
  bright?: 'off' | 'on'
  /** The low one takes half of the guitar. */
  input?: 'high' | 'low'
  channel?: string
  valves: PowerSection
  /** dB below full power. */
  power: number
  /** %. */
  sag: number
}

/** A preamp stage: its gain counts from the stage before at its clip level (the first one: from full scale) to its own. */
export interface GainStage extends Omit<StageShape, 'blocking'> {
  gain: number
  /**
   * Bias that is added while the stage is driven hard: its grid draws current and charges the capacitor before it within
   * {@link BLOCKING_S}, from which it comes back in the longer of the two.
   */
  blocking?: number
}

export interface AmpChannel {
  readonly stages: readonly GainStage[]
  /** dB that the gain knob's travel spans. */
  readonly span: number
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
  /** Centre of the mid-voicing control, Hz. */
  readonly voiceHz?: number
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

/** Rise and fall of a driven stage's bias, s (common practice, no source: coupling capacitor and grid resistor). */
export const BLOCKING_S = [0.006, 0.07] as const
/** Mean output over the clip level from which the grid draws current. */
const GRID_CURRENT = 0.45
/** Over which a driven stage's output is evened out, s. */
const EVEN_S = 0.008

/** dB of the mid-voicing control to either side. */
const VOICE_DB = 6
/** dB that the depth control lifts the loudspeaker's resonance by at 10. */
const DEPTH_DB = 9

interface Section {
  /** dB into the power stage that it takes more than another. */
  readonly headroomDb: number
  /** Lift of the loudspeaker's resonance and of its top, in dB, as far as negative feedback does not even them out. */
  readonly resonanceDb: number
  readonly topDb: number
  /** Share of negative feedback, 0–1: it falls as the stage is driven, and the loudspeaker's impedance comes through. */
  readonly feedback: number
  /** Transformer corners, Hz. */
  readonly lowHz: number
  readonly highHz: number
}

/**
 * The power sections. An open loop follows the impedance of the loudspeaker, which rises at its resonance and towards the top
 * (Beranek, Acoustics, 1954, ch. 7); feedback makes it even. The figures are common practice, no source.
 */
const SECTIONS = {
  large: { headroomDb: 4, resonanceDb: 6, topDb: 5, feedback: 0.7, lowHz: 32, highHz: 13_000 },
  'large-mid': { headroomDb: 2.5, resonanceDb: 4, topDb: 2, feedback: 0.35, lowHz: 45, highHz: 11_000 },
  chime: { headroomDb: -0.5, resonanceDb: 4, topDb: 5, feedback: 0, lowHz: 50, highHz: 13_500 },
  small: { headroomDb: -3, resonanceDb: 2, topDb: 1, feedback: 0.1, lowHz: 60, highHz: 9_000 },
} as const satisfies Record<string, Section>
export type PowerSection = keyof typeof SECTIONS

/** Resonance of a loudspeaker in its box. */
const RESONANCE = { hz: 105, q: 1.8 }

/** Where {@link bilinear} writes a section of second order, a0 being 1. */
const COEFFICIENTS = [
  ['b0', 0],
  ['b1', 1],
  ['b2', 2],
  ['a1', 5],
  ['a2', 6],
] as const

/** A section of second order whose coefficients glide. */
class MovingSection {
  private readonly wanted = new Float64Array(8)
  private readonly now = new Float64Array(8)
  private fresh = true
  /** Nothing moves, and nothing has to be written. */
  private still = true

  constructor(
    private readonly op: Operation<'section'>,
    private readonly rate: number,
  ) {}

  /** On the control grid; `target` null: it stands still. */
  tick(target: AnalogCoefficients | null): void {
    const { op, now, wanted, fresh } = this
    if (target) bilinear(target, this.rate, wanted)
    else if (this.still) return
    this.still = target === null
    for (const [name, at] of COEFFICIENTS) op.glide(name, fresh ? wanted[at] : now[at], wanted[at])
    now.set(wanted)
    this.fresh = false
  }
}

/** A tone circuit whose poles and gains move. */
class MovingModes {
  private readonly wanted = createModes()
  private readonly now = createModes()
  private fresh = true
  private still = true

  constructor(
    private readonly op: Operation<'modes'>,
    private readonly rate: number,
  ) {}

  /** On the control grid; `target` null: it stands still. */
  tick(target: AnalogCoefficients | null): void {
    const { op, now, wanted, fresh } = this
    if (target) realModes(target, this.rate, wanted)
    else if (this.still) return
    this.still = target === null
    const from = fresh ? wanted : now
    op.glide('direct', from.direct, wanted.direct)
    op.glide('gain1', from.gains[0], wanted.gains[0])
    op.glide('gain2', from.gains[1], wanted.gains[1])
    op.glide('gain3', from.gains[2], wanted.gains[2])
    op.put('pole1', wanted.poles[0])
    op.put('pole2', wanted.poles[1])
    op.put('pole3', wanted.poles[2])
    now.direct = wanted.direct
    now.gains.set(wanted.gains)
    this.fresh = false
  }
}

/** A bell of `db` around `hz`, as a transfer function. */
function bell(hz: number, db: number, q: number): AnalogCoefficients {
  const w = 2 * Math.PI * hz
  const a = Math.pow(10, db / 40)
  return { b: [1, a / (q * w), 1 / (w * w), 0], a: [1, 1 / (a * q * w), 1 / (w * w), 0] }
}

/**
 * Clipping preamp stages with coupling filters whose bias shifts when they are driven, the passive tone stack, master, and a power
 * stage whose supply drops and recovers with the load and whose negative feedback gives way as it clips; all oversampled, in
 * WebAssembly (core/kernel/effects/clipping.ts).
 * Sources: Pakarinen & Yeh, CMJ 2009 (structure, blocking, feedback); Karjalainen & Pakarinen, ICASSP 2006 (stage model, simplified here
 * to a biased memoryless clip between filters); Yeh & Smith, DAFx-06 (tone stack).
 */
export class TubeAmp implements Processor<TubeAmpParams> {
  readonly latency: number
  readonly steady = true
  private readonly glides = new Glides()
  private readonly gain = this.glides.add()
  private readonly bass = this.glides.add()
  private readonly mid = this.glides.add()
  private readonly treble = this.glides.add()
  private readonly presence = this.glides.add()
  private readonly cut = this.glides.add()
  private readonly master = this.glides.add()
  private readonly power = this.glides.add()
  private readonly bright = this.glides.add()
  private readonly voice = this.glides.add()
  private readonly depth = this.glides.add()
  private readonly pad = this.glides.add(0.04)
  private readonly pots: ToneStackPots = { treble: 0.5, mid: 0.5, bass: 0.5 }
  private machine: Machine | undefined
  private clipping: Clipping | null = null
  private ops: {
    pad?: Operation<'poles'>
    bright?: Operation<'shelf'>
    gain?: Operation<'stage'>
    supply?: Operation<'supply'>
    power?: Operation<'power'>
    cut?: Operation<'shelf'>
  } = {}
  private tone: MovingModes | null = null
  private voicing: MovingSection | null = null
  private sampleRate = 48_000
  private built = ''
  private channel: AmpChannel
  private gainScale = 1
  private sag = 0
  private output = OUTPUT_LEVEL
  private toneGain = 1

  constructor(
    private readonly design: TubeAmpDesign,
    private readonly quality: Quality,
  ) {
    this.latency = Clipping.latency(quality)
    this.channel = Object.values(design.channels)[0]
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.sampleRate = sampleRate
    this.machine = machine
    this.glides.prepare(sampleRate)
  }

  /** Lays the program out; a choice of channel or valves comes to an instance that is not heard yet. */
  private build(channel: string, valves: PowerSection): void {
    const { design } = this
    // what stands from a channel before goes with its program
    this.clipping?.free()
    const ops: typeof this.ops = (this.ops = {})
    this.tone = this.voicing = null
    const clipping = new Clipping(this.quality, this.sampleRate, this.machine)
    const section = SECTIONS[valves]
    const rate = this.sampleRate * clipping.factor
    const stack = () => new MovingModes(clipping.modes(), rate)
    this.channel = design.channels[channel] ?? Object.values(design.channels)[0]
    ops.pad = clipping.poles(design.inputHz?.[0] ?? null, design.inputHz?.[1] ?? null)
    const { stages, gainBefore, toneBefore } = this.channel
    stages.forEach((stage, i) => {
      if (i === toneBefore) this.tone = stack()
      if (i === gainBefore && design.bright) ops.bright = clipping.shelf(design.bright.hz)
      const { blocking, ...shape } = stage
      const [rise, fall] = BLOCKING_S
      const op = clipping.stage(blocking ? { ...shape, blocking: { most: blocking, from: GRID_CURRENT, even: EVEN_S, rise, fall } } : shape)
      if (i === gainBefore) {
        ops.gain = op
        this.gainScale = stage.gain
      }
    })
    if (toneBefore >= stages.length) this.tone = stack()
    if (design.voiceHz) this.voicing = new MovingSection(clipping.section(), rate)
    if (design.power.presenceDb === 0) ops.cut = clipping.shelf(2_200)
    const [fall, recover] = design.power.sagTimes
    ops.supply = clipping.supply({ ...section, fall, recover })
    ops.power = clipping.power({
      bias: design.power.bias,
      hardness: design.power.feedback,
      presenceHz: design.power.presenceHz,
      lowHz: section.lowHz,
      highHz: section.highHz,
      resonanceHz: RESONANCE.hz,
      resonanceQ: RESONANCE.q,
    })
    this.toneGain = dbToGain(-section.headroomDb) * this.channel.powerGain
    this.output = OUTPUT_LEVEL * dbToGain(this.channel.outputDb + section.headroomDb / 2)
    this.clipping = clipping
  }

  set(p: TubeAmpParams, immediate: boolean): void {
    const wanted = `${p.channel ?? ''} ${p.valves}`
    if (wanted !== this.built) {
      this.build(p.channel ?? '', p.valves)
      this.built = wanted
    }
    const { design } = this
    const { span } = this.channel
    const gain = evenTaper(p.gain, span)
    this.gain.set(gain, immediate)
    this.bass.set(bassTaper(p.bass ?? 5), immediate)
    this.mid.set((p.mid ?? p.tone ?? 5) / 10, immediate)
    this.treble.set((p.treble ?? p.tone ?? 5) / 10, immediate)
    this.presence.set(((p.presence ?? 0) / 10) * design.power.presenceDb, immediate)
    this.cut.set(dbToGain((-(p.cut ?? 0) / 10) * 15) - 1, immediate)
    this.master.set(p.master === undefined ? 1 : audioTaper(p.master), immediate)
    this.voice.set((((p.voice ?? 5) - 5) / 5) * VOICE_DB, immediate)
    this.depth.set(((p.depth ?? 0) / 10) * DEPTH_DB, immediate)
    this.pad.set(p.input === 'low' ? 0.5 : 1, immediate)
    // less power: the stage clips earlier, and comes out as much quieter
    this.power.set(dbToGain(p.power), immediate)
    // the capacitor bridges what the pot has not turned up: at full volume it does nothing
    this.bright.set(p.bright === 'on' && design.bright ? dbToGain(design.bright.db * (1 - gain)) - 1 : 0, immediate)
    this.sag = p.sag / 100
  }

  get still(): boolean {
    return this.glides.still
  }

  tick(): void {
    this.glides.tick()
    if (!this.glides.still) this.turn()
  }

  /** Writes what the knobs move. */
  private turn(): void {
    const { bass, mid, treble, voice, pots, ops, design } = this
    const turned = bass.moving || mid.moving || treble.moving
    if (turned) {
      pots.bass = bass.value + CHUNK * bass.step
      pots.mid = mid.value + CHUNK * mid.step
      pots.treble = treble.value + CHUNK * treble.step
    }
    this.tone?.tick(turned ? stackTransfer(design.toneStack, pots) : null)
    this.voicing?.tick(voice.moving ? bell(design.voiceHz ?? 700, voice.value + CHUNK * voice.step, 0.7) : null)
    ops.pad?.ramp('gain', this.pad)
    ops.gain?.ramp('gain', this.gain, this.gainScale)
    ops.bright?.ramp('share', this.bright)
    ops.cut?.ramp('share', this.cut)
    this.turnPower()
  }

  private turnPower(): void {
    const { master, power, presence, depth, toneGain, output } = this
    const { supply } = this.ops
    const powerEnd = end(power)
    this.ops.power?.glide('gain', master.value * power.value * toneGain, end(master) * powerEnd * toneGain)
    supply?.put('sag', this.sag * this.design.power.sagDepth)
    supply?.put('output', output / power.value)
    supply?.put('outputNext', output / powerEnd)
    supply?.put('presence', end(presence))
    supply?.put('depth', end(depth))
  }

  process(block: StereoBlock): void {
    foldToMono(block)
    this.clipping?.process(block.leftAt)
  }

  ahead(): void {
    this.clipping?.ahead()
  }

  reset(): void {
    this.clipping?.reset()
  }
}

/** Where a gliding value is at the end of the chunk. */
const end = ({ value, step }: Smooth): number => value + CHUNK * step

/** Response in dB of a design's tone stack as the engine runs it; for tests. */
export function toneStackDb(stack: ToneStack, pots: ToneStackPots, hz: number, sampleRate: number): number {
  const out = new Float64Array(8)
  bilinear(stackTransfer(stack, pots), sampleRate, out)
  return 20 * Math.log10(digitalMagnitude(out, hz, sampleRate))
}
