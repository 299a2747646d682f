import { describe, expect, it } from 'vitest'
import { createStage, type ParamMap } from '@fulgor/core/preset'
import { StageRunner } from '../render/stageRunner'
import { runThrough } from '../render/offline'
import { Machine } from '.'
import { modelOf } from '@fulgor/core/catalogue'

const rate = 48_000

function run(model: string, params: ParamMap, input: Float32Array) {
  const stage = createStage('x', model, params)
  const machine = new Machine()
  const runner = new StageRunner('x', modelOf(model), { responses: () => [1], quality: 'live' }, rate, machine)
  runner.apply({ x: { on: true, params: stage.params } }, true)
  return runThrough(runner, machine, { left: input, right: input, stereo: false })
}

const impulse = (frames: number) => {
  const x = new Float32Array(frames)
  x[100] = 1
  return x
}

describe('delay', () => {
  // common practice, no source: feedback f puts each repeat 20·log10(f) dB below the one before
  it.each([20, 30, 50])('repeats %s %% of the level before, at the time that was set', (feedback) => {
    const { left } = run('delay.digital', { note: 'free', time: 375, feedback, mix: 100, tone: 20_000 }, impulse(rate * 2))
    const sum = (echo: number) => left.slice(100 + echo * 18_000, 100 + echo * 18_000 + 400).reduce((a, b) => a + b, 0)
    expect(sum(1)).toBeCloseTo(1, 3)
    expect(20 * Math.log10(sum(2) / sum(1))).toBeCloseTo(20 * Math.log10(feedback / 100), 2)
    expect(20 * Math.log10(sum(3) / sum(2))).toBeCloseTo(20 * Math.log10(feedback / 100), 2)
    expect(left.slice(0, 18_100).every((y) => Math.abs(y) < 1e-9)).toBe(true)
  })

  it('keeps times shorter than a chunk exact', () => {
    const { left } = run('delay.digital', { note: 'free', time: 1, feedback: 0, mix: 50, tone: 20_000 }, impulse(400))
    expect(left[100]).toBeCloseTo(1, 6)
    expect(Math.abs(left[148])).toBeGreaterThan(0.5)
  })

  it('darkens repeats with its tone', () => {
    const energy = (tone: number) =>
      run('delay.digital', { note: 'free', time: 100, feedback: 0, mix: 100, tone }, impulse(rate)).left.reduce((s, y) => s + y * y, 0)
    expect(energy(1_000)).toBeLessThan(energy(16_000) / 4)
  })
})

describe('hall', () => {
  // Schroeder, JASA 1965: backward integration of the squared response gives the decay; RT60 from the −5 … −35 dB slope (ISO 3382)
  it.each([0.8, 2.1, 5])('decays 60 dB in %s s', (decay) => {
    const frames = Math.round(rate * decay * 1.2)
    const { left, right } = run('reverb.hall', { preDelay: 0, decay, lowCut: 20, highCut: 2_000, mix: 100 }, impulse(frames))
    const integral = new Float32Array(frames + 1)
    for (let n = frames - 1; n >= 0; n--) integral[n] = integral[n + 1] + left[n] ** 2 + right[n] ** 2
    const at = (db: number) => integral.findIndex((e) => 10 * Math.log10(e / integral[0]) < db) / rate
    const rt60 = 2 * (at(-35) - at(-5))
    expect(rt60 / decay).toBeGreaterThan(0.8)
    expect(rt60 / decay).toBeLessThan(1.1)
  })

  it('waits for its pre-delay', () => {
    const { left } = run('reverb.hall', { preDelay: 100, mix: 100 }, impulse(rate))
    const first = left.findIndex((y) => Math.abs(y) > 1e-6)
    expect(first).toBeGreaterThanOrEqual(100 + 4800)
    expect(first).toBeLessThan(100 + 4800 + 4800)
  })
})

describe('gate', () => {
  const tone = (db: number) =>
    Float32Array.from({ length: rate }, (_, n) => Math.pow(10, db / 20) * Math.sin((2 * Math.PI * 220 * n) / rate))
  const level = (x: Float32Array) => 20 * Math.log10(Math.max(...x.slice(rate / 2).map(Math.abs)))
  const params = { threshold: -50, hysteresis: 6, range: 60 }

  it('passes what is above the threshold and takes its range off what is below', () => {
    expect(level(run('gate', params, tone(-40)).left)).toBeCloseTo(-40, 1)
    expect(level(run('gate', params, tone(-58)).left)).toBeCloseTo(-118, 0)
  })

  it('stays open down to threshold minus hysteresis', () => {
    const falling = tone(-53)
    falling.set(tone(-40).subarray(0, 4800))
    expect(level(run('gate', params, falling).left)).toBeCloseTo(-53, 1)
    expect(level(run('gate', params, tone(-53)).left)).toBeLessThan(-100)
  })
})

describe('mid-hump drive', () => {
  // Yeh, Abel, Smith, DAFx-07: the clipped path is high-passed at 720 Hz before the clip, so lows stay clean
  it('distorts mids and leaves lows', () => {
    const gainAt = (hz: number) => {
      const x = Float32Array.from({ length: rate / 2 }, (_, n) => 0.0005 * Math.sin((2 * Math.PI * hz * n) / rate))
      const y = run('drive.mid-hump', { gain: 8, tone: 10, level: 0 }, x).left.slice(rate / 4)
      return 20 * Math.log10(Math.max(...y.map(Math.abs)) / 0.0005)
    }
    expect(gainAt(60)).toBeLessThan(gainAt(1000) - 10)
    expect(gainAt(1000)).toBeGreaterThan(20)
  })
})

describe('tube amp', () => {
  const rms = (x: Float32Array) => Math.sqrt(x.reduce((s, y) => s + y * y, 0) / x.length)
  const tone = (level: number) => Float32Array.from({ length: rate }, (_, n) => level * Math.sin((2 * Math.PI * 220 * n) / rate))

  it('compresses when driven and sags under load', () => {
    const out = (level: number, sag: number) => rms(run('amp.lantern', { gain: 7, master: 8, sag }, tone(level)).left.slice(rate / 2))
    expect(out(0.2, 0) / out(0.02, 0)).toBeLessThan(4)
    expect(out(0.3, 100)).toBeLessThan(out(0.3, 0) * 0.9)
  })

  it('leaves no direct current', () => {
    const { left } = run('amp.lantern', { gain: 8 }, tone(0.3))
    const mean = left.slice(rate / 2).reduce((a, b) => a + b, 0) / (rate / 2)
    expect(Math.abs(mean)).toBeLessThan(1e-4)
  })
})
