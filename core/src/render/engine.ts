import type { BuildContext } from '@fulgor/core/catalogue'
import { GUITAR_STAGE, type ChainNode, type Positions, type ResolvedStage } from '@fulgor/core/preset'
import { CHUNK, createBlock, listen, Machine, type EngineKernel, type StereoBlock } from '@fulgor/core/signal'
import { buildNode, buildSeries, type Registry, type Series } from './chain'
import { CONTROL_CHUNKS, ControlRack, type ControlPlan } from './controlRack'
import { Piece, PIECE } from './piece'
import type { Runner } from './runner'

/** A preset in one snapshot, ready to sound: plain data, so that it can be sent to another thread. */
export interface Plan {
  readonly chain: readonly ChainNode[]
  readonly values: Readonly<Record<string, ResolvedStage>>
  /** What moves parameters while it sounds. */
  readonly control?: ControlPlan | null
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
 * The engine: what is heard live and what is rendered offline. It works in chunks of {@link CHUNK} frames, on whose grid
 * parameters move, so that the samples are the same in pieces of any number of chunks.
 */
export class Engine {
  readonly latency: number
  /** The guitar's own knobs: what side-chains hear as dry comes behind them, as at the input of a device. */
  private readonly guitar: Runner | null
  private readonly series: Series
  private readonly kernel: EngineKernel
  private readonly listens: boolean
  private readonly block: StereoBlock
  /** The guitar behind its own knobs, on the left. */
  private readonly dry: StereoBlock
  /** What comes in, and goes out in its place. */
  private readonly piece: Piece
  private position = 0
  private readonly runners: Registry = new Map()
  private rack: ControlRack | null = null
  private peak = 0

  /**
   * @param sampleRate 44,100–96,000 Hz
   * @throws RangeError outside of that, or for an unknown model or response
   */
  constructor(
    private plan: Plan,
    context: BuildContext,
    private readonly sampleRate: number,
  ) {
    if (!(sampleRate >= 44_100 && sampleRate <= 96_000))
      throw new RangeError(`The engine runs at 44,100 to 96,000 Hz, not at ${sampleRate}.`)
    const machine = new Machine()
    this.kernel = machine.kernel
    this.block = createBlock(machine)
    this.dry = createBlock(machine)
    this.piece = new Piece(machine)
    listen(this.block, this.dry)
    const first = plan.chain.at(0)
    this.guitar = first?.id === GUITAR_STAGE ? buildNode(first, context, sampleRate, machine, this.runners) : null
    this.series = buildSeries(this.guitar ? plan.chain.slice(1) : plan.chain, context, sampleRate, machine, this.runners)
    this.latency = this.series.latency
    this.listens = this.series.listens
    this.takeControl(plan.control ?? null)
    const values = this.moved(plan.values)
    this.guitar?.apply(values, true)
    this.series.apply(values, true)
  }

  /** Glides to other values of the same chain; delays and reverbs keep their trails. */
  setValues(values: Plan['values'], control: ControlPlan | null = null): void {
    this.takeControl(control)
    const now = this.moved(values)
    this.guitar?.apply(now, false)
    this.series.apply(now, false)
  }

  /** Sources were moved; they glide there from the next control step on. */
  setPositions(positions: Positions): void {
    this.rack?.setPositions(positions)
  }

  private takeControl(control: ControlPlan | null): void {
    this.rack = control ? new ControlRack(control, this.plan.chain, this.sampleRate, this.rack) : null
  }

  /** Values with what the sources move now laid over them. */
  private moved(values: Plan['values']): Plan['values'] {
    const changed = this.rack?.current()
    return changed ? { ...values, ...changed } : values
  }

  private control(): void {
    const changed = this.rack?.step(this.peak)
    this.peak = 0
    if (!changed) return
    for (const id of Object.keys(changed)) this.runners.get(id)?.apply(changed, false)
  }

  /**
   * Mono in `left`, stereo out in `left` and `right`; in place.
   * @param frames of whole chunks of {@link CHUNK}; only the last piece of all may end within one
   * @throws RangeError for a piece behind one that ended within a chunk
   */
  process(left: Float32Array, right: Float32Array, frames: number): void {
    const { piece } = this
    if (this.position % CHUNK !== 0)
      throw new RangeError(`The engine goes on in whole chunks of ${CHUNK} frames, and the last piece ended within one.`)
    for (let start = 0; start < frames; start += PIECE) {
      const count = Math.min(PIECE, frames - start)
      piece.load(left, null, start, count)
      this.processPiece(count)
      piece.save(left, right, start, count)
      this.position += count
    }
  }

  private processPiece(frames: number): void {
    const { block, dry, kernel, piece, position } = this
    for (let done = 0; done < frames; done += CHUNK) {
      if (this.rack && ((position + done) / CHUNK) % CONTROL_CHUNKS === 0) this.control()
      const left = piece.leftAt + 4 * done
      const right = piece.rightAt + 4 * done
      block.stereo = false
      kernel.copy(block.leftAt, 0, left, 0)
      this.guitar?.process(block)
      if (this.listens || this.rack) {
        kernel.copy(dry.leftAt, 0, block.leftAt, 0)
        if (this.rack) this.peak = Math.max(this.peak, kernel.peak(block.leftAt))
      }
      this.series.process(block)
      kernel.copy(left, right, block.leftAt, block.stereo ? block.rightAt : block.leftAt)
    }
  }
}
