import { CHUNK, type StereoBlock } from '../base/block'
import { Lfo } from '../base/lfo'
import { onePoleCoefficient } from '../base/onePole'
import type { Tank } from './reverb'
import { allpass, Ring } from '../base/ring'

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
  private input: Ring[] = []
  private halves: Half[] = []
  private scale = 1
  private gain = 0.5
  private damping = 1
  private rate = 48_000
  private readonly loops: readonly Loop[] = HALVES.map(() => ({ gain: 0.5, below: 0, cross: 0.1, swept: 0.5, plain: 0.4 }))
  private density = 0.75
  private readonly lfos = [new Lfo(), new Lfo()]
  private readonly buses = [new Float32Array(CHUNK), new Float32Array(CHUNK)]

  prepare(sampleRate: number): void {
    this.scale = sampleRate / RATE
    this.rate = sampleRate
    this.damping = onePoleCoefficient(DAMPING_HZ, sampleRate)
    const frames = (n: number) => Math.max(CHUNK + 2, Math.round(n * this.scale))
    this.input = INPUT.map((n) => new Ring(frames(n)))
    this.halves = HALVES.map((h) => new Half(frames(h.modulated), frames(h.first), frames(h.allpass), frames(h.second), this.damping))
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

  process({ left: feed }: StereoBlock, { left, right }: StereoBlock): void {
    const { input, halves, gain, density, scale, buses, loops } = this
    input.forEach((ring, k) => allpass(ring, feed, (k < 2 ? 0.75 : 0.625) * (0.4 + 0.6 * density)))
    const excursion = EXCURSION * scale
    // both ends are read before either is written
    for (let h = 0; h < 2; h++) halves[h].second.take(buses[1 - h], halves[h].second.frames)
    for (let h = 0; h < 2; h++) {
      const bus = buses[h]
      for (let i = 0; i < CHUNK; i++) bus[i] = feed[i] + gain * bus[i]
      const { value, step } = this.lfos[h]
      halves[h].turn(bus, excursion * value, excursion * step, loops[h])
    }
    left.fill(0)
    right.fill(0)
    this.tap(LEFT, left)
    this.tap(RIGHT, right)
  }

  private tap(taps: readonly Tap[], out: Float32Array): void {
    for (const [half, line, at, sign] of taps) {
      const { buffer, mask, write } = this.halves[half][line]
      const from = write - CHUNK - Math.round(at * this.scale)
      const gain = 0.35 * sign
      for (let i = 0; i < CHUNK; i++) out[i] += gain * buffer[(from + i) & mask]
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
  private readonly modulated: Ring
  readonly first: Ring
  readonly allpass: Ring
  readonly second: Ring
  private readonly damping: number
  private low = 0
  private bass = 0
  private readonly delayed = new Float32Array(CHUNK)

  constructor(modulated: number, first: number, diffuser: number, second: number, damping: number) {
    this.modulated = new Ring(modulated + 64)
    this.first = new Ring(first)
    this.allpass = new Ring(diffuser)
    this.second = new Ring(second)
    this.damping = damping
  }

  turn(bus: Float32Array, swing: number, slope: number, loop: Loop): void {
    const { modulated, first, second, delayed } = this
    // the modulated allpass, read between frames; negative gain as in the paper
    const { buffer, mask, write, frames: most } = modulated
    const g = -loop.swept
    for (let i = 0; i < CHUNK; i++) {
      const delay = most - 64 + swing + slope * i
      const whole = Math.floor(delay)
      const part = delay - whole
      const n = write + i - whole
      const d = buffer[n & mask] * (1 - part) + buffer[(n - 1) & mask] * part
      const v = bus[i] - g * d
      buffer[(write + i) & mask] = v
      bus[i] = d + g * v
    }
    modulated.write = (write + CHUNK) & mask
    first.take(delayed, first.frames)
    first.put(bus)
    let { low, bass } = this
    const { gain, below, cross } = loop
    for (let i = 0; i < CHUNK; i++) {
      low += this.damping * (delayed[i] - low)
      bass += cross * (low - bass)
      delayed[i] = low * gain + bass * below
    }
    this.low = low
    this.bass = bass
    allpass(this.allpass, delayed, loop.plain)
    second.put(delayed)
  }

  reset(): void {
    for (const ring of [this.modulated, this.first, this.allpass, this.second]) ring.reset()
    this.low = this.bass = 0
  }
}
