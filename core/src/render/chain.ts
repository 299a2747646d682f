import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import { stripOf, type ChainNode, type Lane, type ResolvedStage } from '@fulgor/core/preset'
import { createBlock, spreadToStereo, type StereoBlock } from '@fulgor/core/signal'
import { FrameDelay } from './frameDelay'
import type { Runner } from './runner'
import { StageRunner } from './stageRunner'

/** Takes note of every stage's runner by its id. */
export type Registry = Map<string, StageRunner>

/** Builds what runs a row of nodes. */
export function buildSeries(nodes: readonly ChainNode[], context: BuildContext, sampleRate: number, registry?: Registry): Series {
  return new Series(nodes.map((node) => buildNode(node, context, sampleRate, registry)))
}

export function buildNode(node: ChainNode, context: BuildContext, sampleRate: number, registry?: Registry): Runner {
  if (node.kind === 'parallel') return new Parallel(node.lanes.map((lane) => buildLane(lane, context, sampleRate, registry)))
  const runner = new StageRunner(node.id, modelOf(node.model), context, sampleRate)
  registry?.set(node.id, runner)
  return runner
}

/** A lane's nodes and its strip. */
const buildLane = (lane: Lane, context: BuildContext, sampleRate: number, registry?: Registry): Series =>
  buildSeries([...lane.nodes, stripOf(lane)], context, sampleRate, registry)

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

/** Lanes side by side, kept in step; their sum is stereo. */
export class Parallel implements Runner {
  readonly latency: number
  private readonly blocks: StereoBlock[]
  private readonly sum: LaneSum

  constructor(private readonly rows: readonly Series[]) {
    const latencies = rows.map((r) => r.latency)
    this.latency = Math.max(0, ...latencies)
    this.blocks = rows.map(createBlock)
    this.sum = new LaneSum(latencies)
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const row of this.rows) row.apply(values, immediate)
  }

  tick(): void {
    for (const row of this.rows) row.tick()
  }

  process(block: StereoBlock, frames: number): void {
    for (let k = 0; k < this.rows.length; k++) {
      const lane = this.blocks[k]
      lane.stereo = block.stereo
      lane.at = block.at
      lane.key = block.key
      for (let i = 0; i < frames; i++) {
        lane.left[i] = block.left[i]
        lane.right[i] = block.right[i]
      }
      this.rows[k].process(lane, frames)
    }
    this.sum.process(this.blocks, block, frames)
  }

  reset(): void {
    for (const row of this.rows) row.reset()
    this.sum.reset()
  }
}

/** The sum of lanes of unlike latency, in step with the latest. Overwrites the lanes' blocks. */
export class LaneSum {
  private readonly delays: readonly FrameDelay[]

  constructor(latencies: readonly number[]) {
    const most = Math.max(0, ...latencies)
    this.delays = latencies.map((latency) => new FrameDelay(most - latency))
  }

  process(lanes: readonly StereoBlock[], out: StereoBlock, frames: number): void {
    out.stereo = true
    for (let i = 0; i < frames; i++) out.left[i] = out.right[i] = 0
    for (let k = 0; k < lanes.length; k++) {
      const lane = lanes[k]
      spreadToStereo(lane, frames)
      this.delays[k].process(lane, frames)
      for (let i = 0; i < frames; i++) {
        out.left[i] += lane.left[i]
        out.right[i] += lane.right[i]
      }
    }
  }

  reset(): void {
    for (const delay of this.delays) delay.reset()
  }
}
