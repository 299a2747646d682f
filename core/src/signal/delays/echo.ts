import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { MAX_DELAY_MS } from './delay'
import { Lfo } from '../base/lfo'
import { LoopClip } from '../clipping/loopClip'
import { setMix } from '../base/mix'
import { onePoleCoefficient } from '../base/onePole'
import { Ring } from '../base/ring'
import { Glides, Smooth } from '../base/smooth'

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
 * Sources: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 2; Raffel & Smith, DAFx-10 (bucket brigade: band limit, companding).
 */
export class Echo<P> implements Processor<P> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly cross = this.glides.add()
  private readonly input = this.glides.fade()
  private readonly fast = new Lfo()
  private readonly lines = [new Line(), new Line()]
  private readonly drive = this.glides.add(0.06)
  private saturates = false
  private duckDb = 0
  private flutter = 0
  private follower = 0
  private peak = 0
  /** Moves by itself: it follows what the tick has heard. */
  private readonly duck = new Smooth()
  private fall = 0
  private rate = 48_000
  private count = 1

  constructor(private readonly read: (p: P) => EchoSettings) {}

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.duck.prepare(sampleRate, 0.03)
    this.duck.set(1, true)
    this.fast.prepare(sampleRate, 0.31)
    this.fall = 1 - Math.exp(-CHUNK / (0.25 * sampleRate))
    this.lines.forEach((line, k) => line.prepare(sampleRate, k / 2))
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
    this.follower = Math.max(this.peak, this.follower * (1 - this.fall))
    this.peak = 0
    const open = Math.min(1, Math.max(0, (20 * Math.log10(this.follower + 1e-9) + 50) / 30))
    this.duck.set(Math.pow(10, (-this.duckDb * open) / 20), false)
    this.duck.tick()
  }

  process(block: StereoBlock): void {
    spreadToStereo(block)
    const { left, right } = block
    const {
      mix: { dry, wet },
      cross,
      input,
      fast,
      duck,
      lines,
      count,
    } = this
    const [a, b] = lines
    const two = count > 1
    const { saturates } = this
    let { peak } = this
    for (let i = 0; i < CHUNK; i++) {
      const mono = 0.5 * (left[i] + right[i])
      peak = Math.max(peak, Math.abs(mono))
      const open = input.value + i * input.step
      const flutter = this.flutter * (fast.value + i * fast.step)
      const over = cross.value + i * cross.step
      const drive = saturates ? this.drive.value + i * this.drive.step : 0
      const ea = a.read(flutter, i, drive)
      const eb = two ? b.read(flutter, i, drive) : 0
      const fa = ea * (a.feedback.value + i * a.feedback.step)
      const fb = eb * (b.feedback.value + i * b.feedback.step)
      // across, the second line is fed by the first one alone, and every way from side to side costs the feedback once
      a.ring.push(mono * open + fa * (1 - over) + fb * over)
      if (two) b.ring.push(mono * open * (1 - over) + fb * (1 - over) + fa * over)
      const direct = (dry.value + i * dry.step) * open + 1 - open
      const level = (wet.value + i * wet.step) * (duck.value + i * duck.step)
      const la = ea * (a.level.value + i * a.level.step)
      const lb = eb * (b.level.value + i * b.level.step)
      const pa = a.pan.value + i * a.pan.step
      const pb = b.pan.value + i * b.pan.step
      left[i] = left[i] * direct + level * (la * Math.min(1, 1 - pa) + lb * Math.min(1, 1 - pb))
      right[i] = right[i] * direct + level * (la * Math.min(1, 1 + pa) + lb * Math.min(1, 1 + pb))
    }
    this.peak = peak
  }

  reset(): void {
    for (const line of this.lines) line.reset()
    this.fast.reset()
    this.follower = this.peak = 0
  }
}

/** Lengths of the diffusers, mutually inharmonic. */
const DIFFUSERS_MS = [13.7, 21.3, 31.1, 7.9]

class Line {
  ring = new Ring(1)
  private readonly glides = new Glides()
  readonly feedback = this.glides.add()
  readonly level = this.glides.add()
  readonly pan = this.glides.add()
  private readonly lfo = new Lfo()
  private readonly swing = this.glides.add()
  private readonly time = this.glides.add(0.12)
  private readonly lowCut = this.glides.add()
  private readonly highCut = this.glides.add()
  private low = 0
  private high = 0
  private lowState = 0
  private highState = 0
  private readonly clip = new LoopClip()
  private readonly smear = this.glides.add()
  private diffusers: Ring[] = []

  /** @param phase where in its period the swing begins, 0–1 */
  prepare(sampleRate: number, phase: number): void {
    this.glides.prepare(sampleRate)
    this.lfo.prepare(sampleRate, phase)
    this.diffusers = DIFFUSERS_MS.map((ms) => new Ring(Math.round((ms / 1000) * sampleRate)))
    this.ring = new Ring(Math.ceil(((MAX_DELAY_MS + 30) / 1000) * sampleRate))
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
    if (this.lowCut.moving) this.low = onePoleCoefficient(this.lowCut.value, rate)
    if (this.highCut.moving) this.high = onePoleCoefficient(this.highCut.value, rate)
  }

  /** The echo that is due now, saturated, smeared and cut; `flutter` frames later or earlier beside the line's own swing. */
  read(flutter: number, k: number, drive: number): number {
    const { lfo, swing, time } = this
    const bend = (swing.value + k * swing.step) * (lfo.value + k * lfo.step) + flutter
    const late = drive > 0 ? LoopClip.latency : 0
    const due = this.ring.between(Math.max(2, time.value + k * time.step + bend - late))
    const clipped = drive > 0 ? this.clip.process(due, drive) : due
    const x =
      this.smear.value > 0 || this.smear.step !== 0 ? this.diffuse(clipped, 0.7 * (this.smear.value + k * this.smear.step)) : clipped
    this.highState += this.high * (x - this.highState)
    this.lowState += this.low * (this.highState - this.lowState)
    return this.highState - this.lowState
  }

  /** Schroeder allpasses in a row: the repeat keeps its spectrum and loses its edge. */
  private diffuse(x: number, gain: number): number {
    let y = x
    for (const ring of this.diffusers) {
      const { buffer, mask, write, frames } = ring
      const delayed = buffer[(write - frames) & mask]
      const v = y - gain * delayed
      ring.push(v)
      y = delayed + gain * v
    }
    return y
  }

  reset(): void {
    this.ring.reset()
    this.clip.reset()
    for (const ring of this.diffusers) ring.reset()
    this.lfo.reset()
    this.lowState = this.highState = 0
  }
}
