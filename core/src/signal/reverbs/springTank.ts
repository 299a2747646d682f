import { CHUNK, type StereoBlock } from '../base/block'
import type { Machine, Pointer } from '../kernel/machine'
import { OnePole, onePoleCoefficient } from '../base/onePole'
import type { Tank } from './reverb'
import { Ring } from '../base/ring'

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
 * form of Abel, Berners, Costello & Smith, AES 121st Convention 2006.
 */
export class SpringTank implements Tank {
  private springs: Spring[] = []

  prepare(sampleRate: number, machine: Machine): void {
    this.springs = SPRINGS.map((s) => new Spring(s, sampleRate, machine))
  }

  tune(decay: number, density: number): void {
    for (const spring of this.springs) spring.tune(decay, density)
  }

  process(feed: StereoBlock, { left, right }: StereoBlock): void {
    this.springs[0].process(feed.left, left)
    this.springs[1].process(feed.left, right)
    for (let i = 0; i < CHUNK; i++) {
      const l = left[i]
      left[i] = 0.8 * l + 0.35 * right[i]
      right[i] = 0.8 * right[i] + 0.35 * l
    }
  }

  reset(): void {
    for (const spring of this.springs) spring.reset()
  }
}

class Spring {
  private readonly delay: Ring
  private readonly at: Pointer
  private input = new Float32Array(0)
  private output = new Float32Array(0)
  private readonly low = new OnePole()
  private readonly low2 = new OnePole()
  private readonly high = new OnePole()
  private readonly loop = new Float32Array(CHUNK)
  private readonly stretch: number
  private readonly sections: number
  private readonly loopLow = new OnePole()
  private a = 0.6
  private gain = 0.5

  constructor(
    { delayMs, sections, cornerHz }: (typeof SPRINGS)[number],
    private readonly sampleRate: number,
    private readonly machine: Machine,
  ) {
    this.sections = sections
    const stretch = Math.max(4, Math.round(sampleRate / (2 * cornerHz)))
    const { kernel } = machine
    this.at = machine.make(() => kernel.springCreate(sections, stretch))
    machine.keep((buffer) => {
      this.input = new Float32Array(buffer, kernel.springInputAt(this.at), CHUNK)
      this.output = new Float32Array(buffer, kernel.springOutputAt(this.at), CHUNK)
    })
    this.delay = new Ring(Math.round((delayMs / 1000) * sampleRate))
    this.stretch = stretch
    this.low.tune(cornerHz, sampleRate)
    this.low2.tune(cornerHz, sampleRate)
    this.loopLow.tune(LOOP_HZ, sampleRate)
    this.high.tune(FLOOR_HZ, sampleRate)
  }

  tune(decay: number, density: number): void {
    const a = (this.a = 0.35 + 0.35 * density)
    // the dispersion's group delay at 1 kHz
    const w = (2 * Math.PI * 1000 * this.stretch) / this.sampleRate
    const section = (this.stretch * (1 - a * a)) / (1 + a * a + 2 * a * Math.cos(w))
    const seconds = (this.delay.frames + this.sections * section) / this.sampleRate
    // long decays lose little a trip: what the loop's own filters take at 1 kHz counts
    const kept = passedBy(LOOP_HZ, this.sampleRate) * Math.sqrt(1 - passedBy(FLOOR_HZ, this.sampleRate) ** 2)
    this.gain = Math.min(0.99, Math.pow(10, (-3 * seconds) / (decay * (1 + DISPERSED * decay))) / kept)
  }

  process(feed: Float32Array, out: Float32Array): void {
    const { delay, input, output, low, low2, loopLow, high, gain, loop } = this
    delay.take(out, delay.frames)
    for (let i = 0; i < CHUNK; i++) input[i] = out[i]
    this.machine.kernel.springProcess(this.at, this.a)
    for (let i = 0; i < CHUNK; i++) out[i] = output[i]
    loopLow.low(out)
    high.high(out)
    for (let i = 0; i < CHUNK; i++) loop[i] = feed[i] - gain * out[i]
    delay.put(loop)
    // what is heard ends at the springs' corner; in the loop the cut would shorten the decay trip by trip
    low.low(out)
    low2.low(out)
  }

  reset(): void {
    this.delay.reset()
    this.machine.kernel.springReset(this.at)
    this.low.reset()
    this.loopLow.reset()
    this.low2.reset()
    this.high.reset()
  }
}
