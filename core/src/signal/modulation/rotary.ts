import { CHUNK, foldToMono, type Processor, type StereoBlock } from '../base/block'
import { setMix } from '../base/mix'
import { onePoleCoefficient } from '../base/onePole'
import { ringSize } from '../base/ring'
import { Glides, putMoving } from '../base/smooth'
import type { Machine, Pointer } from '../kernel/machine'

export interface RotaryParams {
  speed: 'stop' | 'slow' | 'fast'
  /** s from one speed to the other. */
  ramp: number
  /** %: 0 drum alone, 100 horn alone. */
  balance: number
  /** %: how far the microphones hear the turning. */
  depth: number
  /** %. */
  mix: number
}

/** Turns a second of horn and drum (common practice, no source). */
const SPEEDS = { stop: [0, 0], slow: [0.8, 0.67], fast: [6.7, 5.7] } as const
/** Pairs of value and step that the kernel's struct begins with: mix, depth, levels, and how far both rotors are turned to either side. */
const ROTARY = 9
/** Crossover of horn and drum. */
const SPLIT_HZ = 800
/** Radius in ms of sound travel: 19 cm horn, 12 cm drum baffle. */
const HORN_MS = 0.55
const DRUM_MS = 0.35
/** Share of the level that turns away from the listener. */
const HORN_SWING = 0.225
const DRUM_SWING = 0.15

/**
 * Rotating horn and drum behind an 800 Hz crossover, heard from two sides: each rotor swings in delay, level and (horn) brightness.
 * Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 3 (rotary loudspeaker); speeds are common practice. It runs in
 * core/kernel/effects/rotary.ts.
 */
export class Rotary implements Processor<RotaryParams> {
  readonly latency = 0
  readonly steady = true
  private readonly glides = new Glides()
  private readonly hornLevel = this.glides.add()
  private readonly drumLevel = this.glides.add()
  private readonly depth = this.glides.add()
  private readonly mix = this.glides.mix()
  private machine: Machine | null = null
  private at: Pointer = 0
  private numbers = new Float64Array(2 * ROTARY + 5)
  private readonly speeds = new Float64Array(2)
  private readonly phases = new Float64Array(2)
  private wanted: readonly [number, number] = SPEEDS.slow
  private ramp = 1
  private rate = 48_000

  prepare(sampleRate: number, machine: Machine): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    this.machine = machine
    this.at = machine.make((kernel) => kernel.rotaryCreate(ringSize(Math.ceil(0.005 * sampleRate))))
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, 2 * ROTARY + 5)))
    this.numbers.set(
      [(HORN_MS / 1000) * sampleRate, (DRUM_MS / 1000) * sampleRate, HORN_SWING, DRUM_SWING, onePoleCoefficient(SPLIT_HZ, sampleRate)],
      2 * ROTARY,
    )
  }

  set(p: RotaryParams, immediate: boolean): void {
    this.hornLevel.set(Math.min(1, p.balance / 50), immediate)
    this.drumLevel.set(Math.min(1, 2 - p.balance / 50), immediate)
    this.depth.set(p.depth / 100, immediate)
    setMix(this.mix, p.mix, immediate)
    this.wanted = SPEEDS[p.speed]
    this.ramp = 1 - Math.exp((-CHUNK * 3) / (Math.max(0.05, p.ramp) * this.rate))
    if (immediate) this.speeds.set(this.wanted)
  }

  tick(): void {
    this.glides.tick()
    for (let r = 0; r < 2; r++) {
      // the heavy drum takes longer
      this.speeds[r] += (this.wanted[r] - this.speeds[r]) * this.ramp * (r === 0 ? 1 : 0.4)
      const from = this.phases[r]
      const to = from + (this.speeds[r] * CHUNK * (r === 0 ? 1 : -1)) / this.rate
      this.glide(5 + 2 * r, Math.sin(2 * Math.PI * from), Math.sin(2 * Math.PI * to))
      this.glide(6 + 2 * r, Math.cos(2 * Math.PI * from), Math.cos(2 * Math.PI * to))
      this.phases[r] = to - Math.floor(to)
    }
    putMoving(this.numbers, 0, this.mix.dry)
    putMoving(this.numbers, 1, this.mix.wet)
    putMoving(this.numbers, 2, this.depth)
    putMoving(this.numbers, 3, this.hornLevel)
    putMoving(this.numbers, 4, this.drumLevel)
  }

  private glide(k: number, from: number, to: number): void {
    this.numbers[2 * k] = from
    this.numbers[2 * k + 1] = (to - from) / CHUNK
  }

  process(block: StereoBlock): void {
    foldToMono(block)
    block.stereo = true
    this.machine?.kernel.rotaryProcess(this.at, block.leftAt, block.rightAt)
  }

  reset(): void {
    this.machine?.kernel.rotaryReset(this.at)
    this.phases.fill(0)
  }
}
