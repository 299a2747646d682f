import { CHUNK } from './block'

export type LfoShape = 'sine' | 'triangle' | 'square' | 'throb'

/**
 * A low-frequency oscillator on the control grid, −1 to 1, in straight lines between ticks: frame i of a chunk has value + i · step.
 * `throb` is the lopsided swell of a lamp and photocell: a fast rise and a slow fall.
 */
export class Lfo {
  value = 0
  step = 0
  private next = 0
  private phase = 0
  private offset = 0
  private turning = false
  private perChunk = 0
  private chunkSeconds = 0
  private shape: LfoShape = 'sine'

  /** @param offset start within the period, 0–1 */
  prepare(sampleRate: number, offset = 0): void {
    this.chunkSeconds = CHUNK / sampleRate
    this.offset = offset
    this.reset()
  }

  set(hz: number, shape: LfoShape): void {
    this.perChunk = hz * this.chunkSeconds
    this.shape = shape
    if (!this.turning) this.rest()
  }

  tick(): void {
    this.turning = true
    this.value = this.next
    this.phase += this.perChunk
    if (this.phase >= 1) this.phase -= Math.floor(this.phase)
    this.next = wave(this.shape, this.phase)
    this.step = (this.next - this.value) / CHUNK
  }

  reset(): void {
    this.phase = this.offset
    this.turning = false
    this.rest()
  }

  /** Stands where its wave begins. */
  private rest(): void {
    this.value = this.next = wave(this.shape, this.phase)
    this.step = 0
  }
}

function wave(shape: LfoShape, phase: number): number {
  switch (shape) {
    case 'sine':
      return Math.sin(2 * Math.PI * phase)
    case 'triangle':
      return phase < 0.25 ? 4 * phase : phase < 0.75 ? 2 - 4 * phase : 4 * phase - 4
    case 'square':
      return phase < 0.5 ? 1 : -1
    case 'throb':
      return phase < 0.25 ? 1 - 2 * (1 - phase / 0.25) ** 2 : 2 * ((1 - phase) / 0.75) ** 2 - 1
  }
}
