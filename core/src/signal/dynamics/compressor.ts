import { rightOf, type Processor, type StereoBlock } from '../base/block'
import { Glides } from '../base/smooth'
import type { Machine, Pointer } from '../kernel/machine'

/** What a compressor's curve and times need, in the units of the catalogue. */
export interface CompressorSettings {
  /** dBFS. */
  threshold: number
  ratio: number
  /** dB, full width. */
  knee: number
  /** ms. */
  attack: number
  release: number
  /** dB. */
  makeup: number
  /** % of the compressed signal; the dry one takes the rest. */
  mix: number
}

/**
 * Static curve of a feed-forward compressor: output level over input level, dB.
 * Source: Giannoulis, Massberg, Reiss, JAES 2012, equation 4 (soft knee of width `knee`).
 */
export function staticCurve(level: number, threshold: number, ratio: number, knee: number): number {
  const over = level - threshold
  if (2 * over < -knee) return level
  if (2 * Math.abs(over) <= knee && knee > 0) return level + ((1 / ratio - 1) * (over + knee / 2) ** 2) / (2 * knee)
  return threshold + over / ratio
}

/** How the detector follows the level. */
export type Detector = 'peak' | 'rms' | 'optical'

/** Half a period of 40 Hz. */
const HOLD_S = 0.0125

/**
 * Compressor: level detector, static curve, smoothing of the gain reduction in dB, one gain for both sides.
 * `peak`: branching smoother in the log domain, on peaks held for {@link HOLD_S} so that a low note's period does not let go between
 * its crests. `rms`: mean square over up to 10 ms first. `optical`: after a long reduction the second,
 * slower half of the release takes over. Source: Giannoulis, Massberg, Reiss, JAES 2012 (log-domain, smooth branching). It runs in
 * core/kernel/effects/compressor.ts.
 */
export class Compressor<P> implements Processor<P> {
  readonly latency = 0
  readonly steady = true
  private readonly glides = new Glides()
  private readonly dry = this.glides.add()
  private readonly wet = this.glides.add()
  private rate = 48_000
  private machine: Machine | null = null
  private at: Pointer = 0
  /** What the kernel is told and remembers, in the order of its struct. */
  private numbers = new Float64Array(MEMORY + 5)

  constructor(
    private readonly detector: Detector,
    private readonly read: (p: P) => CompressorSettings,
  ) {}

  get still(): boolean {
    return this.glides.still
  }

  /** Present reduction, dB (positive). */
  get reduction(): number {
    return this.numbers[MEMORY]
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.machine = machine
    this.at = machine.make((kernel) => kernel.compressorCreate())
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, MEMORY + 5)))
    this.numbers[HELD_STEP] = 1 - Math.exp(-1 / (0.004 * sampleRate))
    this.numbers[MEMORY_STEP] = 1 - Math.exp(-1 / (0.8 * sampleRate))
  }

  set(p: P, immediate: boolean): void {
    const s = this.read(p)
    const { numbers } = this
    numbers[THRESHOLD] = s.threshold
    numbers[SLOPE] = 1 - 1 / s.ratio
    numbers[KNEE] = s.knee
    const coefficient = (ms: number) => Math.exp(-1000 / (Math.max(0.02, ms) * this.rate))
    // the mean takes a part of the attack: what is left of it smooths the reduction, so that both together last as long as they say
    const mean = this.detector === 'rms' ? Math.min(10, s.attack / 3) : 0
    numbers[SQUARE_STEP] = mean > 0 ? 1 - Math.exp(-1000 / (mean * this.rate)) : 1
    numbers[ATTACK] = coefficient(s.attack - 0.5 * mean)
    // likewise the hold is a part of the release
    const hold = this.detector === 'rms' ? 0 : Math.min(1000 * HOLD_S, s.release / 2)
    numbers[HOLD_FRAMES] = Math.round((hold / 1000) * this.rate)
    numbers[RELEASE] = coefficient(s.release - hold)
    numbers[SLOW] = coefficient(s.release * 8)
    const share = s.mix / 100
    this.wet.set(share * Math.pow(10, s.makeup / 20), immediate)
    this.dry.set(1 - share, immediate)
  }

  /** Thresholds and times act at once: they only move where the reduction goes, which is smoothed itself. */
  tick(): void {
    this.glides.tick()
    const { numbers, dry, wet } = this
    numbers[DRY] = dry.value
    numbers[DRY + 1] = dry.step
    numbers[WET] = wet.value
    numbers[WET + 1] = wet.step
  }

  process(block: StereoBlock): void {
    this.machine?.kernel.compressorProcess(this.at, block.leftAt, rightOf(block), DETECTORS[this.detector])
  }

  reset(): void {
    this.numbers.fill(0, MEMORY)
  }
}

const DETECTORS: Record<Detector, number> = { peak: 0, rms: 1, optical: 2 }

const [THRESHOLD, SLOPE, KNEE, ATTACK, RELEASE, SLOW, MEMORY_STEP, SQUARE_STEP, HELD_STEP, HOLD_FRAMES, DRY, WET, MEMORY] = [
  0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 12, 14,
]
