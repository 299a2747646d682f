import { CHUNK } from './block'

/** First-order low-pass with its complement as high-pass, for couplings inside a model: cheap, in place. */
export class OnePole {
  private coefficient = 0
  private state = 0

  /** Corner in Hz. */
  tune(hz: number, sampleRate: number): void {
    this.coefficient = onePoleCoefficient(hz, sampleRate)
  }

  low(data: Float32Array, frames = CHUNK): void {
    const a = this.coefficient
    const b = 1 - a
    let s = this.state
    for (let i = 0; i < frames; i++) data[i] = s = b * s + a * data[i]
    this.state = s
  }

  high(data: Float32Array, frames = CHUNK): void {
    const a = this.coefficient
    const b = 1 - a
    let s = this.state
    for (let i = 0; i < frames; i++) {
      const x = data[i]
      s = b * s + a * x
      data[i] = x - s
    }
    this.state = s
  }

  reset(): void {
    this.state = 0
  }
}

/** Coefficient of state += c · (input − state); impulse-invariant, meant for oversampled or low corners. */
export const onePoleCoefficient = (hz: number, sampleRate: number): number =>
  1 - Math.exp((-2 * Math.PI * Math.min(hz, sampleRate * 0.45)) / sampleRate)
