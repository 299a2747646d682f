import type { Processor, StereoBlock } from './block'
import { Convolver } from './convolver'
import { Smooth } from './smooth'
import { dbToGain } from './units'

export interface CabinetParams {
  /** Id of the impulse response. */
  response: string
  /** dB. */
  level: number
}

/** Gives the taps of an impulse response at the engine's sample rate. */
export type ResponseSource = (id: string) => ArrayLike<number>

/** Loudspeaker, box and microphone as one impulse response. A new response is swapped in by the stage's crossfade. */
export class Cabinet implements Processor<CabinetParams> {
  readonly latency = 0
  private readonly level = new Smooth()
  private left: Convolver | undefined
  private right: Convolver | undefined
  private loaded = ''

  constructor(private readonly responses: ResponseSource) {}

  prepare(sampleRate: number): void {
    this.level.prepare(sampleRate)
  }

  set(p: CabinetParams, immediate: boolean): void {
    this.level.set(dbToGain(p.level), immediate)
    if (p.response === this.loaded) return
    const taps = this.responses(p.response)
    this.left = new Convolver(taps)
    this.right = new Convolver(taps)
    this.loaded = p.response
  }

  tick(): void {
    this.level.tick()
  }

  process(block: StereoBlock, frames: number): void {
    const { left, right, stereo, at } = block
    const { value, step } = this.level
    this.left?.process(left, frames)
    for (let i = 0; i < frames; i++) left[i] *= value + (at + i) * step
    if (!stereo) return
    this.right?.process(right, frames)
    for (let i = 0; i < frames; i++) right[i] *= value + (at + i) * step
  }

  reset(): void {
    this.left?.reset()
    this.right?.reset()
  }
}
