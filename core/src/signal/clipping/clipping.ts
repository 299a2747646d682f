import { CHUNK } from '../base/block'
import { FIRST_HALF_BAND, FOURTH_HALF_BAND, SECOND_HALF_BAND, THIRD_HALF_BAND } from '../filters/halfBand'
import { Machine, type Pointer } from '../kernel/machine'
import { operations } from '../kernel/operations'
import { onePoleCoefficient } from '../base/onePole'
import type { Smooth } from '../base/smooth'

/** How finely clipping stages are oversampled: 4, 8 or 16 times. */
export type Quality = 'live' | 'high' | 'highest'

/** Octaves above the sample rate, and the delay of a trip up and down in frames: the phase slope below 5 kHz. */
const OVERSAMPLING: Record<Quality, { octaves: number; latency: number }> = {
  live: { octaves: 2, latency: 5 },
  high: { octaves: 3, latency: 5 },
  highest: { octaves: 4, latency: 6 },
}

const SLOT = 32
export type OperationKind = keyof typeof operations
/** Names of an operation's numbers; one that glides has its step as a number of its own. */
type Place<K extends OperationKind> = Exclude<keyof (typeof operations)[K] & string, 'kind'>
type Gliding<K extends OperationKind> = { [N in Place<K>]: `${N}Step` extends Place<K> ? N : never }[Place<K>]

const CLIPS: ReadonlySet<OperationKind> = new Set(['stage', 'power', 'rectify'])

/** Put together once: a tick makes no texts. */
const STEPS = Object.fromEntries(
  Object.entries(operations).map(([kind, places]) => [
    kind,
    Object.fromEntries(Object.entries(places).flatMap(([name, at]) => (name.endsWith('Step') ? [[name.slice(0, -4), at]] : []))),
  ]),
) as Readonly<Record<OperationKind, Readonly<Record<string, number>>>>

/** Gives a machine the half-bands of its clips, once. */
export function takeHalfBands(machine: Machine): void {
  machine.once('half-bands', (buffer) => {
    const coefficients = new Float64Array(buffer, machine.kernel.clippingCoefficientsAt(), 32)
    const bands = [FIRST_HALF_BAND, SECOND_HALF_BAND, THIRD_HALF_BAND, FOURTH_HALF_BAND]
    bands.forEach((band, level) => coefficients.set(band, level * 8))
    machine.kernel.clippingFold()
  })
}

/** The numbers of one operation of the program, to be written at the control rate; their places stand in kernel/operations.ts. */
export class Operation<K extends OperationKind = OperationKind> {
  private readonly places: Readonly<Record<string, number>>
  /** Where a gliding number's step stands. */
  private readonly steps: Readonly<Record<string, number>>

  constructor(
    readonly kind: K,
    private values: Float64Array,
    /** Times the sample rate. */
    private readonly factor: number,
  ) {
    this.places = operations[kind]
    this.steps = STEPS[kind]
    values[0] = this.places.kind
  }

  /** The memory has moved. */
  move(values: Float64Array): void {
    this.values = values
  }

  /** A plain number. */
  put(name: Place<K>, value: number): void {
    this.values[this.places[name]] = value
  }

  read(name: Place<K>): number {
    return this.values[this.places[name]]
  }

  /** From one value to another within a chunk. */
  glide(name: Gliding<K>, from: number, to: number): void {
    this.values[this.places[name]] = from
    this.values[this.steps[name]] = (to - from) / (CHUNK * this.factor)
  }

  /** A gliding value. */
  ramp(name: Gliding<K>, { value, step }: Smooth, scale = 1): void {
    this.values[this.places[name]] = value * scale
    this.values[this.steps[name]] = (step * scale) / this.factor
  }
}

/** A clipping stage's curve and what couples it to the next one. */
export interface StageShape {
  /** Small-signal gain to the clip level; a ramp may replace it. */
  gain?: number
  /** Bias over the clip level: unequal halves, even harmonics. */
  bias?: number
  /** 0 the soft clip x/√(1+x²), 1 the hard clip, mixes between. */
  hardness?: number
  /** High-pass and low-pass behind the clip, Hz; none where absent. */
  couplingHz?: number
  millerHz?: number
  /** Gain behind both. */
  out?: number
  /** Bias that is added while the stage is driven hard; none where absent. */
  blocking?: Blocking
}

/** Its grid draws current from a mean output over the clip level on, and charges the capacitor before it; times in s. */
interface Blocking {
  readonly most: number
  readonly from: number
  readonly even: number
  readonly rise: number
  readonly fall: number
}

/**
 * Four, eight or sixteen times the sample rate around a non-linear stage, and in it a program of operations, in WebAssembly. The
 * clips are in first-order antiderivative form, which suppresses their aliases; that of the soft clip,
 * (x₁+x₀)/(√(1+x₁²)+√(1+x₀²)), has no division by zero. The mean of two neighbours that the form takes droops towards the top of the
 * band, and a pole lifts it again (within 0.1 dB to 20 kHz at 48 kHz). Source: Parker, Zavalishin, Le Bivic, DAFx-16.
 */
export class Clipping {
  /** Delay of the trip up and down, frames. */
  static latency(quality: Quality): number {
    return OVERSAMPLING[quality].latency
  }

  /** Times the sample rate. */
  readonly factor: number
  private readonly at: Pointer
  private readonly leave: () => void
  private program = new Float64Array(0)
  private readonly operations: Operation[] = []
  private count = 0

  constructor(
    quality: Quality,
    private readonly sampleRate: number,
    private readonly machine = new Machine(),
  ) {
    const { octaves } = OVERSAMPLING[quality]
    this.factor = 2 ** octaves
    takeHalfBands(machine)
    this.at = machine.make((kernel) => kernel.clippingCreate(octaves))
    this.leave = machine.keep((buffer) => {
      this.program = new Float64Array(buffer, machine.kernel.clippingProgramAt(this.at), SLOT * 24)
      this.operations.forEach((op, k) => op.move(this.slot(k)))
    })
  }

  private slot(k: number): Float64Array {
    return this.program.subarray(k * SLOT, (k + 1) * SLOT)
  }

  /** The chunk at the higher rate, for tests. */
  get data(): Float32Array {
    const { kernel } = this.machine
    return new Float32Array(kernel.memory.buffer, kernel.clippingRaisedAt(this.at), CHUNK * this.factor)
  }

  /** Runs the program alone over the first `frames` of {@link data}, for tests. */
  run(frames: number): void {
    this.machine.kernel.clippingRun(this.at, frames)
  }

  /** Everything that the program remembers and computes with, for tests. */
  get memory(): Float64Array {
    return this.program
  }

  /** One-pole coefficient at the higher rate. */
  pole(hz: number): number {
    return onePoleCoefficient(hz, this.sampleRate * this.factor)
  }

  private add<K extends OperationKind>(kind: K): Operation<K> {
    const op = new Operation(kind, this.slot(this.count++), this.factor)
    this.operations.push(op as unknown as Operation)
    return op
  }

  /** A gain stage; `driven` gathers magnitudes where it is `listened` to, and its bias moves where it blocks. */
  stage(shape: StageShape): Operation<'stage'> {
    const op = this.add('stage')
    op.put('gain', shape.gain ?? 1)
    op.put('bias', shape.bias ?? 0)
    op.put('hardness', shape.hardness ?? 0)
    op.put('coupling', shape.couplingHz ? this.pole(shape.couplingHz) : 0)
    op.put('miller', shape.millerHz ? this.pole(shape.millerHz) : 1)
    op.put('out', shape.out ?? 1)
    op.put('biasAtRest', shape.bias ?? 0)
    if (shape.blocking) {
      op.put('listened', 1)
      op.put('blocking', shape.blocking.most)
      op.put('gridCurrent', shape.blocking.from)
      op.put('even', this.share(shape.blocking.even))
      op.put('rise', this.share(shape.blocking.rise))
      op.put('fall', this.share(shape.blocking.fall))
    }
    return op
  }

  /** Share of a distance that is gone in one chunk at a time constant, s. */
  private share(seconds: number): number {
    return 1 - Math.exp(-CHUNK / (this.sampleRate * seconds))
  }

  /** What feeds the power stage that is laid out next. */
  supply(shape: { fall: number; recover: number; feedback: number; topDb: number; resonanceDb: number }): Operation<'supply'> {
    const op = this.add('supply')
    op.put('fall', this.share(shape.fall))
    op.put('recover', this.share(shape.recover))
    op.put('feedback', shape.feedback)
    op.put('top', shape.topDb)
    op.put('boom', shape.resonanceDb)
    return op
  }

  /** Up to three real poles side by side; nothing passes until it is written. */
  modes(): Operation<'modes'> {
    return this.add('modes')
  }

  /** A second-order section. */
  section(): Operation<'section'> {
    const op = this.add('section')
    op.put('b0', 1)
    return op
  }

  /** A power stage; `drawn` gathers what it takes from its supply. */
  power(shape: {
    bias: number
    hardness: number
    presenceHz: number
    lowHz: number
    highHz: number
    resonanceHz: number
    resonanceQ: number
  }): Operation<'power'> {
    const op = this.add('power')
    op.put('bias', shape.bias)
    op.put('hardness', shape.hardness)
    op.put('supply', 1)
    op.put('presencePole', this.pole(shape.presenceHz))
    op.put('lowPole', this.pole(shape.lowHz))
    op.put('highPole', this.pole(shape.highHz))
    op.put('resonanceTune', 2 * Math.sin((Math.PI * shape.resonanceHz) / (this.sampleRate * this.factor)))
    op.put('resonanceDamping', 1 / shape.resonanceQ)
    return op
  }

  /** High-pass and low-pass with a gain before them. */
  poles(highPassHz: number | null, lowPassHz: number | null, gain = 1): Operation<'poles'> {
    const op = this.add('poles')
    op.put('highPass', highPassHz === null ? 0 : this.pole(highPassHz))
    op.put('lowPass', lowPassHz === null ? 1 : this.pole(lowPassHz))
    op.put('gain', gain)
    return op
  }

  /** What lies above the corner, more by a share. */
  shelf(hz: number): Operation<'shelf'> {
    const op = this.add('shelf')
    op.put('pole', this.pole(hz))
    return op
  }

  /** Keeps the signal for a later {@link blend}. */
  save(): Operation<'save'> {
    return this.add('save')
  }

  /** signal · a + kept · b. */
  blend(a: number, b: number): Operation<'blend'> {
    const op = this.add('blend')
    op.put('signal', a)
    op.put('kept', b)
    return op
  }

  /** Full-wave rectifier, an octave up. */
  rectify(share: number): Operation<'rectify'> {
    const op = this.add('rectify')
    op.put('share', share)
    return op
  }

  /** Blend of a low-pass and a high-pass with a dip between. */
  scoop(lowHz: number, highHz: number): Operation<'scoop'> {
    const op = this.add('scoop')
    op.put('lowPole', this.pole(lowHz))
    op.put('highPole', this.pole(highHz))
    return op
  }

  /** A chunk in place, in the machine's memory, through the program. */
  process(data: Pointer): void {
    this.machine.kernel.clippingProcess(this.at, data)
  }

  /** Ends the program before its first clip; its level is the guitar's then. */
  ahead(): void {
    const first = this.operations.findIndex(({ kind }) => CLIPS.has(kind))
    if (first >= 0) this.slot(first)[0] = 0
  }

  /** Gives its memory back; nothing may be asked of it afterwards. */
  free(): void {
    this.leave()
    this.machine.kernel.clippingFree(this.at)
  }

  reset(): void {
    this.machine.kernel.clippingReset(this.at)
  }
}
