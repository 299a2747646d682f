import { CHUNK } from './block'
import { OnePole } from './onePole'
import type { Tank } from './reverb'
import { Ring } from './ring'

/** Two springs of unlike length: delay of one trip in ms, sections of the dispersion, corner in Hz. */
const SPRINGS = [
  { delayMs: 33, sections: 52, cornerHz: 4_300 },
  { delayMs: 41, sections: 46, cornerHz: 4_700 },
] as const

/**
 * Spring tank: a loop of delay and a cascade of stretched allpasses, which delays what lies near the springs' corner longest, so that
 * every echo is a chirp longer than the last. Source: Parker & Bilbao, DAFx-09 (dispersion of a helical spring); the cascade in the
 * form of Abel, Berners, Costello & Smith, AES 121st Convention 2006.
 */
export class SpringTank implements Tank {
  private springs: Spring[] = []

  prepare(sampleRate: number): void {
    this.springs = SPRINGS.map((s) => new Spring(s, sampleRate))
  }

  tune(decay: number, density: number): void {
    for (const spring of this.springs) spring.tune(decay, density)
  }

  process(feed: Float64Array, left: Float64Array, right: Float64Array, _at: number, frames: number): void {
    this.springs[0].process(feed, left, frames)
    this.springs[1].process(feed, right, frames)
    for (let i = 0; i < frames; i++) {
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
  private readonly stretch: number
  private readonly history: Float64Array
  private readonly low = new OnePole()
  private readonly low2 = new OnePole()
  private readonly high = new OnePole()
  private readonly seconds: number
  private a = 0.6
  private gain = 0.5
  private place = 0

  constructor(
    private readonly spring: (typeof SPRINGS)[number],
    sampleRate: number,
  ) {
    this.delay = new Ring(Math.round((spring.delayMs / 1000) * sampleRate))
    this.stretch = Math.max(1, Math.round(sampleRate / (2 * spring.cornerHz)))
    // of each section the last `stretch` inputs and outputs
    this.history = new Float64Array(spring.sections * this.stretch * 2)
    this.low.tune(spring.cornerHz, sampleRate)
    this.low2.tune(spring.cornerHz, sampleRate)
    this.high.tune(90, sampleRate)
    this.seconds = spring.delayMs / 1000 + (spring.sections * this.stretch) / sampleRate / 2
  }

  tune(decay: number, density: number): void {
    this.a = 0.35 + 0.35 * density
    this.gain = Math.min(0.93, Math.pow(10, (-3 * this.seconds) / decay))
  }

  process(feed: Float64Array, out: Float64Array, frames: number): void {
    const { delay, low, low2, high, gain, stretch, history, a, spring } = this
    delay.take(out, delay.frames, frames)
    let place = this.place
    for (let s = 0; s < spring.sections; s++) {
      const from = s * stretch * 2
      place = this.place
      for (let i = 0; i < frames; i++) {
        const x = out[i]
        const y = a * (x - history[from + stretch + place]) + history[from + place]
        history[from + place] = x
        history[from + stretch + place] = y
        out[i] = y
        if (++place === stretch) place = 0
      }
    }
    this.place = place
    low.low(out, frames)
    low2.low(out, frames)
    high.high(out, frames)
    const loop = this.loop
    for (let i = 0; i < frames; i++) loop[i] = feed[i] - gain * out[i]
    delay.put(loop, frames)
  }

  private readonly loop = new Float64Array(CHUNK)

  reset(): void {
    this.delay.reset()
    this.history.fill(0)
    this.low.reset()
    this.low2.reset()
    this.high.reset()
  }
}
