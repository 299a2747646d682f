import { CHUNK } from './block'
import { instantiate } from './kernel/kernel'
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

interface Kernel {
  memory: WebAssembly.Memory
  setup(sections: number, stretch: number): void
  inputAt(): number
  outputAt(): number
  process(frames: number, a: number): void
  reset(): void
}

class Spring {
  private readonly delay: Ring
  private readonly kernel: Kernel
  private readonly input: Float32Array
  private readonly output: Float32Array
  private readonly low = new OnePole()
  private readonly low2 = new OnePole()
  private readonly high = new OnePole()
  private readonly loop = new Float64Array(CHUNK)
  private readonly seconds: number
  private a = 0.6
  private gain = 0.5

  constructor({ delayMs, sections, cornerHz }: (typeof SPRINGS)[number], sampleRate: number) {
    const stretch = Math.max(4, Math.round(sampleRate / (2 * cornerHz)))
    const kernel = instantiate('spring') as Kernel
    kernel.setup(sections, stretch)
    this.kernel = kernel
    this.input = new Float32Array(kernel.memory.buffer, kernel.inputAt(), CHUNK)
    this.output = new Float32Array(kernel.memory.buffer, kernel.outputAt(), CHUNK)
    this.delay = new Ring(Math.round((delayMs / 1000) * sampleRate))
    this.low.tune(cornerHz, sampleRate)
    this.low2.tune(cornerHz, sampleRate)
    this.high.tune(90, sampleRate)
    this.seconds = delayMs / 1000 + (sections * stretch) / sampleRate / 2
  }

  tune(decay: number, density: number): void {
    this.a = 0.35 + 0.35 * density
    this.gain = Math.min(0.93, Math.pow(10, (-3 * this.seconds) / decay))
  }

  process(feed: Float64Array, out: Float64Array, frames: number): void {
    const { delay, kernel, input, output, low, low2, high, gain, loop } = this
    delay.take(out, delay.frames, frames)
    for (let i = 0; i < frames; i++) input[i] = out[i]
    kernel.process(frames, this.a)
    for (let i = 0; i < frames; i++) out[i] = output[i]
    low.low(out, frames)
    low2.low(out, frames)
    high.high(out, frames)
    for (let i = 0; i < frames; i++) loop[i] = feed[i] - gain * out[i]
    delay.put(loop, frames)
  }

  reset(): void {
    this.delay.reset()
    this.kernel.reset()
    this.low.reset()
    this.low2.reset()
    this.high.reset()
  }
}
