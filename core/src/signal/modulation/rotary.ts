import { CHUNK, foldToMono, type Processor, type StereoBlock } from '../base/block'
import { setMix } from '../base/mix'
import { OnePole } from '../base/onePole'
import { Ring } from '../base/ring'
import { Glides } from '../base/smooth'

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
/** Radius in ms of sound travel: 19 cm horn, 12 cm drum baffle. */
const HORN_MS = 0.55
const DRUM_MS = 0.35
/** Share of the level that turns away from the listener. */
const HORN_SWING = 0.225
const DRUM_SWING = 0.15

/**
 * Rotating horn and drum behind an 800 Hz crossover, heard from two sides: each rotor swings in delay, level and (horn) brightness.
 * Source: Zölzer (ed.), DAFX, 2nd ed. 2011, ch. 3 (rotary loudspeaker); speeds are common practice.
 */
export class Rotary implements Processor<RotaryParams> {
  readonly latency = 0
  private readonly glides = new Glides()
  private readonly hornLevel = this.glides.add()
  private readonly drumLevel = this.glides.add()
  private readonly depth = this.glides.add()
  private readonly mix = this.glides.mix()
  private readonly split = [new OnePole(), new OnePole()]
  private horn = new Ring(1)
  private drum = new Ring(1)
  private readonly low = new Float32Array(CHUNK)
  private readonly speeds = new Float64Array(2)
  private readonly phases = new Float64Array(2)
  /** Sines and cosines of both rotors at the chunk's start, and their steps. */
  private readonly swings = new Float64Array(8)
  private wanted: readonly [number, number] = SPEEDS.slow
  private ramp = 1
  private rate = 48_000

  prepare(sampleRate: number): void {
    this.glides.prepare(sampleRate)
    this.rate = sampleRate
    for (const pole of this.split) pole.tune(800, sampleRate)
    const frames = Math.ceil(0.005 * sampleRate)
    this.horn = new Ring(frames)
    this.drum = new Ring(frames)
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
      this.glide(r * 4, Math.sin(2 * Math.PI * from), Math.sin(2 * Math.PI * to))
      this.glide(r * 4 + 2, Math.cos(2 * Math.PI * from), Math.cos(2 * Math.PI * to))
      this.phases[r] = to - Math.floor(to)
    }
  }

  private glide(at: number, from: number, to: number): void {
    this.swings[at] = from
    this.swings[at + 1] = (to - from) / CHUNK
  }

  process(block: StereoBlock): void {
    foldToMono(block)
    block.stereo = true
    const { left, right } = block
    const {
      low,
      horn,
      drum,
      swings,
      hornLevel,
      drumLevel,
      depth,
      mix: { dry, wet },
    } = this
    for (let i = 0; i < CHUNK; i++) low[i] = left[i]
    this.split[0].low(low)
    this.split[1].low(low)
    const hornFrames = (HORN_MS / 1000) * this.rate
    const drumFrames = (DRUM_MS / 1000) * this.rate
    for (let i = 0; i < CHUNK; i++) {
      const x = left[i]
      horn.push(x - low[i])
      drum.push(low[i])
      const hs = swings[0] + i * swings[1]
      const hc = swings[2] + i * swings[3]
      const ds = swings[4] + i * swings[5]
      const dc = swings[6] + i * swings[7]
      const d = depth.value + i * depth.step
      const hl = hornLevel.value + i * hornLevel.step
      const dl = drumLevel.value + i * drumLevel.step
      const w = wet.value + i * wet.step
      const direct = dry.value + i * dry.step
      const hornFloor = hl * (1 - HORN_SWING * d)
      const drumFloor = dl * (1 - DRUM_SWING * d)
      left[i] =
        direct * x +
        w * (hornFloor + hl * HORN_SWING * d * hs) * horn.between(4 + hornFrames * (1 + d * hs)) +
        w * (drumFloor + dl * DRUM_SWING * d * ds) * drum.between(4 + drumFrames * (1 + d * ds))
      right[i] =
        direct * x +
        w * (hornFloor + hl * HORN_SWING * d * hc) * horn.between(4 + hornFrames * (1 + d * hc)) +
        w * (drumFloor + dl * DRUM_SWING * d * dc) * drum.between(4 + drumFrames * (1 + d * dc))
    }
  }

  reset(): void {
    this.horn.reset()
    this.drum.reset()
    for (const pole of this.split) pole.reset()
    this.phases.fill(0)
  }
}
