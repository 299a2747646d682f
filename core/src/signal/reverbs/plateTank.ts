import { CHUNK, type StereoBlock } from '../base/block'
import { Lfo } from '../base/lfo'
import { onePoleCoefficient } from '../base/onePole'
import type { Tank } from './reverb'
import { ringSize } from '../base/ring'
import type { Machine, Pointer } from '../kernel/machine'

/** Frames of the paper's network at its rate. */
const RATE = 29_761
const INPUT = [142, 107, 379, 277]
const HALVES = [
  { modulated: 672, first: 4453, allpass: 1800, second: 3720 },
  { modulated: 908, first: 4217, allpass: 2656, second: 3163 },
] as const
const EXCURSION = 8
/** Damping in the tank. */
const DAMPING_HZ = 7_000
/** The allpasses hold the sound a little longer than their lengths: what makes the decay true in the middle. */
const TRUE = 0.97
/** An allpass of the tank rings at most for this share of the decay. */
const HELD = 0.55
/** Frames of one turn through both halves, and multiplications by the decay in it. */
const TURN = 672 + 4453 + 1800 + 3720 + 908 + 4217 + 2656 + 3163
/** Taps of the outputs: half, line, frames, sign. */
const LEFT: readonly Tap[] = [
  [1, 'first', 266, 1],
  [1, 'first', 2974, 1],
  [1, 'allpass', 1913, -1],
  [1, 'second', 1996, 1],
  [0, 'first', 1990, -1],
  [0, 'allpass', 187, -1],
  [0, 'second', 1066, -1],
]
const RIGHT: readonly Tap[] = [
  [0, 'first', 353, 1],
  [0, 'first', 3627, 1],
  [0, 'allpass', 1228, -1],
  [0, 'second', 2673, 1],
  [1, 'first', 2111, -1],
  [1, 'allpass', 335, -1],
  [1, 'second', 121, -1],
]
/** The lines of a half, in the order of the kernel. */
const LINES = ['modulated', 'first', 'allpass', 'second'] as const
type Line = (typeof LINES)[number]
type Tap = readonly [half: 0 | 1, line: Line, frames: number, sign: 1 | -1]

/** A plate: input diffusion and a figure-of-eight tank with modulated allpasses. Source: Dattorro, JAES 1997, part 1, figure 1. */
export class PlateTank implements Tank {
  readonly steady = true
  private machine: Machine | null = null
  private at: Pointer = 0
  /** What the kernel is told, in the order of its structs (core/kernel/effects/plate.ts). */
  private numbers = new Float64Array(0)
  private halves: readonly Float64Array[] = []
  private damping = 1
  private rate = 48_000
  private readonly lfos = [new Lfo(), new Lfo()]

  prepare(sampleRate: number, machine: Machine): void {
    this.machine = machine
    this.rate = sampleRate
    this.damping = onePoleCoefficient(DAMPING_HZ, sampleRate)
    const scale = sampleRate / RATE
    const frames = (n: number) => Math.max(CHUNK + 2, Math.round(n * scale))
    const at = (this.at = machine.make((kernel) => kernel.plateCreate()))
    const line = (k: number, length: number, most = length) =>
      machine.make((kernel) => {
        kernel.plateLine(at, k, ringSize(most), length)
        return at
      })
    INPUT.forEach((n, k) => line(k, frames(n)))
    HALVES.forEach(({ modulated, first, allpass, second }, h) => {
      const own = INPUT.length + LINES.length * h
      // room for the way that it swings
      line(own, frames(modulated), frames(modulated) + 64)
      ;[first, allpass, second].forEach((n, k) => line(own + 1 + k, frames(n)))
    })
    const taps = [...LEFT, ...RIGHT]
    taps.forEach(([half, of, back, sign], k) =>
      machine.kernel.plateTap(at, k, INPUT.length + LINES.length * half + LINES.indexOf(of), CHUNK + Math.round(back * scale), 0.35 * sign),
    )
    machine.keep((buffer) => {
      this.numbers = new Float64Array(buffer, at, 6)
      this.halves = [0, 1].map((h) => new Float64Array(buffer, machine.kernel.plateHalfAt(at, h), 4))
    })
    this.numbers[DAMPING] = this.damping
    this.lfos.forEach((lfo, h) => {
      lfo.prepare(sampleRate, h / 4)
      lfo.set(1, 'sine')
    })
  }

  /** The allpasses ring by themselves: in a short decay they get less to hold. */
  tune(decay: number, density: number, low: number, crossover: number): void {
    const { numbers, halves, damping, rate } = this
    // four passes a turn through the damping, whose loss at 1 kHz is made up for
    const pass = (seconds: number) => Math.pow(10, (-3 * TURN) / RATE / 4 / (TRUE * seconds))
    const w = (2 * Math.PI * 1000) / rate
    const keep = 1 - damping
    const lost = damping / Math.hypot(1 - keep * Math.cos(w), keep * Math.sin(w))
    const gain = Math.min(0.985, pass(decay) / lost)
    numbers[EARLY] = 0.75 * (0.4 + 0.6 * density)
    numbers[LATE] = 0.625 * (0.4 + 0.6 * density)
    numbers[GAIN] = gain
    numbers[BELOW] = Math.min(0.985, pass(decay * low) / lost) - gain
    numbers[CROSS] = onePoleCoefficient(crossover, rate)
    const most = (frames: number) => Math.pow(10, (-3 * frames) / RATE / (HELD * decay))
    HALVES.forEach((half, h) => {
      halves[h][SWEPT] = Math.min(0.7 * density, most(half.modulated))
      halves[h][PLAIN] = Math.min(0.5 * density, most(half.allpass))
    })
  }

  tick(): void {
    const excursion = (EXCURSION * this.rate) / RATE
    for (let h = 0; h < 2; h++) {
      const lfo = this.lfos[h]
      lfo.tick()
      this.halves[h][SWING] = excursion * lfo.value
      this.halves[h][SLOPE] = excursion * lfo.step
    }
  }

  process(feed: StereoBlock, tail: StereoBlock): void {
    this.machine?.kernel.plateProcess(this.at, feed.leftAt, tail.leftAt, tail.rightAt)
  }

  reset(): void {
    this.machine?.kernel.plateReset(this.at)
    for (const lfo of this.lfos) lfo.reset()
  }
}

/** Places of the numbers, of both halves and of each. */
const [EARLY, LATE, GAIN, BELOW, DAMPING, CROSS] = [0, 1, 2, 3, 4, 5]
const [SWING, SLOPE, SWEPT, PLAIN] = [0, 1, 2, 3]
