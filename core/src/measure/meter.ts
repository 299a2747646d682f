import { kWeighting } from './loudness'

/** Momentary loudness as it goes: 400 ms windows in steps of 100 ms (EBU Tech 3341), for a meter. Allocates nothing while it runs. */
export class LoudnessMeter {
  private readonly coefficients: Float64Array
  private readonly states = new Float64Array(8)
  private readonly steps = new Float64Array(4)
  private readonly stepFrames: number
  private sum = 0
  private count = 0
  private slot = 0

  constructor(sampleRate: number) {
    this.coefficients = kWeighting(sampleRate)
    this.stepFrames = Math.round(sampleRate / 10)
  }

  process(left: ArrayLike<number>, right: ArrayLike<number>, frames: number): void {
    const [b0, b1, b2, a1, a2, c1, c2] = this.coefficients
    const s = this.states
    for (let i = 0; i < frames; i++) {
      for (let c = 0; c < 8; c += 4) {
        const x = (c === 0 ? left[i] : right[i]) + 1e-18
        const y = b0 * x + s[c]
        s[c] = b1 * x - a1 * y + s[c + 1]
        s[c + 1] = b2 * x - a2 * y
        const z = y + s[c + 2]
        s[c + 2] = -2 * y - c1 * z + s[c + 3]
        s[c + 3] = y - c2 * z
        this.sum += z * z
      }
      if (++this.count === this.stepFrames) {
        this.steps[this.slot] = this.sum / this.stepFrames
        this.slot = (this.slot + 1) & 3
        this.sum = this.count = 0
      }
    }
  }

  /** LUFS of the last 400 ms; −Infinity for silence. */
  get momentary(): number {
    return -0.691 + 10 * Math.log10((this.steps[0] + this.steps[1] + this.steps[2] + this.steps[3]) / 4)
  }
}
