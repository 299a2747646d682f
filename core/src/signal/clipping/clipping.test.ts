import { describe, expect, it } from 'vitest'
import { catalogue, type StageModel } from '@fulgor/core/catalogue'
import { worstAliasDb } from '@fulgor/core/render'
import { CHUNK, createBlock } from '../base/block'
import { Machine } from '../kernel/machine'
import { Clipping, type Quality } from './clipping'
import { Oversampler4, SoftClip } from './plainClipping'

describe('clipping kernel', () => {
  it('agrees with its plain TypeScript form within −110 dB', () => {
    const machine = new Machine()
    const kernel = new Clipping('live', 48_000, machine)
    const block = createBlock(machine)
    const stage = kernel.stage({ bias: 0.2 })
    const plain = new Oversampler4(CHUNK)
    const clip = new SoftClip()
    let worst = 0
    let peak = 0
    for (let chunk = 0; chunk < 200; chunk++) {
      const a = block.left
      for (let i = 0; i < CHUNK; i++) a[i] = Math.sin((chunk * CHUNK + i) * 0.13) * 2
      const b = Float64Array.from(a)
      stage.put('gain', 3)
      stage.put('gainStep', 0.01)
      kernel.process(block.leftAt)
      plain.raise(b, CHUNK)
      clip.process(plain.data, 4 * CHUNK, 3, 0.01, 0, 0.2)
      plain.lower(b, CHUNK)
      for (let i = 0; i < CHUNK; i++) {
        worst = Math.max(worst, Math.abs(a[i] - b[i]))
        peak = Math.max(peak, Math.abs(b[i]))
      }
    }
    expect(20 * Math.log10(worst / peak)).toBeLessThan(-110)
  })

  // Parker, Zavalishin, Le Bivic, DAFx-16: the antiderivative form of a clip whose antiderivative is F(x) = √(1+x²)
  it('is the difference quotient of the antiderivative', () => {
    const clip = new SoftClip()
    const x = [0.3, -1.2, 4]
    const data = Float64Array.from(x)
    clip.process(data, 3, 1, 0, 0, 0)
    const F = (v: number) => Math.sqrt(1 + v * v)
    let last = 0
    x.forEach((now, n) => {
      const before = n === 0 ? 0 : x[n - 1]
      const clipped = (F(now) - F(before)) / (now - before)
      expect(data[n]).toBeCloseTo(1.20710678 * clipped - 0.20710678 * last, 7)
      last = clipped
    })
  })

  // Parker, Zavalishin, Le Bivic, DAFx-16: what the form gives is the mean of the clip between two samples, here as a fine sum
  it.each([0.3, 1])('is the mean of the clip between two samples however far it is driven, hardness %s', (hardness) => {
    const kernel = new Clipping('live', 48_000)
    const gain = 300
    kernel.stage({ gain, hardness, bias: 0.1 })
    const curve = (x: number) => (1 - hardness) * (x / Math.sqrt(1 + x * x)) + hardness * Math.max(-1, Math.min(1, x))
    const mean = (from: number, to: number) => {
      const parts = 20_000
      let sum = 0
      for (let k = 0; k < parts; k++) sum += curve(from + ((k + 0.5) / parts) * (to - from))
      return sum / parts
    }
    const raised = Float64Array.from({ length: 16 }, (_, n) => [0, 1e-5, 0.003, 0.0033, 0.0033, -0.5, -0.50001, 0.002][n % 8])
    kernel.data.set(raised)
    kernel.run(4)
    let last = 0
    raised.forEach((now, n) => {
      const clipped = mean(gain * (n === 0 ? 0 : raised[n - 1]) + 0.1, gain * now + 0.1) - curve(0.1)
      expect(Math.abs(kernel.data[n] - (1.20710678 * clipped - 0.20710678 * last))).toBeLessThan(1e-5)
      last = clipped
    })
  })

  it.each(['live', 'high', 'highest'] as const)('passes the audio band through a trip up and down, %s', (quality) => {
    const machine = new Machine()
    const kernel = new Clipping(quality, 48_000, machine)
    const block = createBlock(machine)
    for (const hz of [100, 5_000, 18_000]) {
      let power = 0
      for (let chunk = 0; chunk < 150; chunk++) {
        for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin((2 * Math.PI * hz * (chunk * CHUNK + i)) / 48_000)
        kernel.process(block.leftAt)
        if (chunk >= 50) for (const y of block.left) power += y * y
      }
      expect(10 * Math.log10((2 * power) / 6400)).toBeCloseTo(0, 1)
    }
  })

  it.each(['live', 'high', 'highest'] as const)('tells its delay within half a frame, %s', (quality) => {
    const machine = new Machine()
    const kernel = new Clipping(quality, 48_000, machine)
    const block = createBlock(machine)
    const w = (2 * Math.PI * 1000) / 48_000
    let re = 0
    let im = 0
    for (let n = 0; n < 9600; n += CHUNK) {
      for (let i = 0; i < CHUNK; i++) block.left[i] = Math.sin(w * (n + i))
      kernel.process(block.leftAt)
      if (n >= 4800)
        block.left.forEach((y, i) => {
          re += y * Math.sin(w * (n + i))
          im += y * Math.cos(w * (n + i))
        })
    }
    expect(Math.abs(-Math.atan2(im, re) / w - Clipping.latency(quality))).toBeLessThan(0.5)
  })
})

// the limits are those of the product's design: 60 dB live, 80 dB high, below 16 kHz, for a 1,245 Hz sine at full drive
describe('aliases at full drive', () => {
  const models = catalogue.filter((m) => m.charts.includes('feel'))
  const full = (model: StageModel) =>
    Object.fromEntries(
      Object.entries(model.params).flatMap(([key, spec]) =>
        spec.kind !== 'number'
          ? []
          : key === 'ceiling'
            ? [[key, spec.min]]
            : ['gain', 'fuzz', 'sustain', 'boost', 'master'].includes(key)
              ? [[key, spec.max]]
              : [],
      ),
    )
  const limits: readonly (readonly [Quality, number])[] = [
    ['live', -60],
    ['high', -80],
  ]
  it.each(models.map((m) => m.id))('%s', (id) => {
    const model = models.find((m) => m.id === id)
    if (!model) throw new Error(id)
    for (const [quality, limit] of limits) {
      const context = { quality, responses: () => [1] }
      expect(
        worstAliasDb(id, { ...full(model), ...('sag' in model.params ? { sag: 0 } : {}) }, 1_244.5, 0.2, context, 48_000),
      ).toBeLessThan(limit)
    }
  })
})
