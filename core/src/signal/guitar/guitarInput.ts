import { CHUNK, type Processor, type StereoBlock } from '../base/block'
import { Biquad, design, type Section } from '../filters/biquad'
import { circuitTransfer, type Coil, type Taper, type Wiring } from './circuit'
import { fitted, inverseOf } from './fitted'
import type { Machine } from '../kernel/machine'

/** The guitar as it stands before the chain: its knobs, its circuit, and bands that suit it to the preset. Ohm, henry, farad, Hz and dB. */
export interface GuitarInputParams {
  readonly volume: number
  readonly tone: number
  readonly resistance: number
  readonly inductance: number
  readonly capacitance: number
  readonly volumeOhm: number
  readonly volumeTaper: Taper
  readonly bleedFarad: number
  readonly bleedOhm: number
  readonly bleedWay: 'none' | 'beside' | 'behind'
  /** 0: there is no tone control. */
  readonly toneOhm: number
  readonly toneFarad: number
  readonly toneTaper: Taper
  readonly cableFarad: number
  readonly inputOhm: number
  readonly lowHz: number
  readonly lowDb: number
  readonly bellHz: number
  readonly bellDb: number
  readonly bellQ: number
  readonly highHz: number
  readonly highDb: number
}

export const coilOf = (p: GuitarInputParams): Coil => ({ resistance: p.resistance, inductance: p.inductance, capacitance: p.capacitance })

export const wiringOf = (p: GuitarInputParams): Wiring => ({
  volume: { ohm: p.volumeOhm, taper: p.volumeTaper },
  bleed: p.bleedWay === 'none' ? null : { farad: p.bleedFarad, ohm: p.bleedOhm, way: p.bleedWay },
  tone: p.toneOhm > 0 ? { ohm: p.toneOhm, farad: p.toneFarad, taper: p.toneTaper } : null,
  cableFarad: p.cableFarad,
  inputOhm: p.inputOhm,
})

/** Sections that a circuit has at most. */
const MOST = 3

/** A running filter of a few sections, which takes others from silence. */
class Circuit {
  private count = 0
  private readonly c = new Float64Array(5 * MOST)
  private readonly z = new Float64Array(2 * MOST)

  take(sections: readonly Section[]): void {
    this.count = sections.length
    sections.forEach(({ b0, b1, b2, a1, a2 }, k) => this.c.set([b0, b1, b2, a1, a2], 5 * k))
    this.clear()
  }

  process(input: Float32Array, out: Float32Array): void {
    const { c, z } = this
    for (let i = 0; i < CHUNK; i++) out[i] = input[i]
    for (let k = 0; k < this.count; k++) {
      const b0 = c[5 * k]
      const b1 = c[5 * k + 1]
      const b2 = c[5 * k + 2]
      const a1 = c[5 * k + 3]
      const a2 = c[5 * k + 4]
      let z1 = z[2 * k]
      let z2 = z[2 * k + 1]
      for (let i = 0; i < CHUNK; i++) {
        const x = out[i]
        const y = b0 * x + z1
        z1 = b1 * x - a1 * y + z2
        // keeps a decay in silence out of the denormals
        z2 = b2 * x - a2 * y + 1e-25
        out[i] = y
      }
      z[2 * k] = z1
      z[2 * k + 1] = z2
    }
  }

  clear(): void {
    this.z.fill(0)
  }
}

/** Chunks over which one setting of the circuit gives way to the next: as long as a control step. */
const FADE_CHUNKS = 2

/**
 * What stands between the strings and the chain. What comes in was played with both knobs at 10: that is undone, and the circuit at the
 * wanted setting laid over it; then three bands that suit this guitar to the preset. Mono, as a guitar is.
 */
export class GuitarInput implements Processor<GuitarInputParams> {
  readonly latency = 0
  private sampleRate = 48_000
  private readonly bands = [new Biquad(), new Biquad(), new Biquad()]
  private readonly undo = new Circuit()
  private now = new Circuit()
  private next = new Circuit()
  /** Where both knobs stand at 10 nothing is to be done; null is not known yet. */
  private key: string | null = null
  private undoKey = ''
  private pending: readonly Section[] | null = null
  /** Chunks of the fade that are left. */
  private fading = 0
  private fresh = true
  private flat = true
  private readonly plain = new Float32Array(CHUNK)
  private readonly old = new Float32Array(CHUNK)

  prepare(sampleRate: number, machine: Machine): void {
    this.sampleRate = sampleRate
    for (const band of this.bands) band.prepare(machine)
  }

  readonly set = (p: GuitarInputParams, immediate: boolean): void => {
    this.takeCircuit(p, immediate || this.fresh)
    this.flat = this.flat && p.lowDb === 0 && p.bellDb === 0 && p.highDb === 0
    design.lowShelf(this.bands[0].target, p.lowHz, p.lowDb, this.sampleRate)
    design.bell(this.bands[1].target, p.bellHz, p.bellQ, p.bellDb, this.sampleRate)
    design.highShelf(this.bands[2].target, p.highHz, p.highDb, this.sampleRate)
    for (const band of this.bands) band.glide()
    this.fresh = false
  }

  private takeCircuit(p: GuitarInputParams, immediate: boolean): void {
    const { volume, tone, lowHz: _a, lowDb: _b, bellHz: _c, bellDb: _d, bellQ: _e, highHz: _f, highDb: _g, ...fixed } = p
    const undoKey = JSON.stringify(fixed)
    const key = `${volume} ${tone} ${undoKey}`
    if (key === this.key) return
    this.key = key
    const [coil, wiring] = [coilOf(p), wiringOf(p)]
    if (undoKey !== this.undoKey) {
      this.undoKey = undoKey
      this.undo.take(inverseOf(fitted(circuitTransfer(coil, wiring, 10, 10), this.sampleRate)))
    }
    const wanted = fitted(circuitTransfer(coil, wiring, volume, tone), this.sampleRate)
    if (immediate) {
      this.now.take(wanted)
      this.fading = 0
      this.pending = null
    } else this.pending = wanted
  }

  tick(): void {
    for (const band of this.bands) band.tick()
    if (this.fading > 0 && --this.fading === 0) [this.now, this.next] = [this.next, this.now]
    if (this.fading === 0 && this.pending) {
      this.next.take(this.pending)
      this.pending = null
      this.fading = FADE_CHUNKS
    }
  }

  process(block: StereoBlock): void {
    const { plain, old } = this
    this.undo.process(block.left, plain)
    this.now.process(plain, block.left)
    if (this.fading > 0) {
      this.next.process(plain, old)
      for (let i = 0; i < CHUNK; i++) {
        const share = (FADE_CHUNKS - this.fading + i / CHUNK) / FADE_CHUNKS
        block.left[i] += share * (old[i] - block.left[i])
      }
    }
    if (!this.flat) for (const band of this.bands) band.process(block)
  }

  reset(): void {
    this.now.clear()
    this.next.clear()
    this.undo.clear()
    for (const band of this.bands) band.reset()
  }
}
