import { instantiate, splittingFactors, splittingOrder } from '@fulgor/core/signal'

/** What core/kernel/measuring.ts does. */
export interface Exports {
  memory: WebAssembly.Memory
  setup(points: number, frames: number): void
  windowAt(): number
  factorsAt(): number
  powerAt(): number
  signalAt(): number
  filtersAt(): number
  clearPower(): void
  addFrame(start: number): void
  peakBetween(frames: number, known: number, bend: number): number
  scan(frames: number): number
  squaresOf(): number
  weightsAt(): number
  sumsAt(): number
  besideAt(): number
  clearWeighing(): void
  weigh(steps: number, step: number, two: number): void
  weighOn(from: number, frames: number): number
  peakAt(at: number, frames: number): number
  clearHalving(): void
  halve(frames: number, first0: number, first1: number, second0: number, second1: number): void
}

/** Frames that go through a kernel at once; longer signals are fed in pieces. */
export const PIECE = 65_536

/** Zeros or earlier samples that stand before a piece, for the interpolation between samples. */
export const LEAD = 12
/** Steps of a loudness that the kernel takes at once. */
const MOST_STEPS = 1_024
/** Room behind a piece: the longest transform, and the interpolation's reach. */
const MARGIN = 16_384 + 64

/** A measuring kernel for transforms of `size` real samples, f32 inside. */
export class MeasuringKernel {
  private readonly signal: Float32Array
  private readonly power: Float32Array
  /** Frequency index of each slot of the power sums: (k + ½) · rate / size. */
  private readonly order: Uint32Array
  private readonly kernel: Exports

  constructor(
    readonly size: number,
    interpolators: readonly Float64Array[],
  ) {
    const kernel = instantiate('measuring') as Exports
    kernel.setup(size / 2, PIECE + MARGIN)
    const filters = kernel.filtersAt()
    const { buffer } = kernel.memory
    this.signal = new Float32Array(buffer, kernel.signalAt(), PIECE + MARGIN)
    this.power = new Float32Array(buffer, kernel.powerAt(), size / 2)
    this.order = splittingOrder(size / 2)
    new Float32Array(buffer, kernel.factorsAt(), size).set(splittingFactors(size / 2))
    const window = new Float32Array(buffer, kernel.windowAt(), size)
    for (let n = 0; n < size; n++) window[n] = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / size)
    interpolators.forEach((filter, p) => new Float32Array(buffer, filters + p * filter.length * 4, filter.length).set(filter))
    this.kernel = kernel
  }

  /** Takes data[from …] with what stands before it, zeros beyond its ends; `count` samples can then be worked on. */
  load(data: Float32Array, from: number, count: number): void {
    const { signal } = this
    const start = from - LEAD
    const end = start + Math.min(signal.length, count + LEAD + 48)
    const first = Math.max(0, start)
    const last = Math.max(first, Math.min(data.length, end))
    signal.fill(0, 0, first - start)
    signal.set(data.subarray(first, last), first - start)
    signal.fill(0, last - start, end - start)
  }

  /** Largest magnitude and sum of squares of the loaded samples. */
  scan(frames: number): { peak: number; squares: number } {
    const peak = this.kernel.scan(frames)
    return { peak, squares: this.kernel.squaresOf() }
  }

  /** Largest magnitude between samples, at least `known`; see truePeak.ts. */
  peakBetween(frames: number, known: number, bend: number): number {
    return this.kernel.peakBetween(frames, known, bend)
  }

  /** Half the rate through two paths of allpasses, whose coefficients come by turns; see halved.ts. */
  halved(data: readonly Float32Array[], coefficients: ArrayLike<number>): Float32Array[] {
    const { kernel } = this
    const other = new Float32Array(kernel.memory.buffer, kernel.besideAt(), PIECE)
    const out = data.map(({ length }) => new Float32Array(length >> 1))
    const halves = out[0].length
    kernel.clearHalving()
    for (let start = 0; start < halves; start += PIECE / 2) {
      const frames = Math.min(PIECE / 2, halves - start)
      const places = [this.signal.subarray(LEAD), other]
      out.forEach((_, k) => places[k].set(data[k].subarray(2 * start, 2 * (start + frames))))
      kernel.halve(frames, coefficients[0], coefficients[1], coefficients[2], coefficients[3])
      out.forEach((half, k) => half.set(places[k].subarray(0, frames), start))
    }
    return out
  }

  /** K-weighted squares of both channels in steps of `step` frames, summed, to `sums`; see loudness.ts. */
  weigh(signal: readonly Float32Array[], coefficients: Float64Array, step: number, sums: Float64Array): void {
    const { kernel } = this
    const two = signal.length > 1
    const { buffer } = kernel.memory
    new Float64Array(buffer, kernel.weightsAt(), 7).set(coefficients)
    const found = new Float64Array(buffer, kernel.sumsAt(), MOST_STEPS)
    const other = new Float32Array(buffer, kernel.besideAt(), PIECE)
    kernel.clearWeighing()
    const most = Math.min(MOST_STEPS, Math.floor((PIECE - LEAD) / step))
    for (let first = 0; first < sums.length; first += most) {
      const steps = Math.min(most, sums.length - first)
      const [from, to] = [first * step, (first + steps) * step]
      this.signal.set(signal[0].subarray(from, to), LEAD)
      if (two) other.set(signal[1].subarray(from, to))
      kernel.weigh(steps, step, Number(two))
      sums.set(found.subarray(0, steps), first)
    }
  }

  clearPower(): void {
    this.kernel.clearPower()
  }

  /** Adds the power of the windowed frame that starts at the loaded sample `start`. */
  addFrame(start: number): void {
    this.kernel.addFrame(start)
  }

  /** Adds the summed powers, by frequency, to `out`. */
  readPower(out: Float64Array): void {
    const { order, power } = this
    for (let b = 0; b < power.length; b++) out[order[b]] += power[b]
  }
}
