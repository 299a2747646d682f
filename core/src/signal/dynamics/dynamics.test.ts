import { describe, expect, it } from 'vitest'
import { Compressor, Gate, staticCurve, type CompressorSettings, type GateParams } from '..'
import { CHUNK, createBlock, listen, type Processor } from '../base/block'
import { Machine } from '../kernel/machine'

const rate = 48_000
const db = (x: number) => 20 * Math.log10(Math.abs(x) + 1e-12)
/** Steady magnitudes as a square wave at 500 Hz, so that a detector has nothing to wait for. */
const square = (level: (n: number) => number, seconds: number) =>
  Float64Array.from({ length: Math.round(seconds * rate) }, (_, n) => Math.pow(10, level(n) / 20) * (n % 96 < 48 ? 1 : -1))

function through<P>(processor: Processor<P>, params: P, input: Float64Array, key?: Float64Array): Float64Array {
  const machine = new Machine()
  processor.prepare(rate, machine)
  processor.set(params, true)
  const out = input.slice()
  const block = createBlock(machine)
  const side = createBlock(machine)
  listen(block, side)
  for (let at = 0; at < input.length; at += CHUNK) {
    const count = Math.min(CHUNK, input.length - at)
    for (let i = 0; i < count; i++) {
      block.left[i] = input[at + i]
      block.key[i] = (key ?? input)[at + i]
    }
    block.stereo = false
    processor.tick()
    processor.process(block)
    for (let i = 0; i < count; i++) out[at + i] = block.left[i]
  }
  return out
}
const gainDb = (out: Float64Array, input: Float64Array, n: number) => db(out[n]) - db(input[n])

describe('static curve', () => {
  // Giannoulis, Massberg, Reiss, JAES 2012: the knee meets both lines at T ± W/2
  it.each([2, 4, 10])('is continuous at both ends of the knee, ratio %s', (ratio) => {
    const at = (level: number) => staticCurve(level, -20, ratio, 12)
    expect(at(-26 - 1e-9)).toBeCloseTo(at(-26 + 1e-9), 6)
    expect(at(-14 - 1e-9)).toBeCloseTo(at(-14 + 1e-9), 6)
    expect(at(-26)).toBeCloseTo(-26, 6)
    expect(at(-14)).toBeCloseTo(-20 + 6 / ratio, 6)
  })

  it('never rises more than its input and never falls', () => {
    let last = -Infinity
    for (let level = -60; level <= 0; level += 0.25) {
      const out = staticCurve(level, -24, 5, 8)
      expect(out).toBeLessThanOrEqual(level + 1e-9)
      expect(out).toBeGreaterThan(last)
      last = out
    }
  })
})

describe('compressor in time', () => {
  const settings = (s: Partial<CompressorSettings>): CompressorSettings => ({
    threshold: -30,
    ratio: 4,
    knee: 0,
    attack: 10,
    release: 100,
    makeup: 0,
    mix: 100,
    ...s,
  })
  const make = () => new Compressor<CompressorSettings>('peak', (p) => p)

  it.each([5, 20, 80])('attack of %s ms: 63 %% of the reduction by then', (attack) => {
    const x = square((n) => (n < rate / 2 ? -60 : -10), 1.5)
    const out = through(make(), settings({ attack }), x)
    const final = -gainDb(out, x, x.length - 1)
    expect(final).toBeCloseTo(15, 1)
    expect(-gainDb(out, x, rate / 2 + Math.round((attack / 1000) * rate)) / final).toBeCloseTo(1 - 1 / Math.E, 1)
  })

  it.each([50, 300])('release of %s ms: 37 %% of the reduction left by then', (release) => {
    const x = square((n) => (n < rate ? -10 : -60), 2.5)
    const out = through(make(), settings({ release }), x)
    expect(-gainDb(out, x, rate + Math.round((release / 1000) * rate)) / 15).toBeCloseTo(1 / Math.E, 1)
  })

  it('mixes the dry sound in: half and half of 15 dB less', () => {
    const x = square(() => -10, 1)
    const out = through(make(), settings({ mix: 50 }), x)
    expect(out[x.length - 1] / x[x.length - 1]).toBeCloseTo(0.5 + 0.5 * Math.pow(10, -15 / 20), 3)
  })

  it('takes both sides down alike by the louder one', () => {
    const processor = make()
    const machine = new Machine()
    processor.prepare(rate, machine)
    processor.set(settings({}), true)
    const block = createBlock(machine)
    let ratio = 0
    for (let c = 0; c < 500; c++) {
      block.stereo = true
      for (let i = 0; i < CHUNK; i++) {
        block.left[i] = (i % 48 < 24 ? 1 : -1) * 0.3
        block.right[i] = block.left[i] * 0.1
      }
      processor.tick()
      processor.process(block)
      ratio = block.right[5] / block.left[5]
    }
    expect(ratio).toBeCloseTo(0.1, 6)
    expect(processor.reduction).toBeGreaterThan(10)
  })

  it('an optical one lets go slowly after a long note and quickly after a short one', () => {
    const left = (held: number) => {
      const x = square((n) => (n < held * rate ? -6 : -60), held + 1)
      const out = through(new Compressor<CompressorSettings>('optical', (p) => p), settings({ release: 60 }), x)
      return -gainDb(out, x, Math.round((held + 0.12) * rate))
    }
    expect(left(3)).toBeGreaterThan(2 * left(0.15))
  })
})

describe('gate in time', () => {
  const params = (p: Partial<GateParams>): GateParams => ({
    key: 'own',
    threshold: -40,
    hysteresis: 6,
    attack: 1,
    hold: 50,
    release: 100,
    range: 60,
    ...p,
  })

  it.each([1, 20])('opens within its attack of %s ms', (attack) => {
    const x = square((n) => (n < rate / 4 ? -80 : -20), 0.5)
    const out = through(new Gate(), params({ attack }), x)
    expect(gainDb(out, x, rate / 4 - 10)).toBeCloseTo(-60, 0)
    expect(gainDb(out, x, rate / 4 + Math.round((attack / 1000) * rate) + 2)).toBeCloseTo(0, 1)
    // half way up in dB at half the time
    expect(gainDb(out, x, rate / 4 + Math.round((attack / 2000) * rate))).toBeCloseTo(-30, -1)
  })

  it('holds, then falls in dB over its release', () => {
    const x = square((n) => (n < rate / 4 ? -20 : -80), 1)
    const out = through(new Gate(), params({ hold: 80, release: 200 }), x)
    // the detector falls 40 dB to the closing level in some 30 ms before the hold begins
    expect(gainDb(out, x, rate / 4 + Math.round(0.08 * rate))).toBeCloseTo(0, 1)
    const start = Array.from({ length: rate / 2 }, (_, k) => rate / 4 + k).find((n) => gainDb(out, x, n) < -0.5) ?? 0
    expect(gainDb(out, x, start + Math.round(0.1 * rate))).toBeCloseTo(-30, -1)
    expect(gainDb(out, x, start + Math.round(0.21 * rate))).toBeCloseTo(-60, 0)
  })

  it('does not chatter between the two thresholds', () => {
    const wobble = square((n) => (n < rate / 10 ? -30 : -43 + 2 * Math.sin(n / 900)), 1)
    const out = through(new Gate(), params({ hold: 0 }), wobble)
    for (let n = rate / 5; n < rate; n += 777) expect(gainDb(out, wobble, n)).toBeCloseTo(0, 6)
  })

  it('keyed by the dry guitar it stays open over a decayed input, and takes its range off without a key', () => {
    const quiet = square(() => -70, 0.5)
    const loud = square(() => -20, 0.5)
    expect(gainDb(through(new Gate(), params({ key: 'dry' }), quiet, loud), quiet, rate / 4)).toBeCloseTo(0, 6)
    expect(gainDb(through(new Gate(), params({ key: 'own' }), quiet, loud), quiet, rate / 4)).toBeCloseTo(-60, 0)
  })
})
