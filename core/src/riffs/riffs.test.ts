import { describe, expect, it } from 'vitest'
import { averageSpectrum, centroid } from '@fulgor/core/measure'
import { resample } from '@fulgor/core/signal'
import { synthesiseResponse, cabinetResponses, minimumPhase } from '@fulgor/core/cabinet'
import { riffTempo, shippedRiffs, synthesiseRiff } from '.'
import { pluckString } from './pluckedString'

const rate = 48_000
const peakDb = (x: Float32Array) => 20 * Math.log10(x.reduce((m, y) => Math.max(m, Math.abs(y)), 0))

describe('shipped riffs', () => {
  it.each(shippedRiffs.map((r) => r.id))('%s: 16 beats, softer and darker when picked softly, without a seam', (id) => {
    const hard = synthesiseRiff(id, 'hard', 120, rate)
    const soft = synthesiseRiff(id, 'soft', 120, rate)
    expect(hard.length).toBe(8 * rate)
    expect(peakDb(hard) - peakDb(soft)).toBeGreaterThan(6)
    const brightness = (x: Float32Array) => centroid(averageSpectrum([new Float64Array(x)], rate)) ?? 0
    expect(brightness(hard)).toBeGreaterThan(brightness(soft) * 1.1)
    const steps = hard.map((x, n) => Math.abs(x - hard[(n + hard.length - 1) % hard.length]))
    expect(steps[0]).toBeLessThan(Math.max(...steps.slice(1)))
  })

  it('stay below full scale, a hard strum near −7 dBFS', () => {
    expect(peakDb(synthesiseRiff('open-chords', 'hard', 96, rate))).toBeLessThan(-4)
    expect(peakDb(synthesiseRiff('open-chords', 'hard', 96, rate))).toBeGreaterThan(-10)
  })

  it('are the same every time, and follow the tempo by halves and doubles', () => {
    expect(synthesiseRiff('lead-line', 'hard', 96, rate)).toEqual(synthesiseRiff('lead-line', 'hard', 96, rate))
    expect([40, 96, 220].map(riffTempo)).toEqual([80, 96, 110])
  })
})

describe('plucked string', () => {
  // Jaffe & Smith, CMJ 1983: the tuning allpass puts the fundamental where the loop's whole delay cannot
  it.each([82.407, 246.942, 587.33])('sounds at %s Hz within 3 cents', (hz) => {
    const out = new Float32Array(rate * 2)
    let seed = 5
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
    pluckString(
      out,
      [{ at: 0, length: 2, hz, strength: 0.3, mute: 0 }],
      { sampleRate: rate, pickPosition: 0.13, pickupPosition: 0.2 },
      random,
    )
    const energy = (f: number) => {
      let re = 0
      let im = 0
      for (let n = 0; n < out.length; n++) {
        const w = 0.5 - 0.5 * Math.cos((2 * Math.PI * n) / out.length)
        re += w * out[n] * Math.cos((2 * Math.PI * f * n) / rate)
        im += w * out[n] * Math.sin((2 * Math.PI * f * n) / rate)
      }
      return Math.hypot(re, im)
    }
    const cents = Array.from({ length: 41 }, (_, i) => i - 20)
    const best = cents.reduce((a, b) => (energy(hz * Math.pow(2, a / 1200)) > energy(hz * Math.pow(2, b / 1200)) ? a : b))
    expect(Math.abs(best)).toBeLessThanOrEqual(3)
  })
})

describe('resampling', () => {
  it.each([
    [44_100, 48_000],
    [96_000, 48_000],
    [48_000, 44_100],
  ])('keeps a 1 kHz sine from %s to %s Hz', (from, to) => {
    const x = Float32Array.from({ length: from }, (_, n) => Math.sin((2 * Math.PI * 1000 * n) / from))
    const y = resample(x, from, to)
    expect(y.length).toBe(to)
    let worst = 0
    for (let n = 2000; n < to - 2000; n++) worst = Math.max(worst, Math.abs(y[n] - Math.sin((2 * Math.PI * 1000 * n) / to)))
    expect(20 * Math.log10(worst)).toBeLessThan(-80)
  })

  it('takes out what the lower rate cannot hold', () => {
    const x = Float32Array.from({ length: 96_000 }, (_, n) => Math.sin((2 * Math.PI * 30_000 * n) / 96_000))
    expect(peakDb(resample(x, 96_000, 48_000).slice(2000, -2000))).toBeLessThan(-80)
  })
})

describe('cabinet responses', () => {
  it.each(cabinetResponses.map((r) => r.id))('%s cuts the fizz and the rumble, at every sample rate alike', (id) => {
    const gain = (sampleRate: number, hz: number) => {
      const taps = synthesiseResponse(id, sampleRate)
      let re = 0
      let im = 0
      taps.forEach((h, n) => {
        re += h * Math.cos((2 * Math.PI * hz * n) / sampleRate)
        im -= h * Math.sin((2 * Math.PI * hz * n) / sampleRate)
      })
      return 20 * Math.log10(Math.hypot(re, im))
    }
    expect(gain(rate, 30)).toBeLessThan(gain(rate, 150) - 10)
    expect(gain(rate, 12_000)).toBeLessThan(gain(rate, 2_500) - 20)
    for (const hz of [120, 1000, 3000]) expect(Math.abs(gain(96_000, hz) - gain(44_100, hz))).toBeLessThan(0.7)
  })

  // Oppenheim & Schafer: a minimum-phase sequence keeps the magnitude and has its energy first; x[0] = exp(c[0]/2 …), here one pole
  it('finds the minimum-phase sequence of a one-pole magnitude', () => {
    const size = 1024
    const magnitude = Float64Array.from(
      { length: size / 2 + 1 },
      (_, k) => 1 / Math.hypot(1 - 0.8 * Math.cos((2 * Math.PI * k) / size), 0.8 * Math.sin((2 * Math.PI * k) / size)),
    )
    const taps = minimumPhase(magnitude, size)
    for (let n = 0; n < 20; n++) expect(taps[n]).toBeCloseTo(Math.pow(0.8, n), 6)
  })
})
