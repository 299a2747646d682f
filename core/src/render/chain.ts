import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import { stripOf, type ChainNode, type Lane, type ResolvedStage } from '@fulgor/core/preset'
import { createBlock, rightOf, spreadToStereo, type Machine, type StereoBlock } from '@fulgor/core/signal'
import { FrameDelay } from './frameDelay'
import type { Runner } from './runner'
import { StageRunner } from './stageRunner'

/** Takes note of every stage's runner by its id. */
export type Registry = Map<string, StageRunner>

/** Builds what runs a row of nodes. */
export function buildSeries(
  nodes: readonly ChainNode[],
  context: BuildContext,
  sampleRate: number,
  machine: Machine,
  registry?: Registry,
): Series {
  return new Series(nodes.map((node) => buildNode(node, context, sampleRate, machine, registry)))
}

export function buildNode(node: ChainNode, context: BuildContext, sampleRate: number, machine: Machine, registry?: Registry): Runner {
  if (node.kind === 'parallel')
    return new Parallel(
      node.lanes.map((lane) => buildLane(lane, context, sampleRate, machine, registry)),
      machine,
    )
  const runner = new StageRunner(node.id, modelOf(node.model), context, sampleRate, machine)
  registry?.set(node.id, runner)
  return runner
}

/** A lane's nodes and its strip. */
const buildLane = (lane: Lane, context: BuildContext, sampleRate: number, machine: Machine, registry?: Registry): Series =>
  buildSeries([...lane.nodes, stripOf(lane)], context, sampleRate, machine, registry)

/** Stages one after another. */
export class Series implements Runner {
  readonly latency: number
  readonly listens: boolean

  constructor(private readonly runners: readonly Runner[]) {
    this.latency = runners.reduce((sum, r) => sum + r.latency, 0)
    this.listens = runners.some((r) => r.listens)
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const runner of this.runners) runner.apply(values, immediate)
  }

  tick(): void {
    for (const runner of this.runners) runner.tick()
  }

  process(block: StereoBlock): void {
    for (const runner of this.runners) runner.process(block)
  }

  reset(): void {
    for (const runner of this.runners) runner.reset()
  }
}

/** Lanes side by side, kept in step; their sum is stereo. */
export class Parallel implements Runner {
  readonly latency: number
  readonly listens: boolean
  private readonly blocks: StereoBlock[]
  private readonly sum: LaneSum

  constructor(
    private readonly rows: readonly Series[],
    private readonly machine: Machine,
  ) {
    const latencies = rows.map((r) => r.latency)
    this.latency = Math.max(0, ...latencies)
    this.listens = rows.some((r) => r.listens)
    this.blocks = rows.map(() => createBlock(machine))
    this.sum = new LaneSum(latencies, machine)
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const row of this.rows) row.apply(values, immediate)
  }

  tick(): void {
    for (const row of this.rows) row.tick()
  }

  process(block: StereoBlock): void {
    for (let k = 0; k < this.rows.length; k++) {
      const lane = this.blocks[k]
      lane.stereo = block.stereo
      lane.key = block.key
      lane.keyAt = block.keyAt
      this.machine.kernel.copy(lane.leftAt, rightOf(lane), block.leftAt, block.rightAt)
      this.rows[k].process(lane)
    }
    this.sum.process(this.blocks, block)
  }

  reset(): void {
    for (const row of this.rows) row.reset()
    this.sum.reset()
  }
}

/** The sum of lanes of unlike latency, in step with the latest. Overwrites the lanes' blocks. */
export class LaneSum {
  private readonly delays: readonly FrameDelay[]

  constructor(
    latencies: readonly number[],
    private readonly machine: Machine,
  ) {
    const most = Math.max(0, ...latencies)
    this.delays = latencies.map((latency) => new FrameDelay(most - latency, machine))
  }

  process(lanes: readonly StereoBlock[], out: StereoBlock): void {
    const { kernel } = this.machine
    out.stereo = true
    out.left.fill(0)
    out.right.fill(0)
    for (let k = 0; k < lanes.length; k++) {
      const lane = lanes[k]
      spreadToStereo(lane)
      this.delays[k].process(lane)
      kernel.add(out.leftAt, out.rightAt, lane.leftAt, lane.rightAt)
    }
  }

  reset(): void {
    for (const delay of this.delays) delay.reset()
  }
}
