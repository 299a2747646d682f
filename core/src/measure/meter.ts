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
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.stepFrames - this.count)
      this.sum += this.weigh(left, right, from, to)
      this.count += to - from
      from = to
      if (this.count < this.stepFrames) continue
      this.steps[this.slot] = this.sum / this.stepFrames
      this.slot = (this.slot + 1) & 3
      this.sum = this.count = 0
    }
  }

  /** K-weighted squares of some frames. Both sides side by side, in variables of their own: each would else wait for itself. */
  private weigh(left: ArrayLike<number>, right: ArrayLike<number>, from: number, to: number): number {
    const [b0, b1, b2, a1, a2, c1, c2] = this.coefficients
    let [p1, p2, q1, q2, r1, r2, s1, s2] = this.states
    let sum = 0
    for (let i = from; i < to; i++) {
      const l = left[i] + 1e-18
      const r = right[i] + 1e-18
      const y = b0 * l + p1
      const v = b0 * r + r1
      p1 = b1 * l + p2 - a1 * y
      r1 = b1 * r + r2 - a1 * v
      p2 = b2 * l - a2 * y
      r2 = b2 * r - a2 * v
      const z = y + q1
      const w = v + s1
      q1 = q2 - 2 * y - c1 * z
      s1 = s2 - 2 * v - c1 * w
      q2 = y - c2 * z
      s2 = v - c2 * w
      sum += z * z + w * w
    }
    const { states } = this
    states[0] = p1
    states[1] = p2
    states[2] = q1
    states[3] = q2
    states[4] = r1
    states[5] = r2
    states[6] = s1
    states[7] = s2
    return sum
  }

  /** LUFS of the last 400 ms; −Infinity for silence. */
  get momentary(): number {
    return -0.691 + 10 * Math.log10((this.steps[0] + this.steps[1] + this.steps[2] + this.steps[3]) / 4)
  }
}
