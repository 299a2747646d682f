import { CHUNK } from '../base/block'
import { instantiate, splittingFactors } from '../kernel/kernel'

/** Most taps that a convolver takes: 10 s at 48 kHz. */
export const MAX_TAPS = 480_000

interface Kernel {
  memory: WebAssembly.Memory
  setup(frames: number): void
  responseAt(): number
  factorsAt(): number
  inputAt(): number
  outputAt(): number
  prepare(): void
  reset(): void
  process(frames: number): void
}

const factors = splittingFactors(128)

/**
 * Convolution of one channel with one impulse response, no latency, 32-bit (SIMD) inside; the result does not depend on how the
 * signal is cut into blocks. Cost grows with taps / 128 a sample.
 */
export class Convolver {
  readonly taps: number
  private readonly kernel: Kernel
  private readonly input: Float64Array
  private readonly output: Float64Array
  /** The output's first CHUNK frames, so that a whole chunk is one copy. */
  private readonly chunkOutput: Float64Array

  /** @throws RangeError unless the response has 1–480,000 finite taps */
  constructor(response: ArrayLike<number>) {
    this.taps = response.length
    if (response.length < 1 || response.length > MAX_TAPS)
      throw new RangeError(`An impulse response needs 1 to ${MAX_TAPS} taps, this one has ${response.length}.`)
    const kernel = instantiate('convolution') as Kernel
    kernel.setup(response.length)
    new Float32Array(kernel.memory.buffer, kernel.factorsAt(), 256).set(factors)
    this.kernel = kernel
    this.input = new Float64Array(kernel.memory.buffer, kernel.inputAt(), 128)
    this.output = new Float64Array(kernel.memory.buffer, kernel.outputAt(), 128)
    this.chunkOutput = this.output.subarray(0, CHUNK)
    this.load(response)
  }

  /**
   * Takes another response of the same length and forgets all sound: far cheaper than a new convolver.
   * @throws RangeError unless it has as many taps, all finite
   */
  load(response: ArrayLike<number>): void {
    if (response.length !== this.taps) throw new RangeError(`This convolver takes ${this.taps} taps, not ${response.length}.`)
    const taps = new Float32Array(this.kernel.memory.buffer, this.kernel.responseAt(), this.taps)
    for (let i = 0; i < this.taps; i++) {
      if (!Number.isFinite(response[i])) throw new RangeError(`Tap ${i} of the impulse response is not a finite number.`)
      taps[i] = response[i]
    }
    this.kernel.prepare()
  }

  /** In place, any number of frames. */
  process(data: Float64Array, frames: number): void {
    const { input, output, kernel } = this
    if (frames === CHUNK && data.length === CHUNK) {
      input.set(data)
      kernel.process(CHUNK)
      data.set(this.chunkOutput)
      return
    }
    for (let start = 0; start < frames; start += 128) {
      const count = Math.min(128, frames - start)
      for (let i = 0; i < count; i++) input[i] = data[start + i]
      kernel.process(count)
      for (let i = 0; i < count; i++) data[start + i] = output[i]
    }
  }

  reset(): void {
    this.kernel.reset()
  }
}
