import type { Machine, Pointer, StereoBlock } from '@fulgor/core/signal'
import type { Piece } from './piece'
import type { Passing, Runner } from './runner'

/** What goes through a passage: where it comes from and goes to, and what side-chains hear of it where they hear anything. */
export interface Span {
  readonly from: Piece
  readonly to: Piece
  readonly side: StereoBlock
  readonly key: Piece | null
}

/**
 * Neighbours in a row that ask the kernels the same in every chunk: for one chunk it is taken down, and from then on repeated inside the
 * machine, which costs one call instead of some for every stage. The samples are the same.
 */
export class Passage implements Passing {
  private state: 'fresh' | 'holds' | 'over' = 'fresh'
  private fromStereo = false
  private toStereo = false
  /** What moves by itself. */
  private readonly ticking: Runner[] = []
  /** Where each runner's steps end in the memory. */
  private readonly ends: Pointer[] = []

  /** @param row room for the steps of all runners in the memory */
  constructor(
    readonly runners: readonly Runner[],
    private readonly row: Pointer,
    private readonly machine: Machine,
  ) {}

  /** It cannot be repeated any more. */
  get isOver(): boolean {
    return this.state === 'over'
  }

  /** It goes on for just these runners. */
  repeats(runners: readonly Runner[]): boolean {
    return !this.isOver && this.runners.length === runners.length && this.runners.every((runner, k) => runner === runners[k])
  }

  end(): void {
    this.state = 'over'
  }

  process(block: StereoBlock): void {
    if (this.state === 'holds' && block.stereo === this.fromStereo) this.repeat(block)
    else if (this.state === 'fresh') this.note(block)
    else {
      this.state = 'over'
      this.run(block, 0)
    }
  }

  private run(block: StereoBlock, first: number): void {
    for (let k = first; k < this.runners.length; k++) this.runners[k].process(block)
  }

  private note(block: StereoBlock): void {
    const { machine, runners, row } = this
    this.fromStereo = block.stereo
    machine.note(
      row,
      runners.reduce((sum, { steps }) => sum + steps, 0),
    )
    let isWhole: boolean
    try {
      for (const runner of runners) {
        runner.process(block)
        this.ends.push(machine.nextStep)
      }
    } finally {
      isWhole = machine.endNote()
    }
    this.toStereo = block.stereo
    this.state = isWhole && runners.every(({ steady }) => steady) ? 'holds' : 'over'
    if (this.state === 'over') return
    for (const runner of runners) {
      runner.join(this)
      if (!runner.still) this.ticking.push(runner)
    }
  }

  private repeat(block: StereoBlock): void {
    const { ticking } = this
    for (let k = 0; k < ticking.length; k++) ticking[k].tick()
    if (this.isOver) {
      this.run(block, 0)
      return
    }
    const { kernel } = this.machine
    try {
      if (kernel.rowRun(this.row) !== 0) this.end()
    } catch (error) {
      this.fail(kernel.rowAt(), error, block)
      return
    }
    block.stereo = this.toStereo
  }

  /**
   * Chunks of a piece at once, where nothing moves by itself: from one piece of the memory to another, byte `at` of both on.
   * @returns how many were done: none where it cannot
   */
  span(block: StereoBlock, { from, to, side, key }: Span, at: number, count: number): number {
    if (this.state !== 'holds' || this.ticking.length > 0 || block.stereo !== this.fromStereo) return 0
    const { leftAt, rightAt } = block
    const { fromStereo, toStereo, row } = this
    const { kernel } = this.machine
    const fromRight = fromStereo ? from.rightAt + at : 0
    const toRight = toStereo ? to.rightAt + at : 0
    const keyAt = key ? key.leftAt + at : 0
    const done = kernel.rowSpan(row, count, leftAt, rightAt, from.leftAt + at, fromRight, side.leftAt, keyAt, to.leftAt + at, toRight)
    if (done < 0) this.end()
    block.stereo = toStereo
    return Math.abs(done)
  }

  /** The runner whose step failed is mute; those behind it are asked themselves. */
  private fail(step: Pointer, error: unknown, block: StereoBlock): void {
    this.end()
    const at = this.ends.findIndex((end) => step < end)
    if (!this.runners.at(at)?.failAt(step, error)) throw error
    this.machine.kernel.silence(block.leftAt, block.rightAt)
    this.run(block, at + 1)
  }
}
