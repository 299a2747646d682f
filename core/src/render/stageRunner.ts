import type { BuildContext, StageModel } from '@fulgor/core/catalogue'
import type { ParamMap, ResolvedStage } from '@fulgor/core/preset'
import {
  CHUNK,
  createBlock,
  dbToGain,
  Glides,
  rightOf,
  spreadToStereo,
  type Machine,
  type Pointer,
  type Processor,
  type StereoBlock,
} from '@fulgor/core/signal'
import { FrameDelay } from './frameDelay'
import type { Passing, Runner } from './runner'

/** Silence for as long as the longest memory of any processor (a reversed piece of 2 s, heard within 4) puts a stage to sleep, s. */
const SLEEP_AFTER = 4.3

/** Steps of a row that no stage goes beyond. */
const MOST_STEPS = 40

/** Chunks that a stage must have been left alone to be repeated: a source moves it every other chunk, and its row would be laid anew each time. */
const REST_CHUNKS = 16

/** Failures after which a stage stays mute. */
const MOST_FAILURES = 8

/**
 * One stage: its processor and level, the click-free bypass (or, with trails, the opened and closed send), the crossfade to a
 * second instance when a choice changes that cannot glide, and sleep in silence. Sleep is decided on the control grid and begins with
 * a reset, so that samples do not depend on the host's block size.
 */
export class StageRunner implements Runner {
  readonly latency: number
  /** It hears the dry guitar. */
  readonly listens: boolean
  readonly steps = MOST_STEPS
  private current: Processor
  private incoming: Processor | null = null
  private spare: Processor | null = null
  private params: ParamMap = {}
  private on = true
  /** The tail goes on while it is off: its send is closed instead of a bypass opened. */
  private trailing = false
  private queued: ParamMap | null = null
  private readonly glides = new Glides()
  private readonly bypass = this.glides.fade()
  private readonly inlet = this.glides.fade()
  private readonly swap = this.glides.fade(0.02)
  private readonly level = this.glides.add()
  /** What passes it while it is off is turned by this. */
  private readonly pass = this.glides.add()
  private readonly dryDelay: FrameDelay
  private readonly dry: StereoBlock
  private readonly old: StereoBlock
  private readonly swapKeys: readonly string[]
  /** What the machine knows of it: core/kernel/stage.ts. */
  private readonly at: Pointer
  private readonly sleepChunks: number
  private passage: Passing | null = null
  /** Where its steps lie in a row. */
  private firstStep = 0
  private lastStep = 0
  /** Chunks until it counts as left alone. */
  private restless = 0
  private asleep = false
  private leavesStereo = false
  /** It has failed, and is mute until its values change. */
  private broken = false
  private failures = 0

  constructor(
    readonly id: string,
    private readonly model: StageModel,
    private readonly context: BuildContext,
    private readonly sampleRate: number,
    private readonly machine: Machine,
  ) {
    this.dry = createBlock(machine)
    this.old = createBlock(machine)
    this.current = this.create()
    this.latency = this.current.latency
    this.listens = this.current.listens === true
    this.dryDelay = new FrameDelay(this.latency, machine)
    this.glides.prepare(sampleRate)
    this.sleepChunks = Math.ceil((SLEEP_AFTER * sampleRate) / CHUNK)
    this.at = machine.make((kernel) => kernel.stageCreate(this.sleepChunks))
    this.swapKeys = Object.entries(model.params).flatMap(([key, spec]) => (spec.kind === 'choice' && spec.change === 'swap' ? [key] : []))
  }

  private create(): Processor {
    const processor = this.model.build(this.context)
    processor.prepare(this.sampleRate, this.machine)
    return processor
  }

  get steady(): boolean {
    const { bypass, current } = this
    if (this.broken || this.incoming || this.restless > 0 || !this.glides.still) return false
    // what is off only lets pass
    return bypass.shut || (!this.asleep && current.steady === true)
  }

  get still(): boolean {
    return this.current.still === true
  }

  join(passage: Passing): void {
    this.passage = passage
  }

  /** Other chunks than those that a passage has taken down. */
  private leave(): void {
    this.passage?.end()
    this.passage = null
  }

  apply(values: Readonly<Record<string, ResolvedStage>>, immediate: boolean): void {
    this.leave()
    if (!immediate) this.restless = REST_CHUNKS
    const wanted = values[this.id]
    if (this.broken) this.mend(wanted)
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

  /** See {@link Processor.ahead}. */
  ahead(): void {
    this.leave()
    this.current.ahead?.()
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

  /** What has failed begins anew with other values, or when it is switched; a source that keeps moving it does not try for ever. */
  private mend({ on, params }: ResolvedStage): void {
    const same = on === this.on && Object.entries(params).every(([key, value]) => this.params[key] === value)
    if (same || (on && this.failures >= MOST_FAILURES)) return
    this.current = this.create()
    this.current.set(params, true)
    this.incoming = this.spare = this.queued = null
    this.broken = false
  }

  /** Without anybody to be told, a failure goes on. */
  private fail(error: unknown): void {
    const { failed } = this.context
    if (!failed) throw error
    this.leave()
    this.broken = true
    this.failures++
    failed(this.id, error)
  }

  failAt(step: Pointer, error: unknown): boolean {
    if (step < this.firstStep || step >= this.lastStep) return false
    this.fail(error)
    return true
  }

  tick(): void {
    try {
      this.current.tick()
    } catch (error) {
      this.fail(error)
    }
  }

  private advance(): void {
    const quiet = this.machine.kernel.stageBegin(this.at)
    this.glides.tick()
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
      this.incoming?.tick()
    }
    this.current.tick()
    if (this.asleep || this.incoming || quiet < this.sleepChunks) return
    this.current.reset()
    this.asleep = true
  }

  process(block: StereoBlock): void {
    const { machine } = this
    if (machine.isNoting) this.firstStep = machine.nextStep
    if (this.restless > 0) this.restless--
    if (!this.broken)
      try {
        this.advance()
        this.sound(block)
      } catch (error) {
        this.fail(error)
      }
    if (this.broken) silence(block)
    if (machine.isNoting) this.lastStep = machine.nextStep
  }

  private sound(block: StereoBlock): void {
    if (this.trailing && this.bypass.open) {
      this.run(block)
      return
    }
    if (this.bypass.shut) {
      if (this.model.silentWhenOff) silence(block)
      else this.passBy(block)
      return
    }
    if (this.bypass.open && this.latency === 0) {
      this.run(block)
      return
    }
    const { dry, bypass } = this
    if (bypass.open) {
      this.dryDelay.keep(block)
      this.run(block)
      return
    }
    this.copyBlock(block, dry)
    if (this.model.silentWhenOff) silence(dry)
    else this.passBy(dry)
    this.run(block)
    if (block.stereo) spreadToStereo(dry)
    this.machine.kernel.crossfade(block.leftAt, rightOf(block), dry.leftAt, dry.rightAt, bypass.value, bypass.step)
  }

  /** The processor, or both during a swap, and the stage's level. */
  private run(block: StereoBlock): void {
    const { inlet, level } = this
    const { kernel } = this.machine
    const heard = kernel.stageEnter(this.at, block.leftAt, rightOf(block)) !== 0
    if (this.asleep && !heard) {
      silence(block)
      block.stereo = this.leavesStereo
      return
    }
    this.asleep = false
    if (!inlet.open) kernel.turn(block.leftAt, rightOf(block), inlet.value, inlet.step)
    if (this.incoming) this.runBoth(this.incoming, block)
    else this.current.process(block)
    this.leavesStereo = block.stereo
    kernel.stageLeave(this.at, block.leftAt, rightOf(block), level.value, level.step)
  }

  /** What is heard of its input while it is off, as late as its own sound would be. */
  private passBy(block: StereoBlock): void {
    const { value, step } = this.pass
    this.dryDelay.process(block)
    if (value !== 1 || step !== 0) this.machine.kernel.turn(block.leftAt, rightOf(block), value, step)
  }

  private copyBlock(from: StereoBlock, to: StereoBlock): void {
    to.stereo = from.stereo
    to.key = from.key
    to.keyAt = from.keyAt
    this.machine.kernel.copy(to.leftAt, rightOf(to), from.leftAt, from.rightAt)
  }

  private runBoth(incoming: Processor, block: StereoBlock): void {
    const { old, swap } = this
    this.copyBlock(block, old)
    this.current.process(old)
    incoming.process(block)
    if (block.stereo) spreadToStereo(old)
    else if (old.stereo) spreadToStereo(block)
    this.machine.kernel.crossfade(block.leftAt, rightOf(block), old.leftAt, old.rightAt, swap.value, swap.step)
  }

  reset(): void {
    this.leave()
    this.current.reset()
    this.dryDelay.reset()
    this.asleep = false
    this.machine.kernel.stageReset(this.at)
  }
}

const silence = ({ machine, leftAt, rightAt }: StereoBlock): void => machine.kernel.silence(leftAt, rightAt)
