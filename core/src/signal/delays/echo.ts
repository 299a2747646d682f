import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { MAX_DELAY_MS } from './delay'
import { Lfo } from '../base/lfo'
import { takeHalfBands } from '../clipping/clipping'
import { setMix } from '../base/mix'
import { onePoleCoefficient } from '../base/onePole'
import { ringSize } from '../base/ring'
import type { Machine, Pointer } from '../kernel/machine'
import { Glides, putMoving, Smooth } from '../base/smooth'

/** One line's knobs. */
export interface EchoLineSettings {
  /** ms. */
  time: number
  /** %. */
  feedback: number
  /** Hz, first order, in the loop. */
  lowCut: number
  highCut: number
  /** −100 … 100. */
  pan: number
  /** Level of this line, factor. */
  level: number
  /** Hz and ms of a slow swing of the time. */
  rate: number
  swing: number
  /** %: how far each repeat is smeared; none where absent. */
  diffusion?: number
}

export interface EchoSettings {
  readonly lines: readonly EchoLineSettings[]
  /** Share of each line's feedback that goes to the other line: 0 two lines, 1 ping-pong. */
  readonly cross: number
  /** Hz and ms of a fast, small swing of all times. */
  readonly flutterRate: number
  readonly flutter: number
  /** dB into the loop's soft saturation above its headroom; null: no saturation. */
  readonly drive: number | null
  /** dB that the repeats go down while the player plays. */
  readonly ducking: number
  /** %. */
  readonly mix: number
}

/**
 * Delay with two lines whose times glide like a tape's, with cuts, swing, diffusion and oversampled saturation in the loop, feedback
 * straight or across, and ducking: tape, bucket brigade, dual, ping-pong and diffused. Each line hears the sum of both sides. Trails.
 * Sources: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2; Raffel & Smith, DAFx-10 (bucket brigade: band limit, companding). The lines run in
 * core/kernel/effects/echo.ts.
 */
export class Echo<P> implements Processor<P> {
  readonly latency = 0
  readonly steady = true
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly cross = this.glides.add()
  private readonly input = this.glides.fade()
  private readonly fast = new Lfo()
  private readonly lines = [new Line(), new Line()]
  private machine: Machine | null = null
  private at: Pointer = 0
  private numbers = new Float64Array(PEAK + 1)
  private readonly drive = this.glides.add(0.06)
  private saturates = false
  private duckDb = 0
  private flutter = 0
  private follower = 0
  /** Moves by itself: it follows what the tick has heard. */
  private readonly duck = new Smooth()
  private fall = 0
  private rate = 48_000
  private count = 1

  constructor(private readonly read: (p: P) => EchoSettings) {}

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.machine = machine
    takeHalfBands(machine)
    const { kernel } = machine
    this.at = machine.make(() => kernel.echoCreate(ringSize(Math.ceil(((MAX_DELAY_MS + 30) / 1000) * sampleRate))))
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, PEAK + 1)))
    this.duck.prepare(sampleRate, 0.03)
    this.duck.set(1, true)
    this.fast.prepare(sampleRate, 0.31)
    this.fall = 1 - Math.exp(-CHUNK / (0.25 * sampleRate))
    this.lines.forEach((line, k) => line.prepare(sampleRate, k / 2, kernel.echoLineAt(this.at, k), machine))
  }

  set(p: P, immediate: boolean): void {
    const s = this.read(p)
    setMix(this.mix, s.mix, immediate)
    this.cross.set(s.cross, immediate)
    this.count = s.lines.length
    s.lines.forEach((line, k) => this.lines[k].set(line, this.rate, immediate))
    this.fast.set(s.flutterRate, 'sine')
    this.flutter = (s.flutter / 1000) * this.rate
    this.saturates = s.drive !== null
    this.drive.set(Math.pow(10, (s.drive ?? 0) / 20), immediate)
    this.duckDb = s.ducking
  }

  send(open: boolean, immediate: boolean): void {
    this.input.set(open, immediate)
  }

  tick(): void {
    this.glides.tick()
    this.fast.tick()
    for (const line of this.lines) line.tick(this.rate)
    // the follower falls slowly, so that the repeats come up between phrases
    this.follower = Math.max(this.numbers[PEAK], this.follower * (1 - this.fall))
    this.numbers[PEAK] = 0
    const open = Math.min(1, Math.max(0, (20 * Math.log10(this.follower + 1e-9) + 50) / 30))
    this.duck.set(Math.pow(10, (-this.duckDb * open) / 20), false)
    this.duck.tick()
    const { dry, wet } = this.mix
    const { numbers } = this
    putMoving(numbers, 0, dry)
    putMoving(numbers, 1, wet)
    putMoving(numbers, 2, this.cross)
    putMoving(numbers, 3, this.input)
    putMoving(numbers, 4, this.duck)
    putMoving(numbers, 5, this.drive)
    putMoving(numbers, 6, this.fast, this.flutter)
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    this.machine?.kernel.echoProcess(this.at, block.leftAt, block.rightAt, this.count > 1 ? 1 : 0, this.saturates ? 1 : 0)
  }

  reset(): void {
    this.machine?.kernel.echoReset(this.at)
    for (const line of this.lines) line.reset()
    this.fast.reset()
    this.follower = this.numbers[PEAK] = 0
  }
}

/** What glides of both lines, and of each, in the order of the kernel's structs. */
const ECHO = ['dry', 'wet', 'cross', 'open', 'duck', 'drive', 'flutter'] as const
const LINE = ['feedback', 'level', 'pan', 'time', 'swing', 'lfo', 'smear'] as const
/** Behind what glides of both stands the largest magnitude of what the lines have heard since it was asked for. */
const PEAK = 2 * ECHO.length
/** Behind what glides stand the coefficients of the cuts. */
const LOW = 2 * LINE.length
const HIGH = LOW + 1

/** Lengths of the diffusers, mutually inharmonic. */
const DIFFUSERS_MS = [13.7, 21.3, 31.1, 7.9]

class Line {
  private readonly glides = new Glides()
  private readonly feedback = this.glides.add()
  private readonly level = this.glides.add()
  private readonly pan = this.glides.add()
  private readonly lfo = new Lfo()
  private readonly swing = this.glides.add()
  private readonly time = this.glides.add(0.12)
  private readonly lowCut = this.glides.add()
  private readonly highCut = this.glides.add()
  private readonly smear = this.glides.add()
  private numbers = new Float64Array(HIGH + 1)

  /** @param phase where in its period the swing begins, 0–1 @param at where the line lies in the machine */
  prepare(sampleRate: number, phase: number, at: Pointer, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.lfo.prepare(sampleRate, phase)
    DIFFUSERS_MS.forEach((ms, k) => {
      const frames = Math.round((ms / 1000) * sampleRate)
      machine.make((kernel) => {
        kernel.echoDiffuser(at, k, ringSize(frames), frames)
        return at
      })
    })
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, at, HIGH + 1)))
  }

  set(p: EchoLineSettings, rate: number, immediate: boolean): void {
    this.time.set(Math.max(4, (p.time / 1000) * rate), immediate)
    this.lfo.set(p.rate, 'sine')
    this.swing.set((p.swing / 1000) * rate, immediate)
    this.feedback.set(p.feedback / 100, immediate)
    this.level.set(p.level, immediate)
    this.pan.set(p.pan / 100, immediate)
    this.lowCut.set(p.lowCut, immediate)
    this.highCut.set(p.highCut, immediate)
    this.smear.set((p.diffusion ?? 0) / 100, immediate)
  }

  tick(rate: number): void {
    this.lfo.tick()
    this.glides.tick()
    const { numbers } = this
    if (this.lowCut.moving) numbers[LOW] = onePoleCoefficient(this.lowCut.value, rate)
    if (this.highCut.moving) numbers[HIGH] = onePoleCoefficient(this.highCut.value, rate)
    putMoving(numbers, 0, this.feedback)
    putMoving(numbers, 1, this.level)
    putMoving(numbers, 2, this.pan)
    putMoving(numbers, 3, this.time)
    putMoving(numbers, 4, this.swing)
    putMoving(numbers, 5, this.lfo)
    putMoving(numbers, 6, this.smear)
  }

  reset(): void {
    this.lfo.reset()
  }
}
