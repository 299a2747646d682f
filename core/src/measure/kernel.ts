import { instantiate, splittingFactors, splittingOrder } from '@fulgor/core/signal'

interface Exports {
  memory: WebAssembly.Memory
  setup(points: number, frames: number): void
  windowAt(): number
  factorsAt(): number
  powerAt(): number
  signalAt(): number
  filtersAt(): number
  clearPower(): void
  addFrame(start: number): void
  peakBetween(frames: number, known: number, reach: number): number
}

/** Frames that go through a kernel at once; longer signals are fed in pieces. */
export const PIECE = 65_536

/** Room before and after a piece: the longest transform, and the interpolation's reach. */
const MARGIN = 16_384 + 64

/** A measuring kernel for transforms of `size` real samples. */
export class MeasuringKernel {
  readonly signal: Float32Array
  readonly power: Float32Array
  readonly filters: Float32Array
  /** Frequency index of each slot of `power`: (k + ½) · rate / size. */
  readonly order: Uint32Array
  private readonly kernel: Exports

  constructor(readonly size: number) {
    const kernel = instantiate('measuring') as Exports
    kernel.setup(size / 2, PIECE + MARGIN)
    const filters = kernel.filtersAt()
    const { buffer } = kernel.memory
    this.signal = new Float32Array(buffer, kernel.signalAt(), PIECE + MARGIN)
    this.power = new Float32Array(buffer, kernel.powerAt(), size / 2)
    this.filters = new Float32Array(buffer, filters, 72)
    this.order = splittingOrder(size / 2)
    new Float32Array(buffer, kernel.factorsAt(), size).set(splittingFactors(size / 2))
    const window = new Float32Array(buffer, kernel.windowAt(), size)
    for (let n = 0; n < size; n++) window[n] = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size)
    this.kernel = kernel
  }

  /** Copies signal[from …] to the kernel's signal[at …], zeros where there is none. */
  load(data: Float64Array, from: number, at: number, count: number): void {
    const { signal } = this
    const first = Math.max(0, from)
    const last = Math.max(first, Math.min(data.length, from + count))
    signal.fill(0, at, at + first - from)
    for (let k = first, n = at + first - from; k < last; k++, n++) signal[n] = data[k]
    signal.fill(0, at + last - from, at + count)
  }

  clearPower(): void {
    this.kernel.clearPower()
  }

  addFrame(start: number): void {
    this.kernel.addFrame(start)
  }

  peakBetween(frames: number, known: number, reach: number): number {
    return this.kernel.peakBetween(frames, known, reach)
  }
}

const kernels = new Map<number, MeasuringKernel>()

export function kernelFor(size: number): MeasuringKernel {
  let kernel = kernels.get(size)
  if (!kernel) {
    kernel = new MeasuringKernel(size)
    kernels.set(size, kernel)
  }
  return kernel
}
