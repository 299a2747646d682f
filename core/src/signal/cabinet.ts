import type { Processor, StereoBlock } from './block'
import { Convolver } from './convolver'

export interface CabinetParams {
  /** Id of the impulse response. */
  response: string
}

/** Gives the taps of an impulse response at the engine's sample rate. */
export type ResponseSource = (id: string) => ArrayLike<number>

/** Loudspeaker, box and microphone as one impulse response. A new response is swapped in by the stage's crossfade. */
export class Cabinet implements Processor<CabinetParams> {
  readonly latency = 0
  private left: Convolver | undefined
  private right: Convolver | undefined
  private loaded = ''

  constructor(private readonly responses: ResponseSource) {}

  prepare(): void {}

  set(p: CabinetParams): void {
    if (p.response === this.loaded) return
    const taps = this.responses(p.response)
    this.left = new Convolver(taps)
    this.right = new Convolver(taps)
    this.loaded = p.response
  }

  tick(): void {}

  process(block: StereoBlock, frames: number): void {
    this.left?.process(block.left, frames)
    if (block.stereo) this.right?.process(block.right, frames)
  }

  reset(): void {
    this.left?.reset()
    this.right?.reset()
  }
}
