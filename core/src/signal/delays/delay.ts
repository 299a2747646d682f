import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import { setMix } from '../base/mix'
import { OnePole } from '../base/onePole'
import { Glides } from '../base/smooth'
import { SWAP_SECONDS, SwapLength } from '../base/swapDelay'

export interface DelayParams {
  /** ms. */
  time: number
  /** %: each repeat is this share of the one before. */
  feedback: number
  /** Hz: first-order low-pass on every repeat. */
  tone: number
  /** %: dry stays whole up to 50, the repeats are whole from 50 on. */
  mix: number
}

/** Longest time in ms. */
export const MAX_DELAY_MS = 2000

/**
 * Digital delay: whole-sample times, so that repeats keep their level; a new time crossfades in 30 ms without a glide; trails.
 * Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2.
 */
export class Delay implements Processor<DelayParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly feedback = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly tone = this.glides.add(0.05)
  private readonly input = this.glides.fade()
  private readonly swap = this.glides.fade(SWAP_SECONDS)
  private readonly length = new SwapLength(this.swap)
  private readonly left = new Line()
  private readonly right = new Line()
  private rate = 48_000

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    const frames = Math.ceil((MAX_DELAY_MS / 1000) * sampleRate)
    this.left.prepare(frames)
    this.right.prepare(frames)
  }

  set(p: DelayParams, immediate: boolean): void {
    this.feedback.set(p.feedback / 100, immediate)
    setMix(this.mix, p.mix, immediate)
    this.tone.set(p.tone, immediate)
    this.length.set(Math.max(1, Math.round((p.time / 1000) * this.rate)), immediate)
  }

  send(open: boolean, immediate: boolean): void {
    this.input.set(open, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.length.tick()
    if (this.tone.moving) {
      this.left.low.tune(this.tone.value, this.rate)
      this.right.low.tune(this.tone.value, this.rate)
    }
  }

  process(block: StereoBlock): void {
    this.run(this.left, block.left)
    if (block.stereo) this.run(this.right, block.right)
  }

  private run(line: Line, data: Float32Array): void {
    const {
      feedback,
      mix: { dry, wet },
      input,
      swap,
      length,
    } = this
    const { buffer, mask, echo } = line
    const still = input.open && swap.open && feedback.step === 0 && dry.step === 0 && wet.step === 0
    let write = line.write
    // repeats shorter than a chunk would read what is not written yet, so such times go in smaller steps
    const step = Math.min(CHUNK, length.current, length.previous)
    for (let start = 0; start < CHUNK; start += step) {
      const count = Math.min(step, CHUNK - start)
      length.read(echo, buffer, write, start, count)
      line.low.low(echo, count)
      if (still) {
        const f = feedback.value
        const d = dry.value
        const w = wet.value
        for (let i = 0; i < count; i++) {
          const x = data[start + i]
          const y = echo[i]
          buffer[(write + i) & mask] = x + y * f
          data[start + i] = x * d + y * w
        }
      } else
        for (let i = 0; i < count; i++) {
          const k = start + i
          const x = data[start + i]
          const open = input.value + k * input.step
          buffer[(write + i) & mask] = x * open + echo[i] * (feedback.value + k * feedback.step)
          // while the stage is off its dry path is whole
          const direct = dry.value + k * dry.step
          data[start + i] = x * (direct * open + 1 - open) + echo[i] * (wet.value + k * wet.step)
        }
      write = (write + count) & mask
    }
    line.write = write
  }

  reset(): void {
    this.left.reset()
    this.right.reset()
  }
}

class Line {
  buffer = new Float32Array(1)
  mask = 0
  write = 0
  readonly low = new OnePole()
  readonly echo = new Float32Array(CHUNK)

  prepare(frames: number): void {
    const size = 1 << Math.ceil(Math.log2(frames + 64))
    this.buffer = new Float32Array(size)
    this.mask = size - 1
  }

  reset(): void {
    this.buffer.fill(0)
    this.low.reset()
  }
}
