import type { BuildContext, StageModel } from '@fulgor/core/catalogue'
import type { ParamMap, ResolvedStage } from '@fulgor/core/preset'
import { CHUNK, createBlock, dbToGain, Fade, Smooth, spreadToStereo, type Processor, type StereoBlock } from '@fulgor/core/signal'
import { FrameDelay } from './frameDelay'
import type { Runner } from './runner'

/** Below this a stage's input and output count as silence: −200 dBFS. */
const SILENT = 1e-10
/** Silence for as long as the longest memory of any processor (a reversed piece of 2 s, heard within 4) puts a stage to sleep, s. */
const SLEEP_AFTER = 4.3

/**
 * One stage: its processor and level, the click-free bypass (or, with trails, the opened and closed send), the crossfade to a
 * second instance when a choice changes that cannot glide, and sleep in silence. Sleep is decided on the control grid and begins with
 * a reset, so that samples do not depend on the host's block size.
 */
export class StageRunner implements Runner {
  readonly latency: number
  private current: Processor
  private incoming: Processor | null = null
  private spare: Processor | null = null
  private params: ParamMap = {}
  private on = true
  /** The tail goes on while it is off: its send is closed instead of a bypass opened. */
  private trailing = false
  private queued: ParamMap | null = null
  private readonly bypass = new Fade(true)
  private readonly inlet = new Fade(true)
  private readonly swap = new Fade(true)
  private readonly level = new Smooth()
  /** What passes it while it is off is turned by this. */
  private readonly pass = new Smooth()
  private readonly dryDelay: FrameDelay
  private readonly dry = createBlock()
  private readonly old = createBlock()
  private readonly swapKeys: readonly string[]
  private guard = 1e-18
  private readonly sleepChunks: number
  private quietChunks = 0
  /** Something was heard since the last tick. */
  private sounding = false
  private asleep = false
  private leavesStereo = false

  constructor(
    readonly id: string,
    private readonly model: StageModel,
    private readonly context: BuildContext,
    private readonly sampleRate: number,
  ) {
    this.current = this.create()
    this.latency = this.current.latency
    this.dryDelay = new FrameDelay(this.latency)
    this.bypass.prepare(sampleRate)
    this.inlet.prepare(sampleRate)
    this.level.prepare(sampleRate)
    this.pass.prepare(sampleRate)
    this.swap.prepare(sampleRate, 0.02)
    this.sleepChunks = Math.ceil((SLEEP_AFTER * sampleRate) / CHUNK)
    this.swapKeys = Object.entries(model.params).flatMap(([key, spec]) => (spec.kind === 'choice' && spec.change === 'swap' ? [key] : []))
  }

  private create(): Processor {
    const processor = this.model.build(this.context)
    processor.prepare(this.sampleRate)
    return processor
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    const wanted = values[this.id]
    const gain = dbToGain(Number(wanted.params.level))
    const passing = dbToGain(wanted.passDb ?? 0)
    this.pass.set(passing, immediate)
    this.trailing = this.current.send !== undefined && wanted.params.trails !== 'off'
    if (this.trailing) {
      for (const processor of [this.current, this.incoming]) processor?.send?.(wanted.on, immediate)
      this.bypass.set(true, immediate)
      this.level.set(wanted.on ? gain : passing, immediate)
    } else {
      // what slept while off wakes from silence
      const wakes = wanted.on && this.bypass.shut && !immediate
      if (wakes) {
        this.current.reset()
        this.current.set(wanted.params, true)
      }
      if (wakes) {
        // what has a memory would else begin in the middle of the sound
        this.inlet.set(false, true)
        this.inlet.set(true, false)
      }
      if (wanted.on) for (const processor of [this.current, this.incoming]) processor?.send?.(true, immediate || wakes)
      this.bypass.set(wanted.on, immediate)
      this.level.set(gain, immediate || wakes)
    }
    const needsSwap = !immediate && this.swapKeys.some((key) => wanted.params[key] !== this.params[key])
    this.params = wanted.params
    this.on = wanted.on
    if (!needsSwap) (this.incoming ?? this.current).set(wanted.params, immediate)
    else if (this.incoming) this.queued = wanted.params
    else this.startSwap(wanted.params)
  }

  private startSwap(params: ParamMap): void {
    const next = this.spare ?? this.create()
    this.spare = null
    next.reset()
    next.set(params, true)
    next.send?.(this.on || !this.trailing, true)
    this.incoming = next
    this.swap.set(false, true)
    this.swap.set(true, false)
  }

  tick(): void {
    this.guard = -this.guard
    this.bypass.tick()
    this.inlet.tick()
    this.level.tick()
    this.pass.tick()
    if (this.incoming) {
      if (this.swap.open) {
        this.spare = this.current
        this.current = this.incoming
        this.incoming = null
        if (this.queued) {
          const params = this.queued
          this.queued = null
          this.startSwap(params)
        }
      }
      this.swap.tick()
      this.incoming?.tick()
    }
    this.current.tick()
    this.countSilence()
  }

  private countSilence(): void {
    this.quietChunks = this.sounding ? 0 : this.quietChunks + 1
    this.sounding = false
    if (this.asleep || this.incoming || this.quietChunks < this.sleepChunks) return
    this.current.reset()
    this.asleep = true
  }

  process(block: StereoBlock, frames: number): void {
    const { left, right, at } = block
    if (this.trailing && this.bypass.open) {
      this.run(block, frames)
      return
    }
    if (this.bypass.shut) {
      if (this.model.silentWhenOff) silence(block, frames)
      else this.passBy(block, frames)
      return
    }
    if (this.bypass.open && this.latency === 0) {
      this.run(block, frames)
      return
    }
    const { dry, bypass } = this
    copyBlock(block, dry, frames)
    if (this.model.silentWhenOff) silence(dry, frames)
    else this.passBy(dry, frames)
    this.run(block, frames)
    if (bypass.open) return
    if (block.stereo) spreadToStereo(dry, frames)
    for (let i = 0; i < frames; i++) {
      const wet = bypass.value + (at + i) * bypass.step
      left[i] = wet * left[i] + (1 - wet) * dry.left[i]
      if (block.stereo) right[i] = wet * right[i] + (1 - wet) * dry.right[i]
    }
  }

  /** The processor, or both during a swap, and the stage's level. */
  private run(block: StereoBlock, frames: number): void {
    this.sounding ||= isHeard(block, frames)
    if (this.asleep && !this.sounding) {
      silence(block, frames)
      block.stereo = this.leavesStereo
      return
    }
    this.asleep = false
    this.sound(block, frames)
    this.leavesStereo = block.stereo
    this.sounding ||= isHeard(block, frames)
  }

  private sound(block: StereoBlock, frames: number): void {
    const { left, right, at } = block
    // a value far below hearing keeps decaying filters out of the denormal range
    for (let i = 0; i < frames; i++) left[i] += this.guard
    if (block.stereo) for (let i = 0; i < frames; i++) right[i] += this.guard
    const { inlet } = this
    if (!inlet.open) {
      for (let i = 0; i < frames; i++) left[i] *= inlet.value + (at + i) * inlet.step
      if (block.stereo) for (let i = 0; i < frames; i++) right[i] *= inlet.value + (at + i) * inlet.step
    }
    if (this.incoming) this.runBoth(this.incoming, block, frames)
    else this.current.process(block, frames)
    turn(block, this.level, frames)
  }

  /** What is heard of its input while it is off, as late as its own sound would be. */
  private passBy(block: StereoBlock, frames: number): void {
    this.dryDelay.process(block, frames)
    turn(block, this.pass, frames)
  }

  private runBoth(incoming: Processor, block: StereoBlock, frames: number): void {
    const { left, right, at } = block
    const { old, swap } = this
    copyBlock(block, old, frames)
    this.current.process(old, frames)
    incoming.process(block, frames)
    if (block.stereo) spreadToStereo(old, frames)
    else if (old.stereo) spreadToStereo(block, frames)
    for (let i = 0; i < frames; i++) {
      const share = swap.value + (at + i) * swap.step
      left[i] = share * left[i] + (1 - share) * old.left[i]
      if (block.stereo) right[i] = share * right[i] + (1 - share) * old.right[i]
    }
  }

  reset(): void {
    this.current.reset()
    this.dryDelay.reset()
    this.asleep = false
    this.quietChunks = 0
    this.sounding = false
  }
}

/** Multiplies a block by a gliding gain. */
function turn(block: StereoBlock, { value, step }: Smooth, frames: number): void {
  if (value === 1 && step === 0) return
  const { left, right, at } = block
  for (let i = 0; i < frames; i++) left[i] *= value + (at + i) * step
  if (block.stereo) for (let i = 0; i < frames; i++) right[i] *= value + (at + i) * step
}

/** Ends at the first sample above silence, so that it costs nothing while there is sound. */
function isHeard({ left, right, stereo }: StereoBlock, frames: number): boolean {
  for (let i = 0; i < frames; i++) if (Math.abs(left[i]) > SILENT) return true
  if (stereo) for (let i = 0; i < frames; i++) if (Math.abs(right[i]) > SILENT) return true
  return false
}

function copyBlock(from: StereoBlock, to: StereoBlock, frames: number): void {
  to.stereo = from.stereo
  to.at = from.at
  to.key = from.key
  for (let i = 0; i < frames; i++) to.left[i] = from.left[i]
  if (from.stereo) for (let i = 0; i < frames; i++) to.right[i] = from.right[i]
}

function silence(block: StereoBlock, frames: number): void {
  for (let i = 0; i < frames; i++) block.left[i] = block.right[i] = 0
}
