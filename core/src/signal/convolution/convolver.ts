import { CHUNK, createBlock, type StereoBlock } from '../base/block'
import { splittingFactors } from '../kernel/kernel'
import { Machine, type Pointer } from '../kernel/machine'

/** Most taps that a convolver takes: 10 s at 48 kHz. */
export const MAX_TAPS = 480_000

/** Sizes of the partitions, see core/kernel/effects/convolution.ts. */
const factors = [CHUNK, 256, 1024].map(splittingFactors)

/**
 * Convolution of one channel with one impulse response, no latency, 32-bit (SIMD) inside. Cost grows with taps / 256 a sample, of long ones with
 * taps / 1,024.
 */
export class Convolver {
  readonly taps: number
  private readonly at: Pointer
  /** A chunk on its way through, for sound that lies elsewhere. */
  private chunk: StereoBlock | null = null
  private ended = false

  /** @throws RangeError unless the response has 1–480,000 finite taps */
  constructor(
    response: ArrayLike<number>,
    private readonly machine = new Machine(),
  ) {
    this.taps = response.length
    if (response.length < 1 || response.length > MAX_TAPS)
      throw new RangeError(`An impulse response needs 1 to ${MAX_TAPS} taps, this one has ${response.length}.`)
    machine.once('splitting', (buffer) => {
      for (const table of factors) new Float32Array(buffer, machine.kernel.convolutionFactorsAt(table.length / 2), table.length).set(table)
    })
    this.at = machine.make((kernel) => kernel.convolutionCreate(response.length))
    this.load(response)
  }

  /**
   * Takes another response of the same length and forgets all sound: far cheaper than a new convolver.
   * @throws RangeError unless it has as many taps, all finite
   */
  load(response: ArrayLike<number>): void {
    if (response.length !== this.taps) throw new RangeError(`This convolver takes ${this.taps} taps, not ${response.length}.`)
    const { kernel } = this.machine
    const taps = new Float32Array(kernel.memory.buffer, kernel.convolutionTapsAt(this.at), this.taps)
    for (let i = 0; i < this.taps; i++) {
      if (!Number.isFinite(response[i])) throw new RangeError(`Tap ${i} of the impulse response is not a finite number.`)
      taps[i] = response[i]
    }
    kernel.convolutionPrepare(this.at)
    this.ended = false
  }

  /** A chunk in place, in the machine's memory. */
  processChunk(data: Pointer): void {
    this.machine.kernel.convolutionProcess(this.at, data)
  }

  /**
   * In place.
   * @param frames of whole chunks of {@link CHUNK}; only the last piece of all may end within one
   * @throws RangeError for a piece behind one that ended within a chunk
   */
  process(data: Float32Array, frames: number): void {
    if (this.ended) throw new RangeError('The last piece ended within a chunk: nothing can follow it.')
    const block = (this.chunk ??= createBlock(this.machine))
    for (let start = 0; start < frames; start += CHUNK) {
      const count = Math.min(CHUNK, frames - start)
      for (let i = 0; i < count; i++) block.left[i] = data[start + i]
      for (let i = count; i < CHUNK; i++) block.left[i] = 0
      this.processChunk(block.leftAt)
      for (let i = 0; i < count; i++) data[start + i] = block.left[i]
      this.ended = count < CHUNK
    }
  }

  reset(): void {
    this.machine.kernel.convolutionReset(this.at)
    this.ended = false
  }

  /** Gives its memory back; nothing may be asked of it afterwards. */
  free(): void {
    this.machine.kernel.convolutionFree(this.at)
  }
}
