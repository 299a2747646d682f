import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { setMix } from '../base/mix'
import { OnePole } from '../base/onePole'
import { Ring } from '../base/ring'
import { Glides } from '../base/smooth'

export interface ReverseDelayParams {
  /** ms: length of each reversed piece. */
  time: number
  /** %. */
  feedback: number
  /** Hz. */
  tone: number
  /** %. */
  mix: number
}

/** Longest piece, ms. */
export const MAX_REVERSE_MS = 2000

/** Plays pieces of the last seconds backwards, one after another, with 10 ms of fade at their ends. Trails. Source: Zölzer, DAFX 2011. */
export class ReverseDelay implements Processor<ReverseDelayParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly feedback = this.glides.add()
  private readonly tone = this.glides.add()
  private readonly input = this.glides.fade()
  private readonly low = new OnePole()
  private ring = new Ring(1)
  private readonly one = new Float32Array(1)
  private rate = 48_000
  private wanted = 1
  private length = 1
  private place = 0
  private fade = 1

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.ring = new Ring(Math.ceil((2 * MAX_REVERSE_MS * sampleRate) / 1000) + CHUNK)
    this.fade = Math.round(0.01 * sampleRate)
  }

  set(p: ReverseDelayParams, immediate: boolean): void {
    setMix(this.mix, p.mix, immediate)
    this.feedback.set(p.feedback / 100, immediate)
    this.tone.set(p.tone, immediate)
    this.wanted = Math.max(4 * this.fade, Math.round((p.time / 1000) * this.rate))
    if (immediate) {
      this.length = this.wanted
      this.place = 0
    }
  }

  send(open: boolean, immediate: boolean): void {
    this.input.set(open, immediate)
  }

  tick(): void {
    this.glides.tick()
    if (this.tone.moving) this.low.tune(this.tone.value, this.rate)
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    const { left, right } = block
    const {
      mix: { dry, wet },
      feedback,
      input,
      ring,
      one,
      low,
      fade,
    } = this
    for (let i = 0; i < CHUNK; i++) {
      // reading runs back while writing runs on, so the distance grows by two a frame
      const edge = Math.min(1, this.place / fade, (this.length - this.place) / fade)
      one[0] = edge * ring.buffer[(ring.write - 1 - 2 * this.place) & ring.mask]
      low.low(one, 1)
      const y = one[0]
      const open = input.value + i * input.step
      ring.push(0.5 * (left[i] + right[i]) * open + y * (feedback.value + i * feedback.step))
      if (++this.place >= this.length) {
        this.place = 0
        this.length = this.wanted
      }
      const direct = (dry.value + i * dry.step) * open + 1 - open
      const level = wet.value + i * wet.step
      left[i] = left[i] * direct + level * y
      right[i] = right[i] * direct + level * y
    }
  }

  reset(): void {
    this.ring.reset()
    this.low.reset()
    this.place = 0
    this.length = this.wanted
  }
}
