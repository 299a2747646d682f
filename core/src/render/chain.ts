import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import type { ChainNode, Lane, ResolvedStage } from '@fulgor/core/preset'
import { createBlock, dbToGain, Smooth, spreadToStereo, type StereoBlock } from '@fulgor/core/signal'
import { FrameDelay } from './frameDelay'
import type { Runner } from './runner'
import { StageRunner } from './stageRunner'

/** Builds what runs a row of nodes. */
export function buildSeries(nodes: readonly ChainNode[], context: BuildContext, sampleRate: number): Series {
  return new Series(nodes.map((node) => buildNode(node, context, sampleRate)))
}

export function buildNode(node: ChainNode, context: BuildContext, sampleRate: number): Runner {
  if (node.kind === 'stage') return new StageRunner(node.id, modelOf(node.model), context, sampleRate)
  return new Parallel(
    node.lanes,
    node.lanes.map((lane) => buildSeries(lane.nodes, context, sampleRate)),
    sampleRate,
  )
}

/** Stages one after another. */
export class Series implements Runner {
  readonly latency: number

  constructor(private readonly runners: readonly Runner[]) {
    this.latency = runners.reduce((sum, r) => sum + r.latency, 0)
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const runner of this.runners) runner.apply(values, immediate)
  }

  tick(): void {
    for (const runner of this.runners) runner.tick()
  }

  process(block: StereoBlock, frames: number): void {
    for (const runner of this.runners) runner.process(block, frames)
  }

  reset(): void {
    for (const runner of this.runners) runner.reset()
  }
}

/** Lanes side by side, kept in step, each with level, pan, polarity and mute; their sum is stereo. */
export class Parallel implements Runner {
  readonly latency: number
  private readonly blocks: StereoBlock[]
  private readonly delays: FrameDelay[]
  private readonly gains: { left: Smooth; right: Smooth }[]

  constructor(
    lanes: readonly Lane[],
    private readonly rows: readonly Series[],
    sampleRate: number,
  ) {
    this.latency = Math.max(0, ...rows.map((r) => r.latency))
    this.blocks = rows.map(createBlock)
    this.delays = rows.map((r) => new FrameDelay(this.latency - r.latency))
    this.gains = rows.map(() => ({ left: new Smooth(), right: new Smooth() }))
    this.gains.forEach(({ left, right }, i) => {
      left.prepare(sampleRate)
      right.prepare(sampleRate)
      const { levelDb, pan, inverted, mute } = lanes[i]
      const gain = mute ? 0 : dbToGain(levelDb) * (inverted ? -1 : 1)
      left.set(gain * Math.min(1, 1 - pan), true)
      right.set(gain * Math.min(1, 1 + pan), true)
    })
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const row of this.rows) row.apply(values, immediate)
  }

  tick(): void {
    for (const row of this.rows) row.tick()
    for (const { left, right } of this.gains) {
      left.tick()
      right.tick()
    }
  }

  process(block: StereoBlock, frames: number): void {
    for (let k = 0; k < this.rows.length; k++) {
      const lane = this.blocks[k]
      lane.stereo = block.stereo
      lane.at = block.at
      for (let i = 0; i < frames; i++) {
        lane.left[i] = block.left[i]
        lane.right[i] = block.right[i]
      }
      this.rows[k].process(lane, frames)
      this.delays[k].process(lane, frames)
      spreadToStereo(lane, frames)
    }
    block.stereo = true
    for (let i = 0; i < frames; i++) block.left[i] = block.right[i] = 0
    for (let k = 0; k < this.rows.length; k++) {
      const { left, right } = this.gains[k]
      const lane = this.blocks[k]
      for (let i = 0; i < frames; i++) {
        block.left[i] += lane.left[i] * (left.value + (block.at + i) * left.step)
        block.right[i] += lane.right[i] * (right.value + (block.at + i) * right.step)
      }
    }
  }

  reset(): void {
    for (const row of this.rows) row.reset()
    for (const delay of this.delays) delay.reset()
  }
}
