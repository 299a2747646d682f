import { CHUNK, type StereoBlock } from '../base/block'
import { ChunkRing } from '../base/chunkRing'
import type { Machine, Pointer } from '../kernel/machine'
import { onePoleCoefficient } from '../base/onePole'
import type { Tank } from './reverb'

/** The place that a network imitates. */
export interface NetworkShape {
  /** Eight line and four diffuser lengths in ms, mutually inharmonic. */
  readonly linesMs: readonly number[]
  readonly diffusersMs: readonly number[]
  /** Decay time at the top of the band over that below. */
  readonly damping: number
  /** First reflections: time in ms, gain, side −1 to 1. */
  readonly early: readonly (readonly [ms: number, gain: number, side: number])[]
  /** Level of the late part, so that all reverbs are about equally loud at the same mix. */
  readonly late: number
}

/** With more the decay would not be the same over the band in which it is measured. */
const MOST_POLE = 0.5

/** A room as a feedback delay network (core/kernel/effects/network.ts) with its first reflections. Source: Jot & Chaigne, 90th AES 1991. */
export class NetworkTank implements Tank {
  readonly steady = true
  private machine: Machine | null = null
  private at: Pointer = 0
  private lengths = new Int32Array(0)
  private settings = new Float32Array(0)
  private ring: ChunkRing | null = null
  private taps: Int32Array
  private readonly leftGains: Float32Array
  private readonly rightGains: Float32Array
  private rate = 48_000

  constructor(private readonly shape: NetworkShape) {
    this.taps = new Int32Array(shape.early.length)
    this.leftGains = Float32Array.from(shape.early, ([, gain, side]) => gain * Math.min(1, 1 - side))
    this.rightGains = Float32Array.from(shape.early, ([, gain, side]) => gain * Math.min(1, 1 + side))
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.rate = sampleRate
    // the kernel takes four samples of a line at a time
    const frames = (ms: number) => Math.max(4, Math.round((ms / 1000) * sampleRate))
    const size = (ms: readonly number[]) => 1 << Math.ceil(Math.log2(Math.max(...ms.map(frames)) + CHUNK + 1))
    const { linesMs, diffusersMs, early } = this.shape
    this.machine = machine
    this.at = machine.make((kernel) => kernel.networkCreate(size(linesMs), size(diffusersMs)))
    machine.keep((buffer) => {
      const at = machine.kernel.networkSettingsAt(this.at)
      this.lengths = new Int32Array(buffer, at, 12)
      this.settings = new Float32Array(buffer, at + 48, 28)
    })
    this.lengths.set([...linesMs, ...diffusersMs].map(frames))
    this.taps = Int32Array.from(early, ([ms]) => Math.round((ms / 1000) * sampleRate))
    if (early.length > 0) this.ring = new ChunkRing(Math.max(...this.taps), machine)
  }

  /**
   * Jot's one-pole: pole for the shorter decay at the top, gain so that the decay is right at 1 kHz, where a decay is measured; what lies
   * below the crossover gets another gain.
   */
  tune(decay: number, density: number, low: number, crossover: number): void {
    const { settings, lengths, rate } = this
    const { damping } = this.shape
    settings[0] = 0.15 + 0.57 * density
    settings[1] = onePoleCoefficient(crossover, rate)
    const w = (2 * Math.PI * 1000) / rate
    for (let k = 0; k < 8; k++) {
      const db = (-60 * lengths[k]) / (decay * rate)
      const pole = Math.min(MOST_POLE, (Math.LN10 / 80) * -db * (1 / (damping * damping) - 1))
      const gain = Math.pow(10, db / 20) * Math.hypot(1 - pole * Math.cos(w), pole * Math.sin(w))
      settings[4 + k] = gain
      settings[12 + k] = pole
      settings[20 + k] = gain * (Math.pow(10, (db / low - db) / 20) - 1)
    }
  }

  process(feed: StereoBlock, tail: StereoBlock): void {
    const { ring, taps, leftGains, rightGains } = this
    this.machine?.kernel.networkProcess(this.at, feed.leftAt, tail.leftAt, tail.rightAt, this.shape.late)
    if (!ring) return
    ring.put(feed.leftAt)
    for (let t = 0; t < taps.length; t++) {
      ring.tap(tail.leftAt, CHUNK + taps[t], leftGains[t])
      ring.tap(tail.rightAt, CHUNK + taps[t], rightGains[t])
    }
  }

  reset(): void {
    this.machine?.kernel.networkReset(this.at)
    this.ring?.reset()
  }
}

export const HALL: NetworkShape = {
  linesMs: [31.7, 38.9, 44.3, 52.1, 59.3, 67.7, 74.9, 83.3],
  diffusersMs: [4.7, 7.3, 11.9, 16.3],
  damping: 0.35,
  early: [],
  late: 0.5,
}

export const ROOM: NetworkShape = {
  linesMs: [11.3, 13.9, 16.7, 19.1, 22.3, 25.9, 29.3, 33.7],
  diffusersMs: [1.9, 3.1, 4.3, 6.1],
  damping: 0.45,
  early: [
    [5.3, 0.5, -0.6],
    [8.1, 0.42, 0.7],
    [12.7, 0.36, 0.2],
    [17.9, 0.3, -0.8],
    [23.3, 0.25, 0.5],
    [31.1, 0.2, -0.2],
  ],
  late: 0.4,
}

export const AMBIENCE: NetworkShape = {
  linesMs: [5.9, 7.1, 8.3, 9.7, 11.3, 12.7, 14.9, 16.3],
  diffusersMs: [0.9, 1.7, 2.3, 3.1],
  damping: 0.6,
  early: [
    [1.9, 0.5, 0.4],
    [3.7, 0.46, -0.7],
    [6.1, 0.42, 0.8],
    [8.9, 0.36, -0.3],
    [12.1, 0.3, 0.2],
    [16.7, 0.26, -0.8],
    [21.7, 0.2, 0.6],
  ],
  late: 0.22,
}
