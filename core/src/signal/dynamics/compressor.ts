import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import { Glides } from '../base/smooth'

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

const LOG = 20 / Math.LN10

/** Half a period of 40 Hz. */
const HOLD_S = 0.0125

/**
 * Compressor: level detector, static curve, smoothing of the gain reduction in dB, one gain for both sides.
 * `peak`: branching smoother in the log domain, on peaks held for {@link HOLD_S} so that a low note's period does not let go between
 * its crests. `rms`: mean square over up to 10 ms first. `optical`: after a long reduction the second,
 * slower half of the release takes over. Source: Giannoulis, Massberg, Reiss, JAES 2012 (log-domain, smooth branching).
 */
export class Compressor<P> implements Processor<P> {
  readonly latency = 0
  /** Present reduction, dB (positive). */
  reduction = 0
  private readonly glides = new Glides()
  private readonly dry = this.glides.add()
  private readonly wet = this.glides.add()
  private rate = 48_000
  private settings: CompressorSettings = { threshold: 0, ratio: 1, knee: 0, attack: 10, release: 100, makeup: 0, mix: 100 }
  private attack = 0
  private release = 0
  private slow = 0
  private memory = 0
  private memoryStep = 0
  private square = 0
  private squareStep = 0
  private held = 0
  private holding = 0
  private holdFrames = 0
  private heldStep = 0

  constructor(
    private readonly detector: Detector,
    private readonly read: (p: P) => CompressorSettings,
  ) {}

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.heldStep = 1 - Math.exp(-1 / (0.004 * sampleRate))
    this.memoryStep = 1 - Math.exp(-1 / (0.8 * sampleRate))
  }

  set(p: P, immediate: boolean): void {
    const s = this.read(p)
    this.settings = s
    const coefficient = (ms: number) => Math.exp(-1000 / (Math.max(0.02, ms) * this.rate))
    // the mean takes a part of the attack: what is left of it smooths the reduction, so that both together last as long as they say
    const mean = this.detector === 'rms' ? Math.min(10, s.attack / 3) : 0
    this.squareStep = mean > 0 ? 1 - Math.exp(-1000 / (mean * this.rate)) : 1
    this.attack = coefficient(s.attack - 0.5 * mean)
    // likewise the hold is a part of the release
    const hold = this.detector === 'rms' ? 0 : Math.min(1000 * HOLD_S, s.release / 2)
    this.holdFrames = Math.round((hold / 1000) * this.rate)
    this.release = coefficient(s.release - hold)
    this.slow = coefficient(s.release * 8)
    const share = s.mix / 100
    this.wet.set(share * Math.pow(10, s.makeup / 20), immediate)
    this.dry.set(1 - share, immediate)
  }

  /** Thresholds and times act at once: they only move where the reduction goes, which is smoothed itself. */
  tick(): void {
    this.glides.tick()
  }

  process(block: StereoBlock): void {
    const { left, right, stereo } = block
    const { dry, wet, attack, release, slow, detector, memoryStep, squareStep } = this
    const { threshold, ratio, knee } = this.settings
    let { reduction, memory, square, held, holding } = this
    const { holdFrames, heldStep } = this
    for (let i = 0; i < CHUNK; i++) {
      const magnitude = stereo ? Math.max(Math.abs(left[i]), Math.abs(right[i])) : Math.abs(left[i])
      let level: number
      if (detector === 'rms') {
        square += squareStep * (magnitude * magnitude - square)
        level = 0.5 * LOG * Math.log(square + 1e-12)
      } else {
        if (magnitude >= held) {
          held = magnitude
          holding = holdFrames
        } else if (holding > 0) holding--
        else held += heldStep * (magnitude - held)
        level = LOG * Math.log(held + 1e-6)
      }
      const wanted = level - staticCurve(level, threshold, ratio, knee)
      if (wanted > reduction) reduction = attack * reduction + (1 - attack) * wanted
      else {
        // the photocell that was lit long darkens slowly
        const rate = detector === 'optical' ? release + (slow - release) * Math.min(1, memory / 8) : release
        reduction = rate * reduction + (1 - rate) * wanted
      }
      memory += memoryStep * (reduction - memory)
      const gain = dry.value + i * dry.step + (wet.value + i * wet.step) * Math.exp(reduction * -0.1151292546497023)
      left[i] *= gain
      if (stereo) right[i] *= gain
    }
    this.reduction = reduction
    this.memory = memory
    this.square = square
    this.held = held
    this.holding = holding
  }

  reset(): void {
    this.reduction = this.memory = this.square = this.held = this.holding = 0
  }
}
