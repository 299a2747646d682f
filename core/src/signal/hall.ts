import { CHUNK, spreadToStereo, type Processor, type StereoBlock } from './block'
import { Biquad, design } from './biquad'
import { mixGains } from './delay'
import { Fade, Smooth } from './smooth'

export interface HallParams {
  /** ms. */
  preDelay: number
  /** s until −60 dB. */
  decay: number
  /** Hz. */
  lowCut: number
  highCut: number
  /** %. */
  mix: number
}

/** Line lengths in ms: mutually inharmonic, mean 57 ms. */
const LINES_MS = [31.7, 38.9, 44.3, 52.1, 59.3, 67.7, 74.9, 83.3]
const DIFFUSERS_MS = [4.7, 7.3, 11.9, 16.3]
/** Decay time at the top of the band over the decay time below. */
const DAMPING = 0.35

/**
 * Reverb from a feedback delay network of eight lines with a Hadamard matrix and a decay filter in each line, so that every mode
 * dies at the wanted time. Trails. Source: Jot & Chaigne, 90th AES Convention 1991.
 */
export class Hall implements Processor<HallParams> {
  readonly latency = 0
  private readonly dry = new Smooth()
  private readonly wet = new Smooth()
  private readonly decay = new Smooth()
  private readonly lowCut = new Smooth()
  private readonly highCut = new Smooth()
  private readonly input = new Fade(true)
  private readonly swap = new Fade(true)
  private readonly cutLow = new Biquad()
  private readonly cutHigh = new Biquad()
  private readonly feed: StereoBlock = { left: new Float64Array(CHUNK), right: new Float64Array(CHUNK), stereo: false, at: 0 }
  private lines: Ring[] = []
  private diffusers: Ring[] = []
  private pre = new Ring(1)
  private readonly outs = LINES_MS.map(() => new Float64Array(CHUNK))
  private readonly gains = new Float64Array(8)
  private readonly poles = new Float64Array(8)
  private readonly states = new Float64Array(8)
  private rate = 48_000
  private wanted = 0
  private current = 0
  private previous = 0

  prepare(sampleRate: number): void {
    this.rate = sampleRate
    for (const s of [this.dry, this.wet, this.decay, this.lowCut, this.highCut]) s.prepare(sampleRate)
    this.input.prepare(sampleRate)
    this.swap.prepare(sampleRate, 0.03)
    const frames = (ms: number) => Math.round((ms / 1000) * sampleRate)
    this.lines = LINES_MS.map((ms) => new Ring(frames(ms)))
    this.diffusers = DIFFUSERS_MS.map((ms) => new Ring(frames(ms)))
    this.pre = new Ring(frames(260))
  }

  set(p: HallParams, immediate: boolean): void {
    const { dry, wet } = mixGains(p.mix)
    this.dry.set(dry, immediate)
    this.wet.set(wet, immediate)
    this.decay.set(p.decay, immediate)
    this.lowCut.set(p.lowCut, immediate)
    this.highCut.set(p.highCut, immediate)
    this.wanted = Math.round((p.preDelay / 1000) * this.rate)
    if (immediate) {
      this.current = this.previous = this.wanted
      this.swap.set(true, true)
    }
  }

  send(open: boolean, immediate: boolean): void {
    this.input.set(open, immediate)
  }

  tick(): void {
    this.dry.tick()
    this.wet.tick()
    this.decay.tick()
    this.lowCut.tick()
    this.highCut.tick()
    this.input.tick()
    this.swap.tick()
    if (this.swap.open && this.wanted !== this.current) {
      this.previous = this.current
      this.current = this.wanted
      this.swap.set(false, true)
      this.swap.set(true, false)
      this.swap.tick()
    }
    if (this.lowCut.moving) design.highPass(this.cutLow.section, this.lowCut.value, Math.SQRT1_2, this.rate)
    if (this.highCut.moving) design.lowPass(this.cutHigh.section, this.highCut.value, Math.SQRT1_2, this.rate)
    if (this.decay.moving) this.tuneDecay()
  }

  /** Jot's one-pole: gain for the decay at 0 Hz, pole for the shorter one at the top. */
  private tuneDecay(): void {
    for (let k = 0; k < 8; k++) {
      const db = (-60 * this.lines[k].frames) / (this.decay.value * this.rate)
      this.gains[k] = Math.pow(10, db / 20)
      this.poles[k] = Math.min(0.95, (Math.LN10 / 80) * -db * (1 / (DAMPING * DAMPING) - 1))
    }
  }

  process(block: StereoBlock, frames: number): void {
    spreadToStereo(block, frames)
    const { dry, wet, input, feed, outs } = this
    const { left, right, at } = block
    this.readPreDelay(left, right, at, frames)
    this.cutLow.process(feed, frames)
    this.cutHigh.process(feed, frames)
    for (const diffuser of this.diffusers) diffuse(diffuser, feed.left, frames)

    for (let k = 0; k < 8; k++) {
      const { buffer, mask, write, frames: length } = this.lines[k]
      const out = outs[k]
      const g = this.gains[k]
      const p = this.poles[k]
      let s = this.states[k]
      for (let i = 0; i < frames; i++) out[i] = s = p * s + (1 - p) * g * buffer[(write + i - length) & mask]
      this.states[k] = s
    }
    this.mixLines(frames)
    const [a, b, c, d, e, f, g, h] = outs
    for (let i = 0; i < frames; i++) {
      const k = at + i
      const open = input.value + k * input.step
      const direct = (dry.value + k * dry.step) * open + 1 - open
      const level = 0.5 * (wet.value + k * wet.step)
      left[i] = left[i] * direct + level * (a[i] - c[i] + e[i] - g[i])
      right[i] = right[i] * direct + level * (b[i] - d[i] + f[i] - h[i])
    }
  }

  private readPreDelay(left: Float64Array, right: Float64Array, at: number, frames: number): void {
    const { input, swap, current, previous, pre } = this
    const { buffer, mask, write } = pre
    const out = this.feed.left
    for (let i = 0; i < frames; i++) {
      buffer[(write + i) & mask] = 0.5 * (left[i] + right[i]) * (input.value + (at + i) * input.step)
      const now = buffer[(write + i - current) & mask]
      if (swap.open) out[i] = now
      else {
        const share = swap.value + (at + i) * swap.step
        out[i] = share * now + (1 - share) * buffer[(write + i - previous) & mask]
      }
    }
    pre.write = (write + frames) & mask
  }

  /** Hadamard matrix of order eight, scaled to keep energy, and the new input into every line. */
  private mixLines(frames: number): void {
    const [o0, o1, o2, o3, o4, o5, o6, o7] = this.outs
    const [l0, l1, l2, l3, l4, l5, l6, l7] = this.lines
    const feed = this.feed.left
    const scale = Math.SQRT1_2 / 2
    for (let i = 0; i < frames; i++) {
      const a0 = o0[i] + o1[i]
      const a1 = o0[i] - o1[i]
      const a2 = o2[i] + o3[i]
      const a3 = o2[i] - o3[i]
      const a4 = o4[i] + o5[i]
      const a5 = o4[i] - o5[i]
      const a6 = o6[i] + o7[i]
      const a7 = o6[i] - o7[i]
      const b0 = a0 + a2
      const b1 = a1 + a3
      const b2 = a0 - a2
      const b3 = a1 - a3
      const b4 = a4 + a6
      const b5 = a5 + a7
      const b6 = a4 - a6
      const b7 = a5 - a7
      const x = feed[i]
      l0.buffer[(l0.write + i) & l0.mask] = scale * (b0 + b4) + x
      l1.buffer[(l1.write + i) & l1.mask] = scale * (b1 + b5) + x
      l2.buffer[(l2.write + i) & l2.mask] = scale * (b2 + b6) - x
      l3.buffer[(l3.write + i) & l3.mask] = scale * (b3 + b7) - x
      l4.buffer[(l4.write + i) & l4.mask] = scale * (b0 - b4) + x
      l5.buffer[(l5.write + i) & l5.mask] = scale * (b1 - b5) - x
      l6.buffer[(l6.write + i) & l6.mask] = scale * (b2 - b6) - x
      l7.buffer[(l7.write + i) & l7.mask] = scale * (b3 - b7) + x
    }
    for (const line of this.lines) line.write = (line.write + frames) & line.mask
  }

  reset(): void {
    for (const ring of [...this.lines, ...this.diffusers, this.pre]) ring.buffer.fill(0)
    this.cutLow.reset()
    this.cutHigh.reset()
    this.states.fill(0)
  }
}

/** Schroeder allpass, gain 0.6, in place. */
function diffuse(ring: Ring, data: Float64Array, frames: number): void {
  const { buffer, mask, write, frames: length } = ring
  for (let i = 0; i < frames; i++) {
    const delayed = buffer[(write + i - length) & mask]
    const v = data[i] - 0.6 * delayed
    buffer[(write + i) & mask] = v
    data[i] = delayed + 0.6 * v
  }
  ring.write = (write + frames) & mask
}

class Ring {
  readonly buffer: Float64Array
  readonly mask: number
  write = 0

  constructor(readonly frames: number) {
    const size = 1 << Math.ceil(Math.log2(frames + CHUNK + 1))
    this.buffer = new Float64Array(size)
    this.mask = size - 1
  }
}
