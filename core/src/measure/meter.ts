import { instantiate } from '@fulgor/core/signal'
import { LEAD, type Exports } from './kernel'
import { kWeighting } from './loudness'

/** Most frames that are looked at at once. */
const ROOM = 256
/** A measuring kernel wants room for a transform too; none is made here. */
const POINTS = 64

/** Momentary loudness as it goes: 400 ms windows in steps of 100 ms (EBU Tech 3341), for a meter. Allocates nothing while it runs. */
export class LoudnessMeter {
  /** Largest magnitude of each side since it was last set to 0. */
  readonly peaks = { left: 0, right: 0 }
  private readonly kernel = instantiate('measuring') as Exports
  private readonly left: Side
  private readonly right: Side
  private readonly steps = new Float64Array(4)
  private readonly stepFrames: number
  private sum = 0
  private count = 0
  private slot = 0

  constructor(sampleRate: number) {
    const { kernel } = this
    kernel.setup(POINTS, ROOM + LEAD)
    new Float64Array(kernel.memory.buffer, kernel.weightsAt(), 7).set(kWeighting(sampleRate))
    kernel.clearWeighing()
    this.left = new Side(kernel, kernel.signalAt() + 4 * LEAD)
    this.right = new Side(kernel, kernel.besideAt())
    this.stepFrames = Math.round(sampleRate / 10)
  }

  process(left: Float32Array, right: Float32Array, frames: number): void {
    const { peaks } = this
    for (let start = 0; start < frames; start += ROOM) {
      const count = Math.min(ROOM, frames - start)
      peaks.left = Math.max(peaks.left, this.left.take(left, start, count))
      peaks.right = Math.max(peaks.right, this.right.take(right, start, count))
      this.weigh(count)
    }
  }

  /** Largest magnitude of some frames, which nothing else here takes notice of. */
  peakOf(data: Float32Array, frames: number): number {
    let most = 0
    for (let start = 0; start < frames; start += ROOM) most = Math.max(most, this.left.take(data, start, Math.min(ROOM, frames - start)))
    return most
  }

  private weigh(frames: number): void {
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.stepFrames - this.count)
      this.sum += this.kernel.weighOn(from, to - from)
      this.count += to - from
      from = to
      if (this.count < this.stepFrames) continue
      this.steps[this.slot] = this.sum / this.stepFrames
      this.slot = (this.slot + 1) & 3
      this.sum = this.count = 0
    }
  }

  /** LUFS of the last 400 ms; −Infinity for silence. */
  get momentary(): number {
    return -0.691 + 10 * Math.log10((this.steps[0] + this.steps[1] + this.steps[2] + this.steps[3]) / 4)
  }
}

/** One channel in a kernel's memory. */
class Side {
  private readonly room: Float32Array

  constructor(
    private readonly kernel: Exports,
    private readonly at: number,
  ) {
    this.room = new Float32Array(kernel.memory.buffer, at, ROOM)
  }

  /** Brings frames there. @returns their largest magnitude */
  take(data: Float32Array, start: number, count: number): number {
    this.room.set(start === 0 && count === data.length ? data : data.subarray(start, start + count))
    const whole = (count + 3) & ~3
    if (count < whole) this.room.fill(0, count, whole)
    return this.kernel.peakAt(this.at, whole)
  }
}
