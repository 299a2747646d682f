import { spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { Convolver } from './convolver'
import type { Machine } from '../kernel/machine'

export interface CabinetParams {
  /** Id of the impulse response. */
  response: string
}

/** A response with a left and a right side; `right` is null where both are alike. */
export interface StereoResponse {
  readonly left: ArrayLike<number>
  readonly right: ArrayLike<number> | null
}

/** Gives the taps of an impulse response at the engine's sample rate. */
export type ResponseSource = (id: string) => ArrayLike<number> | StereoResponse

/** Loudspeaker, box and microphone as one impulse response. A new response is swapped in by the stage's crossfade. */
export class Cabinet implements Processor<CabinetParams> {
  readonly latency = 0
  readonly steady = true
  readonly still = true
  private left: Convolver | undefined
  private right: Convolver | undefined
  private stereo = false
  private loaded = ''
  private machine: Machine | undefined

  constructor(private readonly responses: ResponseSource) {}

  prepare(_sampleRate: number, machine: Machine): void {
    this.machine = machine
  }

  set(p: CabinetParams): void {
    if (p.response === this.loaded) return
    const found = this.responses(p.response)
    const { left, right } = 'left' in found ? found : { left: found, right: null }
    this.left = loaded(this.left, left, this.machine)
    this.right = loaded(this.right, right ?? left, this.machine)
    this.stereo = right !== null
    this.loaded = p.response
  }

  tick(): void {}

  process(block: StereoBlock): void {
    if (this.stereo) spreadToStereo(block)
    this.left?.processChunk(block.leftAt)
    if (block.stereo) this.right?.processChunk(block.rightAt)
  }

  reset(): void {
    this.left?.reset()
    this.right?.reset()
  }
}

/** A convolver with a response: the one that is there where its length fits. */
function loaded(convolver: Convolver | undefined, response: ArrayLike<number>, machine: Machine | undefined): Convolver {
  if (convolver?.taps !== response.length) {
    const next = new Convolver(response, machine)
    convolver?.free()
    return next
  }
  convolver.load(response)
  return convolver
}
