import { CHUNK } from './block'
import { FIRST_HALF_BAND, SECOND_HALF_BAND } from './halfBand'
import { instantiate } from './kernel/kernel'

interface Kernel {
  memory: WebAssembly.Memory
  setup(): void
  reset(): void
  baseAt(): number
  dataAt(): number
  coefficientsAt(): number
  raise(frames: number): void
  lower(frames: number): void
  ampAt(): number
  ampChain(count: number, place: number): number
  driveChain(count: number, place: number, gain: number, step: number, volts: number, diode: number, bass: number, top: number): void
  clip(slot: number, count: number, gain: number, step: number, at: number, bias: number): void
}

/**
 * Four times the sample rate around a non-linear stage, and up to four soft clips in it, in WebAssembly. The soft clip is
 * f(x) = x/√(1+x²) about a bias in first-order antiderivative form, (x₁+x₀)/(√(1+x₁²)+√(1+x₀²)), which suppresses the aliases of
 * the clip without a division by zero; the mean of two neighbours that this form takes droops towards the top of the band, and a
 * pole lifts it again (within 0.1 dB to 20 kHz at 48 kHz). Source: Parker, Zavalishin, Le Bivic, DAFx-16.
 */
export class Clipping {
  /** Delay of a trip up and down in the middle of the band, frames: the phase slope below 5 kHz. */
  static readonly latency = 5
  /** The chunk at four times the rate: 4 × frames samples. */
  readonly data: Float64Array
  /** Parameters of {@link ampChain}, in the order that core/kernel/clipping.ts gives. */
  readonly amp: Float64Array
  private readonly base: Float64Array
  private readonly kernel: Kernel

  constructor() {
    const kernel = instantiate('clipping') as Kernel
    kernel.setup()
    const { buffer } = kernel.memory
    this.base = new Float64Array(buffer, kernel.baseAt(), CHUNK)
    this.data = new Float64Array(buffer, kernel.dataAt(), CHUNK * 4)
    this.amp = new Float64Array(buffer, kernel.ampAt(), 25)
    new Float64Array(buffer, kernel.coefficientsAt(), 12).set([...FIRST_HALF_BAND, ...SECOND_HALF_BAND])
    this.kernel = kernel
  }

  raise(input: Float64Array, frames: number): void {
    const { base } = this
    for (let i = 0; i < frames; i++) base[i] = input[i]
    this.kernel.raise(frames)
  }

  lower(output: Float64Array, frames: number): void {
    this.kernel.lower(frames)
    const { base } = this
    for (let i = 0; i < frames; i++) output[i] = base[i]
  }

  /**
   * data ← f(gain·data + bias) − f(bias) over `count` samples (even). `gain` moves by `step` a sample from sample −at on. Each of
   * the four slots has a state of its own.
   */
  clip(slot: 0 | 1 | 2 | 3, count: number, gain: number, step: number, at: number, bias: number): void {
    this.kernel.clip(slot, count, gain, step, at, bias)
  }

  /** The amp's loop over `count` samples; see {@link amp} and tubeAmp.ts. Returns the sum of the power stage's magnitudes. */
  ampChain(count: number, at: number): number {
    return this.kernel.ampChain(count, at)
  }

  /** The mid-hump drive's loop over `count` samples; see midHumpDrive.ts. `bass` and `top` are one-pole coefficients. */
  driveChain(count: number, at: number, gain: number, step: number, volts: number, diode: number, bass: number, top: number): void {
    this.kernel.driveChain(count, at, gain, step, volts, diode, bass, top)
  }

  reset(): void {
    this.kernel.reset()
  }
}
