import { Machine, type Pointer } from '../kernel/machine'

/** Frames between two control ticks: parameters move on this grid, counted from the first frame, whatever the host's block. */
export const CHUNK = 64

/** {@link CHUNK} frames of sound, full scale ±1, in a machine's memory. `right` is meaningful only while `stereo` is true. */
export interface StereoBlock {
  readonly left: Float32Array
  readonly right: Float32Array
  /** Where both sides lie in the machine's memory. */
  readonly leftAt: Pointer
  readonly rightAt: Pointer
  /** The dry guitar at the same frames, for side-chains; only to be read. */
  key: Float32Array
  keyAt: Pointer
  stereo: boolean
  /** In whose memory it lies. */
  readonly machine: Machine
}

export type ParamValue = number | string
export type ParamValues = Readonly<Record<string, ParamValue>>

class Block implements StereoBlock {
  left = NONE
  right = NONE
  key = NONE
  keyAt: Pointer
  readonly leftAt: Pointer
  readonly rightAt: Pointer
  stereo = false

  constructor(readonly machine: Machine) {
    const bytes = 4 * CHUNK
    this.leftAt = machine.make((kernel) => kernel.alloc(2 * bytes))
    this.rightAt = this.leftAt + bytes
    this.keyAt = this.leftAt
    machine.keep((buffer) => {
      const own = this.key === this.left
      this.left = new Float32Array(buffer, this.leftAt, CHUNK)
      this.right = new Float32Array(buffer, this.rightAt, CHUNK)
      if (own) this.key = this.left
    })
  }
}

const NONE = new Float32Array(0)

/** A block of silence whose key is its own left side. */
export const createBlock = (machine = new Machine()): StereoBlock => new Block(machine)

/** Lets a block's side-chains hear the left side of another. */
export function listen(block: StereoBlock, side: StereoBlock): void {
  block.key = side.left
  block.keyAt = side.leftAt
}

/** Where the right side lies for a kernel; 0 while the block is mono. */
export const rightOf = (block: StereoBlock): Pointer => (block.stereo ? block.rightAt : 0)

/**
 * One stage's sound. Life: construct, `prepare`, `set(…, true)`, then for every chunk `tick` and `process`, which allocate
 * nothing. Smoothed values are `value + i · step` in the chunk's frame i.
 */
export interface Processor<P = ParamValues> {
  /** Delay of the processed sound in frames, once prepared. */
  readonly latency: number
  /** @param machine in whose memory the blocks lie */
  prepare(sampleRate: number, machine: Machine): void
  /**
   * Takes parameters in their catalogue units. `immediate` jumps there; otherwise values glide without a click. A property and not a
   * method, so that a processor that wants other parameters than a model has is no processor of that model.
   */
  readonly set: (params: P, immediate: boolean) => void
  /** Advances smoothed parameters by one chunk. */
  tick(): void
  process(block: StereoBlock): void
  /** Forgets all sound; parameters stay. */
  reset(): void
  /**
   * While it is true `process` does nothing but ask the kernels, and in every chunk the same with the same numbers, until `set`, `send`,
   * `reset` or `ahead`: the engine may then repeat it without asking. What `tick` changes has to stand in the machine's memory.
   */
  readonly steady?: boolean
  /** While it is true `tick` does nothing either. */
  readonly still?: boolean
  /** Whether it hears the dry guitar beside its own sound. */
  readonly listens?: boolean
  /** Only processors with trails: opens or closes what feeds the effect, while its tail goes on. */
  send?(open: boolean, immediate: boolean): void
  /** Only processors that clip: from now on only what stands before their first clip sounds, to be measured. */
  ahead?(): void
}

/** Sums a stereo block to mono at half level, for processors that have one input. */
export function foldToMono(block: StereoBlock): void {
  if (!block.stereo) return
  block.machine.kernel.fold(block.leftAt, block.leftAt, block.rightAt)
  block.stereo = false
}

/** Makes a mono block stereo with both sides alike. */
export function spreadToStereo(block: StereoBlock): void {
  if (block.stereo) return
  block.machine.kernel.copy(block.rightAt, 0, block.leftAt, 0)
  block.stereo = true
}

/** Frames of a sound from `start` on into a chunk, which runs on into silence. */
export function take(from: Float32Array, start: number, count: number, to: Float32Array): void {
  for (let i = 0; i < count; i++) to[i] = from[start + i]
  for (let i = count; i < CHUNK; i++) to[i] = 0
}

/** A chunk into a sound. */
export function give(from: Float32Array, to: Float32Array, start: number, count: number): void {
  for (let i = 0; i < count; i++) to[start + i] = from[i]
}
