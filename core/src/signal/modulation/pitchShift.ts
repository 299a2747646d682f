import { spreadToStereo, type Processor, type StereoBlock } from '../base/block'
import { setMix, type DryWet } from '../base/mix'
import type { Machine, Pointer } from '../kernel/machine'
import { onePoleCoefficient } from '../base/onePole'
import { ringSize } from '../base/ring'
import { Glides } from '../base/smooth'
import { dbToGain } from '../base/units'

export interface PitchShiftParams {
  /** Cents, −2400 to 1200. */
  cents: number
  /** Cents by which the right side is apart from the left. */
  apart: number
  /** Hz, first-order low-pass on the shifted voice. */
  tone: number
  /** Hz, first-order high-pass on the shifted voice; none where absent. */
  lowCut?: number
  /** dB of the dry sound and of the voice beside the mix. */
  dryLevel?: number
  wetLevel?: number
  /** %. */
  mix: number
}

/** Reading places: least distance behind the writing one, where a drift is ended, and how far a jump may look for a likeness, ms. */
const NEAR_MS = 2
const FAR_MS = 22
const SEARCH_MS = 15
/** Least length of a jump, ms. */
const JUMP_MS = 2
/** Small shifts drift slowly and stay close. */
const SMALL_CENTS = 60
const SMALL_FAR_MS = 12
/** Crossfade from one place to the next, ms. */
const FADE_MS = 5
const ONSET_FADE_MS = 1.5
/** For so long an attack is played as it is: it is heard once and at once, and the note behind it is shifted. */
const ATTACK_MS = 9
/** Least time from one onset to the next, ms. */
const REST_MS = 30
/** An onset: the level of 1 ms rises this far above that of the last 25. */
const ONSET_RATIO = 2.2
const ONSET_LEAST = 1e-3
/** How late the shifted voice is on average, ms; its attacks come after {@link NEAR_MS}. */
export const PITCH_LATENCY_MS = 9

/**
 * Time-domain pitch shifter: reads a delay line faster or slower, and before it runs out jumps by the offset at which the waveform
 * fits best, under a crossfade. At an onset it goes to the newest sound, plays the attack as it is, and never jumps back before it, so
 * that no attack is heard twice. Sources: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 6 (delay-line and synchronised overlap-add shifters);
 * the attack's treatment after Röbel, DAFx-03 (transients in a phase vocoder). It runs in core/kernel/effects/pitch.ts.
 */
export class PitchShift implements Processor<PitchShiftParams> {
  readonly latency = 0
  readonly steady = true
  private readonly glides = new Glides()
  private readonly mix = this.glides.mix()
  private readonly tone = this.glides.add(0.05)
  private readonly lowCut = this.glides.add()
  private readonly left = new Voice()
  private readonly right = new Voice()
  private rate = 48_000

  get still(): boolean {
    return this.glides.still
  }

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.left.prepare(sampleRate, machine)
    this.right.prepare(sampleRate, machine)
  }

  set(p: PitchShiftParams, immediate: boolean): void {
    setMix(this.mix, p.mix, immediate, dbToGain(p.dryLevel ?? 0), dbToGain(p.wetLevel ?? 0))
    this.tone.set(p.tone, immediate)
    this.lowCut.set(p.lowCut ?? 10, immediate)
    this.left.tune(p.cents)
    this.right.tune(p.cents + p.apart)
  }

  tick(): void {
    this.glides.tick()
    for (const voice of [this.left, this.right]) {
      voice.mix(this.mix)
      if (this.tone.moving) voice.put('lowPole', onePoleCoefficient(this.tone.value, this.rate))
      if (this.lowCut.moving) voice.put('highPole', onePoleCoefficient(this.lowCut.value, this.rate))
    }
  }

  process(block: StereoBlock): void {
    if (this.left.ratio !== this.right.ratio) spreadToStereo(block)
    this.left.process(block.leftAt)
    if (block.stereo) this.right.process(block.rightAt)
  }

  reset(): void {
    this.left.reset()
    this.right.reset()
  }
}

/** The numbers of a voice, in the order of core/kernel/effects/pitch.ts; lengths in frames. */
const VOICE = [
  'ratio',
  'far',
  'near',
  'fade',
  'onsetFade',
  'attack',
  'rest',
  'jump',
  'search',
  'most',
  'fastStep',
  'slowStep',
  'onsetRatio',
  'onsetLeast',
  'lowPole',
  'highPole',
  'dry',
  'dryStep',
  'wet',
  'wetStep',
] as const
type Place = (typeof VOICE)[number]
const PLACES = Object.fromEntries(VOICE.map((name, k) => [name, k])) as Readonly<Record<Place, number>>

/** One reading place, and during a crossfade the one that it leaves. */
class Voice {
  ratio = 1
  private machine: Machine | null = null
  private at: Pointer = 0
  private numbers = new Float64Array(VOICE.length)
  private rate = 48_000

  prepare(sampleRate: number, machine: Machine): void {
    this.rate = sampleRate
    this.machine = machine
    const frames = (ms: number) => (ms / 1000) * sampleRate
    const most = Math.ceil(frames(FAR_MS) + frames(SEARCH_MS) + 4 * frames(FADE_MS))
    this.at = machine.make((kernel) => kernel.pitchCreate(ringSize(most)))
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, VOICE.length)))
    this.put('near', frames(NEAR_MS))
    this.put('fade', frames(FADE_MS))
    this.put('onsetFade', frames(ONSET_FADE_MS))
    this.put('attack', frames(ATTACK_MS))
    this.put('rest', frames(REST_MS))
    this.put('jump', frames(JUMP_MS))
    this.put('search', frames(SEARCH_MS))
    this.put('most', most)
    this.put('fastStep', 1 - Math.exp(-1 / frames(1)))
    this.put('slowStep', 1 - Math.exp(-1 / frames(25)))
    this.put('onsetRatio', ONSET_RATIO)
    this.put('onsetLeast', ONSET_LEAST)
    this.reset()
  }

  put(name: Place, value: number): void {
    this.numbers[PLACES[name]] = value
  }

  tune(cents: number): void {
    this.ratio = Math.pow(2, cents / 1200)
    this.put('ratio', this.ratio)
    this.put('far', ((Math.abs(cents) <= SMALL_CENTS ? SMALL_FAR_MS : FAR_MS) / 1000) * this.rate)
  }

  /** What goes on dry, and of the voice. */
  mix({ dry, wet }: DryWet): void {
    this.put('dry', dry.value)
    this.put('dryStep', dry.step)
    this.put('wet', wet.value)
    this.put('wetStep', wet.step)
  }

  /** A side in place. */
  process(data: Pointer): void {
    this.machine?.kernel.pitchProcess(this.at, data)
  }

  reset(): void {
    this.machine?.kernel.pitchReset(this.at)
  }
}
