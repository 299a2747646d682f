import { instantiate } from '@fulgor/core/signal'

/** What core/kernel/playing.ts exports. */
interface Exports {
  readonly memory: WebAssembly.Memory
  framesAt(): number
  sinesAt(): number
  fourSines(count: number): void
  resonatorsAt(): number
  answer(count: number): void
  slowAt(): number
  tapsAt(): number
  double(count: number): void
  calm(): void
  coil(count: number, b0: number, b1: number, b2: number, a1: number, a2: number, level: number): void
  noiseAt(): number
  seed(state: number): void
  seedOf(): number
  noise(count: number): void
}

/** Most frames that the kernel takes at once. */
const PIECE = 16_384
/** Frames that the doubling of the rate looks to either side. */
export const REACH = 24
/** Strings that answer, and resonators of each. */
export const STRINGS = 6
export const ANSWERING = 6

/** A resonator y[n] = a1·y[n−1] − a2·y[n−2] + gain·x[n]. */
export interface Resonator {
  readonly a1: number
  readonly a2: number
  readonly gain: number
}

/** Even deviates from 0 to 1, the same in every thread (mulberry32). */
export class Deviates {
  constructor(private state: number) {
    this.state = state >>> 0
  }

  readonly next = (): number => {
    this.state = (this.state + 0x6d2b79f5) >>> 0
    let t = Math.imul(this.state ^ (this.state >>> 15), this.state | 1)
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }

  /** Lets `work` draw from it: it takes the state and gives back a later one. */
  lend(work: (state: number) => number): void {
    this.state = work(this.state) >>> 0
  }
}

/** This thread's kernel of plucked strings. */
class PlayingKernel {
  /** The numbers of four sines: a1, a2, y[n − 1], y[n − 2], four of each. */
  readonly sines: Float64Array
  private readonly kernel = instantiate('playing') as Exports
  private readonly frames: Float32Array
  private readonly resonators: Float64Array
  private readonly slow: Float32Array
  private readonly taps: Float64Array
  private readonly wave: Float64Array

  constructor() {
    const { kernel } = this
    const { buffer } = kernel.memory
    this.frames = new Float32Array(buffer, kernel.framesAt(), PIECE)
    this.sines = new Float64Array(buffer, kernel.sinesAt(), 16)
    this.resonators = new Float64Array(buffer, kernel.resonatorsAt(), STRINGS * 30)
    this.slow = new Float32Array(buffer, kernel.slowAt() - 4 * REACH, PIECE / 2 + 2 * REACH)
    this.taps = new Float64Array(buffer, kernel.tapsAt(), REACH)
    this.wave = new Float64Array(buffer, kernel.noiseAt(), 9)
  }

  /** Has `work` done on a signal from one frame to another, piece by piece, in place. */
  private each(signal: Float32Array, from: number, to: number, most: number, work: (count: number, at: number) => void): void {
    for (let at = from; at < to; at += most) {
      const count = Math.min(most, to - at)
      this.frames.set(signal.subarray(at, at + count))
      work(count, at)
      signal.set(this.frames.subarray(0, count), at)
    }
  }

  /** Adds {@link sines}, which go on. */
  addSines(out: Float32Array, from: number, to: number): void {
    this.each(out, from, to, PIECE, (count) => this.kernel.fourSines(count))
  }

  /** Adds what resonators make of a signal, {@link ANSWERING} of each string, {@link STRINGS} of them. */
  answer(signal: Float32Array, strings: readonly (readonly Resonator[])[]): void {
    // the first three and the second three side by side
    this.resonators.set(
      strings.flatMap((of) =>
        [0, 1, 2].flatMap((k) => {
          const [p, q] = [of[k], of[k + 3]]
          return [p.a1, q.a1, p.a2, q.a2, p.gain, q.gain, 0, 0, 0, 0]
        }),
      ),
    )
    this.each(signal, 0, signal.length, PIECE, (count) => this.kernel.answer(count))
  }

  /**
   * A signal at twice its rate.
   * @param taps of the half-band filter's odd ones, from the middle on: {@link REACH}
   * @param frames of what is made
   */
  doubled(half: Float32Array, taps: Float64Array, frames: number): Float32Array {
    const { slow, kernel } = this
    this.taps.set(taps)
    const out = new Float32Array(frames)
    for (let at = 0; at < frames; at += PIECE) {
      const count = Math.min(PIECE, frames - at)
      const [first, last] = [at / 2 - REACH, Math.min(half.length, at / 2 + PIECE / 2 + REACH)]
      slow.fill(0)
      slow.set(half.subarray(Math.max(0, first), last), Math.max(0, -first))
      kernel.double(4 * Math.ceil(count / 8))
      out.set(this.frames.subarray(0, count), at)
    }
    return out
  }

  /**
   * A section of second order and a level, in place.
   * @param lead frames of the signal's end that are heard first, so that it settles
   */
  throughCoil(signal: Float32Array, [b0, b1, b2, a1, a2]: readonly number[], level: number, lead: number): void {
    const { kernel, frames } = this
    const run = (count: number) => kernel.coil(count, b0, b1, b2, a1, a2, level)
    kernel.calm()
    const end = signal.subarray(Math.max(0, signal.length - lead))
    frames.set(end)
    run(end.length)
    this.each(signal, 0, signal.length, PIECE, run)
  }

  /**
   * Adds hum and hiss.
   * @param w of the mains, radians a frame
   * @param shares of its own frequency, the octave and the double octave
   */
  addNoise(signal: Float32Array, w: number, hum: number, hiss: number, shares: readonly number[], deviates: Deviates): void {
    const { kernel, wave } = this
    deviates.lend((state) => {
      kernel.seed(state)
      // a phasor that is set right before its rounding counts
      this.each(signal, 0, signal.length, 4_096, (count, at) => {
        wave.set([Math.sin(w * at), Math.cos(w * at), Math.sin(w), Math.cos(w), hum, hiss, ...shares])
        kernel.noise(count)
      })
      return kernel.seedOf()
    })
  }
}

let playing: PlayingKernel | undefined

/** Made when it is first needed. */
export const playingKernel = (): PlayingKernel => (playing ??= new PlayingKernel())
