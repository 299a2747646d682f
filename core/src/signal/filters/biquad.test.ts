import { describe, expect, it } from 'vitest'
import { Biquad, createBlock, design, identity, Machine, sectionResponse } from '..'
import { CHUNK } from '../base/block'
import type { Section } from './biquad'

const rate = 48_000
const db = (write: (s: ReturnType<typeof identity>) => void, hz: number) => {
  const section = identity()
  write(section)
  return 20 * Math.log10(Math.hypot(...sectionResponse(section, hz, rate)))
}

/** Bristow-Johnson, Audio EQ Cookbook (W3C note 2021): the analog prototypes under its own frequency warping, evaluated directly. */
const warp = (hz: number, centre: number) => Math.tan((Math.PI * hz) / rate) / Math.tan((Math.PI * centre) / rate)
const prototypes = {
  lowPass: (x: number, q: number) => 1 / Math.hypot(1 - x * x, x / q),
  highPass: (x: number, q: number) => (x * x) / Math.hypot(1 - x * x, x / q),
  bell: (x: number, q: number, a: number) => Math.hypot(1 - x * x, (x * a) / q) / Math.hypot(1 - x * x, x / (a * q)),
  lowShelf: (x: number, a: number) =>
    (a * Math.hypot(a - x * x, Math.SQRT2 * Math.sqrt(a) * x)) / Math.hypot(1 - a * x * x, Math.SQRT2 * Math.sqrt(a) * x),
  highShelf: (x: number, a: number) =>
    (a * Math.hypot(1 - a * x * x, Math.SQRT2 * Math.sqrt(a) * x)) / Math.hypot(a - x * x, Math.SQRT2 * Math.sqrt(a) * x),
}
const probes = [30, 100, 440, 1000, 2500, 6000, 12_000, 18_000]

describe('EQ sections', () => {
  it.each(probes)('meet the cookbook’s prototypes at %s Hz', (hz) => {
    const a = Math.pow(10, 9 / 40)
    const close = (got: number, want: number) => expect(got).toBeCloseTo(20 * Math.log10(want), 6)
    close(
      db((s) => design.lowPass(s, 2000, 0.9, rate), hz),
      prototypes.lowPass(warp(hz, 2000), 0.9),
    )
    close(
      db((s) => design.highPass(s, 120, 0.707, rate), hz),
      prototypes.highPass(warp(hz, 120), 0.707),
    )
    close(
      db((s) => design.bell(s, 800, 1.4, 9, rate), hz),
      prototypes.bell(warp(hz, 800), 1.4, a),
    )
    close(
      db((s) => design.lowShelf(s, 250, 9, rate), hz),
      prototypes.lowShelf(warp(hz, 250), a),
    )
    close(
      db((s) => design.highShelf(s, 4000, 9, rate), hz),
      prototypes.highShelf(warp(hz, 4000), a),
    )
  })

  // −3.0 / −7.0 / −12.3 dB at 1x, 2x, 4x of the corner: |1/(1+jx)| by hand; the corner is low enough that the warping is small
  it('loses 3.0, 7.0 and 12.3 dB at one, two and four times a first-order corner', () => {
    const cut = (hz: number) => db((s) => design.lowPass6(s, 500, rate), hz)
    expect(cut(500)).toBeCloseTo(-3.01, 2)
    expect(cut(1000)).toBeCloseTo(-6.99, 1)
    expect(cut(2000)).toBeCloseTo(-12.3, 0)
    expect(db((s) => design.highPass6(s, 500, rate), 250)).toBeCloseTo(-6.99, 1)
  })

  it('stays stable for a corner above the band', () => {
    const section = identity()
    design.lowPass(section, 40_000, 0.7, rate)
    expect(Math.abs(section.a2)).toBeLessThan(1)
  })
})

describe('section in the machine', () => {
  const designs: readonly (readonly [string, (s: Section) => void])[] = [
    ['high-pass at 20 Hz', (s) => design.highPass(s, 20, 1.3, 96_000)],
    ['low bell', (s) => design.bell(s, 63, 4, -12, rate)],
    ['high bell', (s) => design.bell(s, 9_000, 2, 9, rate)],
    ['low-pass at the top', (s) => design.lowPass(s, 20_000, 0.7, rate)],
    ['shelf', (s) => design.lowShelf(s, 120, 12, rate)],
  ]
  it.each(designs)('agrees with its plain form within −110 dB: %s', (_, write) => {
    const machine = new Machine()
    const running = new Biquad()
    running.prepare(machine)
    const plain = new Biquad()
    const blocks = [createBlock(machine), createBlock()]
    let worst = 0
    let peak = 0
    for (let chunk = 0; chunk < 400; chunk++) {
      for (const biquad of [running, plain]) {
        biquad.tick()
        // a design, a glide to another one and back
        if (chunk === 0 || chunk === 200) write(biquad.target)
        if (chunk === 100) design.bell(biquad.target, 1_000, 1, 6, rate)
        if (chunk % 100 === 0 && chunk < 300) biquad.glide()
      }
      for (let i = 0; i < CHUNK; i++) {
        const n = chunk * CHUNK + i
        const x = Math.sin(n * 0.011) + 0.3 * Math.sin(n * 0.9) + (n % 3_000 === 0 ? 1 : 0)
        for (const block of blocks) {
          block.left[i] = x
          block.right[i] = -0.5 * x
        }
      }
      for (const block of blocks) block.stereo = chunk % 7 !== 0
      running.process(blocks[0])
      plain.process(blocks[1])
      for (const side of ['left', 'right'] as const)
        for (let i = 0; i < CHUNK; i++) {
          worst = Math.max(worst, Math.abs(blocks[0][side][i] - blocks[1][side][i]))
          peak = Math.max(peak, Math.abs(blocks[1][side][i]))
        }
    }
    expect(20 * Math.log10(worst / peak)).toBeLessThan(-110)
    running.reset()
    blocks[0].left.fill(0)
    running.process(blocks[0])
    expect(blocks[0].left.every((y) => y === 0)).toBe(true)
  })
})
