import { instantiate, splittingFactors } from './kernel/kernel'

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
  private readonly kernel: Kernel
  private readonly input: Float32Array
  private readonly output: Float32Array

  /** @throws RangeError unless the response has 1–480,000 finite taps */
  constructor(response: ArrayLike<number>) {
    if (response.length < 1 || response.length > MAX_TAPS)
      throw new RangeError(`An impulse response needs 1 to ${MAX_TAPS} taps, this one has ${response.length}.`)
    const kernel = instantiate('convolution') as Kernel
    kernel.setup(response.length)
    const taps = new Float32Array(kernel.memory.buffer, kernel.responseAt(), response.length)
    for (let i = 0; i < response.length; i++) {
      if (!Number.isFinite(response[i])) throw new RangeError(`Tap ${i} of the impulse response is not a finite number.`)
      taps[i] = response[i]
    }
    new Float32Array(kernel.memory.buffer, kernel.factorsAt(), 256).set(factors)
    kernel.prepare()
    this.kernel = kernel
    this.input = new Float32Array(kernel.memory.buffer, kernel.inputAt(), 128)
    this.output = new Float32Array(kernel.memory.buffer, kernel.outputAt(), 128)
  }

  /** In place, any number of frames. */
  process(data: Float64Array, frames: number): void {
    const { input, output, kernel } = this
    for (let start = 0; start < frames; start += 128) {
      const count = Math.min(128, frames - start)
      copyIn(data, start, input, count)
      kernel.process(count)
      copyOut(output, data, start, count)
    }
  }

  reset(): void {
    this.kernel.reset()
  }
}

// each with one pair of array types, so that the compiler can settle on it
function copyIn(from: Float64Array, start: number, to: Float32Array, count: number): void {
  for (let i = 0; i < count; i++) to[i] = from[start + i]
}

function copyOut(from: Float32Array, to: Float64Array, start: number, count: number): void {
  for (let i = 0; i < count; i++) to[start + i] = from[i]
}
