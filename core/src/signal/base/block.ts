/** Frames between two control ticks: parameters move on this grid, counted from the first frame, whatever the host's block. */
export const CHUNK = 64

/** Up to {@link CHUNK} frames of sound, full scale ±1. `right` is meaningful only while `stereo` is true. */
export interface StereoBlock {
  readonly left: Float64Array
  readonly right: Float64Array
  /** The dry guitar at the same frames, for side-chains; only to be read. */
  key: Float64Array
  stereo: boolean
  /** Frames of the current chunk that lie before this block: smoothed values are `value + (at + i) · step`. */
  at: number
}

export type ParamValue = number | string
export type ParamValues = Readonly<Record<string, ParamValue>>

export function createBlock(): StereoBlock {
  const left = new Float64Array(CHUNK)
  return { left, right: new Float64Array(CHUNK), key: left, stereo: false, at: 0 }
}

/**
 * One stage's sound. Life: construct, `prepare`, `set(…, true)`, then `tick` at every CHUNK-th frame and `process` for the
 * frames, one to CHUNK, up to the next tick. `tick` and `process` allocate nothing.
 */
export interface Processor<P = ParamValues> {
  /** Delay of the processed sound in frames, once prepared. */
  readonly latency: number
  prepare(sampleRate: number): void
  /**
   * Takes parameters in their catalogue units. `immediate` jumps there; otherwise values glide without a click. A property and not a
   * method, so that a processor that wants other parameters than a model has is no processor of that model.
   */
  readonly set: (params: P, immediate: boolean) => void
  /** Advances smoothed parameters by one chunk. */
  tick(): void
  process(block: StereoBlock, frames: number): void
  /** Forgets all sound; parameters stay. */
  reset(): void
  /** Only processors with trails: opens or closes what feeds the effect, while its tail goes on. */
  send?(open: boolean, immediate: boolean): void
}

/** Sums a stereo block to mono at half level, for processors that have one input. */
export function foldToMono(block: StereoBlock, frames: number): void {
  if (!block.stereo) return
  const { left, right } = block
  for (let i = 0; i < frames; i++) left[i] = 0.5 * (left[i] + right[i])
  block.stereo = false
}

/** Makes a mono block stereo with both sides alike. */
export function spreadToStereo(block: StereoBlock, frames: number): void {
  if (block.stereo) return
  const { left, right } = block
  for (let i = 0; i < frames; i++) right[i] = left[i]
  block.stereo = true
}
