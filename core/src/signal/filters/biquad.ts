import { CHUNK, rightOf, type StereoBlock } from '../base/block'
import type { Machine, Pointer } from '../kernel/machine'

/** Normalised second-order section: (b0 + b1 z⁻¹ + b2 z⁻²) / (1 + a1 z⁻¹ + a2 z⁻²). */
export interface Section {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

export const identity = (): Section => ({ b0: 1, b1: 0, b2: 0, a1: 0, a2: 0 })

function write(out: Section, b0: number, b1: number, b2: number, a0: number, a1: number, a2: number): void {
  out.b0 = b0 / a0
  out.b1 = b1 / a0
  out.b2 = b2 / a0
  out.a1 = a1 / a0
  out.a2 = a2 / a0
}

/** Keeps a corner inside the band that a sample rate can carry. */
const omega = (hz: number, sampleRate: number): number => (2 * Math.PI * Math.min(hz, sampleRate * 0.49)) / sampleRate

/**
 * Second-order designs of the Audio EQ Cookbook (Bristow-Johnson, 1998, W3C note 2021): frequencies in Hz, gains in dB,
 * slopes by Q. They write into `out`, so that a moving parameter allocates nothing.
 */
export const design = {
  lowPass(out: Section, hz: number, q: number, sampleRate: number): void {
    const w = omega(hz, sampleRate)
    const c = Math.cos(w)
    const alpha = Math.sin(w) / (2 * q)
    write(out, (1 - c) / 2, 1 - c, (1 - c) / 2, 1 + alpha, -2 * c, 1 - alpha)
  },
  highPass(out: Section, hz: number, q: number, sampleRate: number): void {
    const w = omega(hz, sampleRate)
    const c = Math.cos(w)
    const alpha = Math.sin(w) / (2 * q)
    write(out, (1 + c) / 2, -(1 + c), (1 + c) / 2, 1 + alpha, -2 * c, 1 - alpha)
  },
  bell(out: Section, hz: number, q: number, db: number, sampleRate: number): void {
    const a = Math.pow(10, db / 40)
    const w = omega(hz, sampleRate)
    const c = Math.cos(w)
    const alpha = Math.sin(w) / (2 * q)
    write(out, 1 + alpha * a, -2 * c, 1 - alpha * a, 1 + alpha / a, -2 * c, 1 - alpha / a)
  },
  lowShelf(out: Section, hz: number, db: number, sampleRate: number): void {
    shelf(out, hz, db, sampleRate, 1)
  },
  highShelf(out: Section, hz: number, db: number, sampleRate: number): void {
    shelf(out, hz, db, sampleRate, -1)
  },
  /** First order, bilinear with prewarped corner: −3.0 dB at `hz`, 6 dB per octave (Zölzer, DAFX 2nd ed. 2011, ch. 2). */
  lowPass6(out: Section, hz: number, sampleRate: number): void {
    const k = Math.tan(omega(hz, sampleRate) / 2)
    write(out, k, k, 0, 1 + k, k - 1, 0)
  },
  highPass6(out: Section, hz: number, sampleRate: number): void {
    const k = Math.tan(omega(hz, sampleRate) / 2)
    write(out, 1, -1, 0, 1 + k, k - 1, 0)
  },
  flat(out: Section): void {
    write(out, 1, 0, 0, 1, 0, 0)
  },
}

/** Cookbook shelf with slope S = 1; `sign` +1 lifts below the corner, −1 above it. */
function shelf(out: Section, hz: number, db: number, sampleRate: number, sign: 1 | -1): void {
  const a = Math.pow(10, db / 40)
  const w = omega(hz, sampleRate)
  const c = Math.cos(w)
  const root = Math.SQRT2 * Math.sin(w) * Math.sqrt(a) // 2·√A·α with S = 1
  const up = a + 1
  const down = a - 1
  const sc = sign * c
  write(
    out,
    a * (up - down * sc + root),
    sign * 2 * a * (down - up * sc),
    a * (up - down * sc - root),
    up + down * sc + root,
    -sign * 2 * (down + up * sc),
    up + down * sc - root,
  )
}

/** Complex response of a section at `hz`, as [real, imaginary]. */
export function sectionResponse(s: Section, hz: number, sampleRate: number): [number, number] {
  const w = (2 * Math.PI * hz) / sampleRate
  const c1 = Math.cos(w)
  const s1 = -Math.sin(w)
  const c2 = Math.cos(2 * w)
  const s2 = -Math.sin(2 * w)
  const nr = s.b0 + s.b1 * c1 + s.b2 * c2
  const ni = s.b1 * s1 + s.b2 * s2
  const dr = 1 + s.a1 * c1 + s.a2 * c2
  const di = s.a1 * s1 + s.a2 * s2
  const m = dr * dr + di * di
  return [(nr * dr + ni * di) / m, (ni * dr - nr * di) / m]
}

/**
 * A running section on one or two channels, transposed direct form II, 64-bit state; prepared it runs in its machine
 * (core/kernel/effects/biquad.ts), else in the plain form, which is the tests' reference. A new design is reached in straight lines over one
 * chunk, so that moving filters do not zip; between two stable sections every one on the way is stable (the region of stable a1, a2 is
 * a triangle).
 */
export class Biquad {
  readonly section = identity()
  private readonly next = identity()
  private readonly step: Section = { b0: 0, b1: 0, b2: 0, a1: 0, a2: 0 }
  private gliding = false
  private fresh = true
  private l1 = 0
  private l2 = 0
  private r1 = 0
  private r2 = 0
  private machine: Machine | null = null
  private at: Pointer = 0
  private numbers = new Float64Array(0)
  /** The kernel knows the design. */
  private told = false

  prepare(machine: Machine): void {
    this.machine = machine
    this.at = machine.make((kernel) => kernel.biquadCreate())
    machine.keep((buffer) => (this.numbers = new Float64Array(buffer, this.at, 10)))
    this.told = false
  }

  /** Once a chunk, before {@link retune}: what was glided to is there. */
  tick(): void {
    if (!this.gliding) return
    copy(this.next, this.section)
    this.gliding = false
    this.told = false
  }

  /** The section to write the next design into; call {@link glide} then. */
  get target(): Section {
    return this.next
  }

  /** Goes to what was written into {@link target} during this chunk; the first design after a reset is taken at once. */
  glide(): void {
    const { section, next, step } = this
    if (this.fresh) {
      copy(next, section)
      this.fresh = false
      this.told = false
      return
    }
    step.b0 = (next.b0 - section.b0) / CHUNK
    step.b1 = (next.b1 - section.b1) / CHUNK
    step.b2 = (next.b2 - section.b2) / CHUNK
    step.a1 = (next.a1 - section.a1) / CHUNK
    step.a2 = (next.a2 - section.a2) / CHUNK
    this.gliding = true
    this.told = false
  }

  process(block: StereoBlock): void {
    const { machine, gliding } = this
    if (!machine) {
      if (gliding) this.processGliding(block)
      else this.processStill(block)
      return
    }
    if (!this.told) this.tell(machine)
    const { kernel } = machine
    if (gliding) kernel.biquadGlide(this.at, block.leftAt, rightOf(block))
    else kernel.biquadProcess(this.at, block.leftAt, rightOf(block))
  }

  private tell(machine: Machine): void {
    const { numbers, section, step } = this
    write5(numbers, 0, section)
    write5(numbers, 5, step)
    if (!this.gliding) machine.kernel.biquadSettle(this.at)
    this.told = true
  }

  private processStill(block: StereoBlock): void {
    const { b0, b1, b2, a1, a2 } = this.section
    const { left, right } = block
    let { l1, l2 } = this
    for (let i = 0; i < CHUNK; i++) {
      const x = left[i]
      const y = b0 * x + l1
      l1 = b1 * x - a1 * y + l2
      l2 = b2 * x - a2 * y
      left[i] = y
    }
    this.l1 = l1
    this.l2 = l2
    if (!block.stereo) return
    let { r1, r2 } = this
    for (let i = 0; i < CHUNK; i++) {
      const x = right[i]
      const y = b0 * x + r1
      r1 = b1 * x - a1 * y + r2
      r2 = b2 * x - a2 * y
      right[i] = y
    }
    this.r1 = r1
    this.r2 = r2
  }

  private processGliding(block: StereoBlock): void {
    const { section, step } = this
    const { left, right, stereo } = block
    let { l1, l2, r1, r2 } = this
    for (let i = 0; i < CHUNK; i++) {
      const b0 = section.b0 + i * step.b0
      const b1 = section.b1 + i * step.b1
      const b2 = section.b2 + i * step.b2
      const a1 = section.a1 + i * step.a1
      const a2 = section.a2 + i * step.a2
      const x = left[i]
      const y = b0 * x + l1
      l1 = b1 * x - a1 * y + l2
      l2 = b2 * x - a2 * y
      left[i] = y
      if (!stereo) continue
      const u = right[i]
      const v = b0 * u + r1
      r1 = b1 * u - a1 * v + r2
      r2 = b2 * u - a2 * v
      right[i] = v
    }
    this.l1 = l1
    this.l2 = l2
    this.r1 = r1
    this.r2 = r2
  }

  /** Forgets the sound; the design stays. */
  reset(): void {
    this.l1 = this.l2 = this.r1 = this.r2 = 0
    this.machine?.kernel.biquadReset(this.at)
    this.told = false
    this.fresh = true
    if (this.gliding) copy(this.next, this.section)
    this.gliding = false
  }
}

function copy(from: Section, to: Section): void {
  to.b0 = from.b0
  to.b1 = from.b1
  to.b2 = from.b2
  to.a1 = from.a1
  to.a2 = from.a2
}

function write5(to: Float64Array, at: number, { b0, b1, b2, a1, a2 }: Section): void {
  to[at] = b0
  to[at + 1] = b1
  to[at + 2] = b2
  to[at + 3] = a1
  to[at + 4] = a2
}
