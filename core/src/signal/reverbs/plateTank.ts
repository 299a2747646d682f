import { CHUNK, createBlock, type StereoBlock } from '../base/block'
import { Lfo } from '../base/lfo'
import { onePoleCoefficient } from '../base/onePole'
import type { Tank } from './reverb'
import { ChunkRing } from '../base/chunkRing'
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
type Line = 'first' | 'allpass' | 'second'
type Tap = readonly [half: 0 | 1, line: Line, frames: number, sign: 1 | -1]

/** A plate: input diffusion and a figure-of-eight tank with modulated allpasses. Source: Dattorro, JAES 1997, part 1, figure 1. */
export class PlateTank implements Tank {
  private input: ChunkRing[] = []
  private halves: Half[] = []
  private scale = 1
  private gain = 0.5
  private damping = 1
  private rate = 48_000
  private readonly loops: readonly Loop[] = HALVES.map(() => ({ gain: 0.5, below: 0, cross: 0.1, swept: 0.5, plain: 0.4 }))
  private density = 0.75
  private readonly lfos = [new Lfo(), new Lfo()]
  private machine: Machine | null = null
  /** What goes into either half. */
  private buses: Pointer[] = []

  prepare(sampleRate: number, machine: Machine): void {
    this.machine = machine
    const { leftAt, rightAt } = createBlock(machine)
    this.buses = [leftAt, rightAt]
    this.scale = sampleRate / RATE
    this.rate = sampleRate
    this.damping = onePoleCoefficient(DAMPING_HZ, sampleRate)
    const frames = (n: number) => Math.max(CHUNK + 2, Math.round(n * this.scale))
    this.input = INPUT.map((n) => new ChunkRing(frames(n), machine))
    this.halves = HALVES.map(
      (h) => new Half(frames(h.modulated), frames(h.first), frames(h.allpass), frames(h.second), this.damping, machine),
    )
    this.lfos.forEach((lfo, h) => {
      lfo.prepare(sampleRate, h / 4)
      lfo.set(1, 'sine')
    })
  }

  /** The allpasses ring by themselves: in a short decay they get less to hold. */
  tune(decay: number, density: number, low: number, crossover: number): void {
    // four passes a turn through the damping, whose loss at 1 kHz is made up for
    const pass = (seconds: number) => Math.pow(10, (-3 * TURN) / RATE / 4 / (TRUE * seconds))
    const w = (2 * Math.PI * 1000) / this.rate
    const keep = 1 - this.damping
    const lost = this.damping / Math.hypot(1 - keep * Math.cos(w), keep * Math.sin(w))
    this.gain = Math.min(0.985, pass(decay) / lost)
    const below = Math.min(0.985, pass(decay * low) / lost) - this.gain
    const cross = onePoleCoefficient(crossover, this.rate)
    this.density = density
    const most = (frames: number) => Math.pow(10, (-3 * frames) / RATE / (HELD * decay))
    HALVES.forEach((half, h) => {
      const loop = this.loops[h]
      loop.gain = this.gain
      loop.below = below
      loop.cross = cross
      loop.swept = Math.min(0.7 * density, most(half.modulated))
      loop.plain = Math.min(0.5 * density, most(half.allpass))
    })
  }

  tick(): void {
    for (const lfo of this.lfos) lfo.tick()
  }

  process(feed: StereoBlock, tail: StereoBlock): void {
    const { input, halves, gain, density, scale, buses, loops } = this
    const kernel = this.machine?.kernel
    if (!kernel) return
    for (let k = 0; k < input.length; k++) input[k].allpass(feed.leftAt, (k < 2 ? 0.75 : 0.625) * (0.4 + 0.6 * density))
    const excursion = EXCURSION * scale
    // both ends are read before either is written
    for (let h = 0; h < 2; h++) halves[h].second.take(buses[1 - h], halves[h].second.frames)
    for (let h = 0; h < 2; h++) {
      kernel.mix(buses[h], feed.leftAt, gain, 0, 1, 0)
      const { value, step } = this.lfos[h]
      halves[h].turn(buses[h], excursion * value, excursion * step, loops[h])
    }
    tail.left.fill(0)
    tail.right.fill(0)
    this.tap(LEFT, tail.leftAt)
    this.tap(RIGHT, tail.rightAt)
  }

  private tap(taps: readonly Tap[], out: Pointer): void {
    for (let t = 0; t < taps.length; t++) {
      const [half, line, at, sign] = taps[t]
      this.halves[half][line].tap(out, CHUNK + Math.round(at * this.scale), 0.35 * sign)
    }
  }

  reset(): void {
    for (const ring of this.input) ring.reset()
    for (const half of this.halves) half.reset()
    for (const lfo of this.lfos) lfo.reset()
  }
}

/** Gains of one turn: above and what comes below the crossover, its coefficient, and those of both allpasses. */
interface Loop {
  gain: number
  below: number
  cross: number
  swept: number
  plain: number
}

/** One side of the figure of eight. */
class Half {
  private readonly modulated: ChunkRing
  readonly first: ChunkRing
  readonly allpass: ChunkRing
  readonly second: ChunkRing
  /** Both states of the damping. */
  private readonly statesAt: Pointer
  private states = new Float64Array(2)
  private readonly delayed: Pointer

  constructor(
    modulated: number,
    first: number,
    diffuser: number,
    second: number,
    private readonly damping: number,
    private readonly machine: Machine,
  ) {
    this.modulated = new ChunkRing(modulated + 64, machine)
    this.first = new ChunkRing(first, machine)
    this.allpass = new ChunkRing(diffuser, machine)
    this.second = new ChunkRing(second, machine)
    this.delayed = createBlock(machine).leftAt
    this.statesAt = machine.make((kernel) => kernel.alloc(16))
    machine.keep((buffer) => (this.states = new Float64Array(buffer, this.statesAt, 2)))
  }

  turn(bus: Pointer, swing: number, slope: number, loop: Loop): void {
    const { modulated, first, second, delayed } = this
    const { kernel } = this.machine
    // the modulated allpass, read between frames; negative gain as in the paper
    modulated.sweep(bus, modulated.frames - 64 + swing, slope, -loop.swept)
    first.take(delayed, first.frames)
    first.put(bus)
    kernel.plateDamp(this.statesAt, delayed, this.damping, loop.cross, loop.gain, loop.below)
    this.allpass.allpass(delayed, loop.plain)
    second.put(delayed)
  }

  reset(): void {
    for (const ring of [this.modulated, this.first, this.allpass, this.second]) ring.reset()
    this.states.fill(0)
  }
}
