import { modelOf, type BuildContext } from '@fulgor/core/catalogue'
import { stripOf, type ChainNode, type Lane, type ResolvedStage } from '@fulgor/core/preset'
import { createBlock, rightOf, rowBytes, spreadToStereo, type Machine, type Pointer, type StereoBlock } from '@fulgor/core/signal'
import { FrameDelay } from './frameDelay'
import { Passage, type Span } from './passage'
import type { Passing, Runner } from './runner'
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
  return new Series(
    nodes.map((node) => buildNode(node, context, sampleRate, machine, registry)),
    machine,
  )
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

/** Stages one after another; those that do the same in every chunk are repeated in passages. */
export class Series implements Runner {
  readonly latency: number
  readonly listens: boolean
  readonly steps: number
  /** Where the steps of a passage stand that begins with a runner. */
  private readonly rows: readonly Pointer[]
  /** What runs, in order: passages, and runners by themselves. */
  private parts: readonly (Passage | Runner)[]

  constructor(
    private readonly runners: readonly Runner[],
    private readonly machine: Machine,
  ) {
    this.latency = runners.reduce((sum, r) => sum + r.latency, 0)
    this.listens = runners.some((r) => r.listens)
    this.steps = runners.reduce((sum, r) => sum + r.steps, 0)
    const bytes = runners.map(({ steps }) => rowBytes(steps))
    let at = machine.make((kernel) => kernel.alloc(bytes.reduce((sum, b) => sum + b, 0)))
    this.rows = bytes.map((b) => (at += b) - b)
    this.parts = runners
  }

  get steady(): boolean {
    return this.runners.every((r) => r.steady)
  }

  get still(): boolean {
    return this.runners.every((r) => r.still)
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const runner of this.runners) runner.apply(values, immediate)
  }

  process(block: StereoBlock): void {
    if (this.machine.isNoting) {
      for (const runner of this.runners) runner.process(block)
      return
    }
    for (let k = 0; k < this.parts.length; k++) this.parts[k].process(block)
    if (this.hasChanged()) this.lay()
  }

  /** See {@link Passage.span}. */
  span(block: StereoBlock, span: Span, at: number, count: number): number {
    const only = this.parts.length === 1 ? this.parts[0] : null
    if (!(only instanceof Passage)) return 0
    const done = only.span(block, span, at, count)
    if (this.hasChanged()) this.lay()
    return done
  }

  /** Some runners have become steady, or are so no more. */
  private hasChanged(): boolean {
    const { parts } = this
    for (let k = 0; k < parts.length; k++) {
      const part = parts[k]
      if (part instanceof Passage ? part.isOver : part.steady) return true
    }
    return false
  }

  /** Joins neighbours that are steady to passages; those that hold go on. */
  private lay(): void {
    const { runners, rows, machine, parts: before } = this
    const parts: (Passage | Runner)[] = []
    for (let k = 0; k < runners.length;) {
      const unsteady = runners.findIndex((r, n) => n >= k && !r.steady)
      const end = unsteady < 0 ? runners.length : unsteady
      const steady = runners.slice(k, end)
      const held = before.find((part) => part instanceof Passage && part.repeats(steady))
      if (steady.length > 0) parts.push(held ?? new Passage(steady, rows[k], machine))
      if (end < runners.length) parts.push(runners[end])
      k = end + 1
    }
    this.parts = parts
  }

  join(passage: Passing): void {
    this.parts = this.runners
    for (const runner of this.runners) runner.join(passage)
  }

  tick(): void {
    for (const runner of this.runners) runner.tick()
  }

  failAt(step: Pointer, error: unknown): boolean {
    return this.runners.some((r) => r.failAt(step, error))
  }

  reset(): void {
    for (const runner of this.runners) runner.reset()
  }
}

/** Lanes side by side, kept in step; their sum is stereo. */
export class Parallel implements Runner {
  readonly latency: number
  readonly listens: boolean
  readonly steps: number
  private readonly blocks: StereoBlock[]
  private readonly sum: LaneSum

  constructor(
    private readonly rows: readonly Series[],
    private readonly machine: Machine,
  ) {
    const latencies = rows.map((r) => r.latency)
    this.latency = Math.max(0, ...latencies)
    this.listens = rows.some((r) => r.listens)
    // copied, spread, both sides delayed and added
    this.steps = rows.reduce((sum, r) => sum + r.steps + 5, 1)
    this.blocks = rows.map(() => createBlock(machine))
    this.sum = new LaneSum(latencies, machine)
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    for (const row of this.rows) row.apply(values, immediate)
  }

  get steady(): boolean {
    return this.rows.every((r) => r.steady)
  }

  get still(): boolean {
    return this.rows.every((r) => r.still)
  }

  join(passage: Passing): void {
    for (const row of this.rows) row.join(passage)
  }

  tick(): void {
    for (const row of this.rows) row.tick()
  }

  failAt(step: Pointer, error: unknown): boolean {
    return this.rows.some((r) => r.failAt(step, error))
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
    kernel.silence(out.leftAt, out.rightAt)
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
