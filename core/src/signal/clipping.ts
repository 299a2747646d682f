import { CHUNK } from './block'
import { FIRST_HALF_BAND, FOURTH_HALF_BAND, SECOND_HALF_BAND, THIRD_HALF_BAND } from './halfBand'
import { instantiate } from './kernel/kernel'
import { onePoleCoefficient } from './onePole'
import type { Smooth } from './smooth'

/** How finely clipping stages are oversampled: 4, 8 or 16 times. */
export type Quality = 'live' | 'high' | 'highest'

/** Octaves above the sample rate, and the delay of a trip up and down in frames: the phase slope below 5 kHz. */
const OVERSAMPLING: Record<Quality, { octaves: number; latency: number }> = {
  live: { octaves: 2, latency: 5 },
  high: { octaves: 3, latency: 5 },
  highest: { octaves: 4, latency: 6 },
}

interface Kernel {
  memory: WebAssembly.Memory
  setup(octaves: number): void
  reset(): void
  baseAt(): number
  dataAt(): number
  coefficientsAt(): number
  programAt(): number
  raise(frames: number): void
  lower(frames: number): void
  run(frames: number, place: number): void
  settle(): void
}

const SLOT = 32
const KINDS = { stage: 1, section: 2, power: 3, poles: 4, shelf: 5, save: 6, blend: 7, rectify: 8, scoop: 9 } as const

/** The numbers of one operation of the program, to be written at the control rate. */
export class Operation {
  constructor(
    readonly values: Float64Array,
    private readonly factor: number,
  ) {}

  /** A plain number at `index`. */
  put(index: number, value: number): void {
    this.values[index] = value
  }

  /** Takes what has gathered at `index`. */
  take(index: number): number {
    const value = this.values[index]
    this.values[index] = 0
    return value
  }

  /** A stage's bias from one value to another within a chunk; what it does to a signal at rest is taken off at `rest`. */
  bias(from: number, to: number, rest: number): void {
    this.values[3] = from
    this.values[8] = (to - from) / (CHUNK * this.factor)
    this.values[9] = rest
  }

  /** A gliding value at `index`, its step a sample behind it. */
  ramp(index: number, smooth: Smooth, scale = 1): void {
    this.values[index] = smooth.value * scale
    this.values[index + 1] = (smooth.step * scale) / this.factor
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
  private readonly base: Float64Array
  private readonly program: Float64Array
  private readonly kernel: Kernel
  private count = 0

  constructor(
    quality: Quality,
    private readonly sampleRate: number,
  ) {
    const { octaves } = OVERSAMPLING[quality]
    const kernel = instantiate('clipping') as Kernel
    kernel.setup(octaves)
    const { buffer } = kernel.memory
    this.factor = 2 ** octaves
    this.base = new Float64Array(buffer, kernel.baseAt(), CHUNK)
    this.program = new Float64Array(buffer, kernel.programAt(), SLOT * 24)
    const coefficients = new Float64Array(buffer, kernel.coefficientsAt(), 32)
    const bands = [FIRST_HALF_BAND, SECOND_HALF_BAND, THIRD_HALF_BAND, FOURTH_HALF_BAND]
    bands.forEach((band, level) => coefficients.set(band, level * 8))
    this.kernel = kernel
  }

  /** The chunk at the higher rate, for tests. */
  get data(): Float64Array {
    return new Float64Array(this.kernel.memory.buffer, this.kernel.dataAt(), CHUNK * this.factor)
  }

  /** Everything that the program remembers and computes with, for tests. */
  get memory(): Float64Array {
    return this.program
  }

  /** One-pole coefficient at the higher rate. */
  pole(hz: number): number {
    return onePoleCoefficient(hz, this.sampleRate * this.factor)
  }

  private add(kind: keyof typeof KINDS): Operation {
    const op = new Operation(this.program.subarray(this.count * SLOT, this.count * SLOT + SLOT), this.factor)
    op.put(0, KINDS[kind])
    this.count++
    return op
  }

  /** A gain stage: slot 1 takes its gain as a ramp, 3 its bias with its step in 8 and the one at rest in 9; 20 gathers magnitudes. */
  stage(shape: StageShape): Operation {
    const op = this.add('stage')
    op.put(1, shape.gain ?? 1)
    op.put(3, shape.bias ?? 0)
    op.put(4, shape.hardness ?? 0)
    op.put(5, shape.couplingHz ? this.pole(shape.couplingHz) : 0)
    op.put(6, shape.millerHz ? this.pole(shape.millerHz) : 1)
    op.put(7, shape.out ?? 1)
    op.put(9, shape.bias ?? 0)
    return op
  }

  /** A third-order section (slots 1–4 b, 5–7 a, 9–15 their steps) with a pole behind it. */
  section(poleHz?: number): Operation {
    const op = this.add('section')
    op.put(1, 1)
    op.put(8, poleHz ? this.pole(poleHz) : 1)
    return op
  }

  /** A power stage: slot 1 gain ramp, 5 supply and step, 8 presence ramp, 13 ramp of the resonance; 22 gathers its magnitudes. */
  power(shape: {
    bias: number
    hardness: number
    presenceHz: number
    lowHz: number
    highHz: number
    resonanceHz: number
    resonanceQ: number
  }): Operation {
    const op = this.add('power')
    op.put(3, shape.bias)
    op.put(4, shape.hardness)
    op.put(5, 1)
    op.put(7, this.pole(shape.presenceHz))
    op.put(10, this.pole(shape.lowHz))
    op.put(11, this.pole(shape.highHz))
    op.put(12, 2 * Math.sin((Math.PI * shape.resonanceHz) / (this.sampleRate * this.factor)))
    op.put(15, 1 / shape.resonanceQ)
    return op
  }

  /** High-pass and low-pass with a gain before them: slot 1 and 2 coefficients, 3 gain ramp. */
  poles(highPassHz: number | null, lowPassHz: number | null, gain = 1): Operation {
    const op = this.add('poles')
    op.put(1, highPassHz === null ? 0 : this.pole(highPassHz))
    op.put(2, lowPassHz === null ? 1 : this.pole(lowPassHz))
    op.put(3, gain)
    return op
  }

  /** What lies above the corner, more by a share: slot 1 coefficient, 2 share ramp. */
  shelf(hz: number): Operation {
    const op = this.add('shelf')
    op.put(1, this.pole(hz))
    return op
  }

  /** Keeps the signal for a later {@link blend}. */
  save(): Operation {
    return this.add('save')
  }

  /** signal · a + kept · b: slots 1 and 3, ramps. */
  blend(a: number, b: number): Operation {
    const op = this.add('blend')
    op.put(1, a)
    op.put(3, b)
    return op
  }

  /** Full-wave rectifier, an octave up. */
  rectify(share: number): Operation {
    const op = this.add('rectify')
    op.put(1, share)
    return op
  }

  /** Blend of a low-pass and a high-pass with a dip between: slot 3 ramp. */
  scoop(lowHz: number, highHz: number): Operation {
    const op = this.add('scoop')
    op.put(1, this.pole(lowHz))
    op.put(2, this.pole(highHz))
    return op
  }

  /** `frames` samples in place through the program, `place` frames into the chunk. */
  process(data: Float64Array, frames: number, place: number): void {
    const { base, kernel } = this
    for (let i = 0; i < frames; i++) base[i] = data[i]
    kernel.raise(frames)
    kernel.run(frames, place)
    kernel.lower(frames)
    for (let i = 0; i < frames; i++) data[i] = base[i]
    if (place + frames === CHUNK) kernel.settle()
  }

  reset(): void {
    this.kernel.reset()
  }
}
