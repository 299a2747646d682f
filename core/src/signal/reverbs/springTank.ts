import type { StereoBlock } from '../base/block'
import type { Machine, Pointer } from '../kernel/machine'
import { onePoleCoefficient } from '../base/onePole'
import type { Tank } from './reverb'
import { ringSize } from '../base/ring'

/** Two springs of unlike length: delay of one trip in ms, sections of the dispersion, corner in Hz. */
const SPRINGS = [
  { delayMs: 33, sections: 52, cornerHz: 4_300 },
  { delayMs: 41, sections: 46, cornerHz: 4_700 },
] as const

/** Loss at the top with every trip, Hz. */
const LOOP_HZ = 20_000

/** Lows that a spring does not carry. */
const FLOOR_HZ = 60

/** What the dispersed trips of a long decay take beside that, a second of it. */
const DISPERSED = 0.013

/** What a first-order low-pass leaves of 1 kHz. */
function passedBy(hz: number, sampleRate: number): number {
  const a = onePoleCoefficient(hz, sampleRate)
  const w = (2 * Math.PI * 1000) / sampleRate
  return a / Math.hypot(1 - (1 - a) * Math.cos(w), (1 - a) * Math.sin(w))
}

/**
 * Spring tank: a loop of delay and a cascade of stretched allpasses, which delays what lies near the springs' corner longest, so that
 * every echo is a chirp longer than the last. Source: Parker & Bilbao, DAFx-09 (dispersion of a helical spring); the cascade in the
 * form of Abel, Berners, Costello & Smith, AES 121st Convention 2006. The loop runs in core/kernel/effects/spring.ts.
 */
export class SpringTank implements Tank {
  readonly steady = true
  private springs: Spring[] = []

  prepare(sampleRate: number, machine: Machine): void {
    this.springs = SPRINGS.map((s) => new Spring(s, sampleRate, machine))
  }

  tune(decay: number, density: number): void {
    for (const spring of this.springs) spring.tune(decay, density)
  }

  process(feed: StereoBlock, { machine, leftAt, rightAt }: StereoBlock): void {
    this.springs[0].process(feed.leftAt, leftAt)
    this.springs[1].process(feed.leftAt, rightAt)
    machine.kernel.share(leftAt, rightAt, 0.8, 0.35)
  }

  reset(): void {
    for (const spring of this.springs) spring.reset()
  }
}

class Spring {
  private readonly at: Pointer
  private readonly stretch: number
  private readonly sections: number
  /** Of a trip without what the dispersion adds. */
  private readonly frames: number
  private a = 0.6
  private gain = 0.5

  constructor(
    { delayMs, sections, cornerHz }: (typeof SPRINGS)[number],
    private readonly sampleRate: number,
    private readonly machine: Machine,
  ) {
    this.sections = sections
    this.stretch = Math.max(4, Math.round(sampleRate / (2 * cornerHz)))
    this.frames = Math.round((delayMs / 1000) * sampleRate)
    this.at = machine.make((kernel) => kernel.springCreate(sections, this.stretch, this.frames, ringSize(this.frames)))
    const poles = new Float64Array(machine.kernel.memory.buffer, this.at, 3)
    poles.set([cornerHz, LOOP_HZ, FLOOR_HZ].map((hz) => onePoleCoefficient(hz, sampleRate)))
  }

  tune(decay: number, density: number): void {
    const a = (this.a = 0.35 + 0.35 * density)
    // the dispersion's group delay at 1 kHz
    const w = (2 * Math.PI * 1000 * this.stretch) / this.sampleRate
    const section = (this.stretch * (1 - a * a)) / (1 + a * a + 2 * a * Math.cos(w))
    const seconds = (this.frames + this.sections * section) / this.sampleRate
    // long decays lose little a trip: what the loop's own filters take at 1 kHz counts
    const kept = passedBy(LOOP_HZ, this.sampleRate) * Math.sqrt(1 - passedBy(FLOOR_HZ, this.sampleRate) ** 2)
    this.gain = Math.min(0.99, Math.pow(10, (-3 * seconds) / (decay * (1 + DISPERSED * decay))) / kept)
  }

  process(feed: Pointer, out: Pointer): void {
    this.machine.kernel.springTurn(this.at, feed, out, this.a, this.gain)
  }

  reset(): void {
    this.machine.kernel.springReset(this.at)
  }
}
