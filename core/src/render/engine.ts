import type { BuildContext } from '@fulgor/core/catalogue'
import type { ChainNode, ResolvedStage } from '@fulgor/core/preset'
import { CHUNK, createBlock, spreadToStereo } from '@fulgor/core/signal'
import { buildSeries, type Series } from './chain'

/** A preset in one snapshot, ready to sound: plain data, so that it can be sent to another thread. */
export interface Plan {
  readonly chain: readonly ChainNode[]
  readonly values: Readonly<Record<string, ResolvedStage>>
}

/** True when two plans differ only in values, so that a running engine can glide from one to the other. */
export function sameStructure(a: Plan, b: Plan): boolean {
  return shape(a.chain) === shape(b.chain)
}

function shape(nodes: readonly ChainNode[]): string {
  return nodes
    .map((node) => {
      if (node.kind === 'stage') return `${node.id}=${node.model}`
      return `${node.id}(${node.lanes.map((l) => `${l.id}:${shape(l.nodes)}`).join('|')})`
    })
    .join('>')
}

/**
 * The engine: what is heard live and what is rendered offline. Whatever the host's block size, parameters move on a grid of
 * {@link CHUNK} frames counted from the start, so that the samples are the same.
 */
export class Engine {
  readonly latency: number
  private readonly series: Series
  private readonly block = createBlock()
  private readonly dry = new Float64Array(CHUNK)
  private position = 0

  /**
   * @param sampleRate 44,100–96,000 Hz
   * @throws RangeError outside of that, or for an unknown model or response
   */
  constructor(plan: Plan, context: BuildContext, sampleRate: number) {
    if (!(sampleRate >= 44_100 && sampleRate <= 96_000))
      throw new RangeError(`The engine runs at 44,100 to 96,000 Hz, not at ${sampleRate}.`)
    this.series = buildSeries(plan.chain, context, sampleRate)
    this.latency = this.series.latency
    this.series.apply(plan.values, true)
    this.block.key = this.dry
  }

  /** Glides to other values of the same chain; delays and reverbs keep their trails. */
  setValues(values: Plan['values']): void {
    this.series.apply(values, false)
  }

  /** Mono in `left`, stereo out in `left` and `right`; in place, any number of frames. */
  process(left: Float64Array, right: Float64Array, frames: number): void {
    const { block, dry } = this
    let done = 0
    while (done < frames) {
      const at = this.position % CHUNK
      if (at === 0) this.series.tick()
      const count = Math.min(CHUNK - at, frames - done)
      block.at = at
      block.stereo = false
      for (let i = 0; i < count; i++) block.left[i] = dry[i] = left[done + i]
      this.series.process(block, count)
      spreadToStereo(block, count)
      for (let i = 0; i < count; i++) {
        left[done + i] = block.left[i]
        right[done + i] = block.right[i]
      }
      this.position += count
      done += count
    }
  }
}
