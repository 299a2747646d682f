import { describe, expect, it } from 'vitest'
import {
  averageSpectrum,
  bandPower,
  centroid,
  outputMeasures,
  samplePeak,
  stageMeasures,
  THIRD_OCTAVES,
  thirdOctaves,
  thirdOctavesOf,
  truePeak,
} from '.'

const rate = 48_000
const sine = (hz: number, amplitude: number, seconds = 1, at = rate) =>
  Float32Array.from({ length: Math.round(seconds * at) }, (_, n) => amplitude * Math.sin((2 * Math.PI * hz * n) / at))
const noise = (length: number, seed = 9) => {
  let state = seed
  return Float32Array.from({ length }, () => ((state = (state * 16807) % 2147483647) / 2147483647) * 2 - 1)
}
const db = (x: number) => 10 * Math.log10(x)

describe('third-octave bands', () => {
  // ISO 266: nominal frequencies; IEC 61260-1: exact mid-bands 1000 · 10^(n/10), edges a sixth of an octave away (base ten)
  it('have the standard’s thirty nominal frequencies from 25 Hz to 20 kHz', () => {
    expect(THIRD_OCTAVES).toHaveLength(30)
    THIRD_OCTAVES.forEach((hz, i) => expect(Math.abs(hz / (1000 * Math.pow(10, (i - 16) / 10)) - 1)).toBeLessThan(0.02))
  })

  it.each(THIRD_OCTAVES.filter((hz) => hz >= 100 && hz <= 16_000))(
    'hold a sine at their middle, %s Hz, and little of it beside',
    (nominal) => {
      const index = THIRD_OCTAVES.indexOf(nominal)
      const exact = 1000 * Math.pow(10, (index - 16) / 10)
      const bands = thirdOctaves(averageSpectrum([sine(exact, 1, 2)], rate))
      expect(bands[index].db).toBeCloseTo(db(0.5), 0)
      for (const beside of [index - 2, index + 2]) if (bands[beside]) expect(bands[beside].db ?? -200).toBeLessThan(-25)
    },
  )

  // IEC 61260-1: a sine at the middle of a band is in it whole
  it.each([25, 31.5, 40, 50, 63, 80, 1_000])('%s Hz: a sine in the middle of its band is told within 0.1 dB', (hz) => {
    const exact = 1000 * Math.pow(10, (THIRD_OCTAVES.indexOf(hz) - 16) / 10)
    for (const seconds of [2, 5]) {
      const bands = thirdOctavesOf([sine(exact, 0.5, seconds)], rate)
      expect(Math.abs((bands.find((b) => b.hz === hz)?.db ?? -200) + 9.03)).toBeLessThan(0.1)
    }
  })

  it('tell low sines of both sides, each in its band', () => {
    const exact = (hz: number) => 1000 * Math.pow(10, (THIRD_OCTAVES.indexOf(hz) - 16) / 10)
    const bands = thirdOctavesOf([sine(exact(40), 0.5, 5), sine(exact(80), 0.25, 5)], rate)
    const at = (hz: number) => bands[THIRD_OCTAVES.indexOf(hz)].db ?? -200
    expect(Math.abs(at(40) + 9.03)).toBeLessThan(0.1)
    expect(Math.abs(at(80) + 15.05)).toBeLessThan(0.1)
    expect(at(125)).toBeLessThan(-60)
  })

  // half the rate four times: 3 kHz, 6 kHz, 12 kHz and 24 kHz fold onto 0
  it.each([2_900, 3_100, 5_900, 11_900, 12_100])('a sine of %s Hz leaves the low bands alone', (hz) => {
    const bands = thirdOctavesOf([sine(hz, 0.5, 5)], rate)
    for (const { hz: low, db: level } of bands) if (low <= 200) expect(level ?? -200).toBeLessThan(-75)
  })

  it('rise 10 dB a decade for white noise, whose power is even over frequency', () => {
    const bands = thirdOctaves(averageSpectrum([noise(rate * 8)], rate))
    const at = (hz: number) => bands[THIRD_OCTAVES.indexOf(hz)].db ?? 0
    expect(at(10_000) - at(1_000)).toBeCloseTo(10, 0)
    expect(at(4_000) - at(400)).toBeCloseTo(10, 0)
  })

  it('sum to the mean square', () => {
    const x = noise(rate * 2)
    const square = x.reduce((s, y) => s + y * y, 0) / x.length
    const { power } = averageSpectrum([x], rate)
    expect(power.reduce((a, b) => a + b, 0) / square).toBeCloseTo(1, 1)
  })
})

describe('brightness and bands', () => {
  it('puts the centroid of two equal sines between them', () => {
    const two = sine(500, 0.4, 2).map((x, n) => x + 0.4 * Math.sin((2 * Math.PI * 1_500 * n) / rate))
    expect(centroid(averageSpectrum([two], rate)) ?? 0).toBeGreaterThan(900)
    expect(centroid(averageSpectrum([two], rate)) ?? 0).toBeLessThan(1_150)
    expect(centroid(averageSpectrum([new Float32Array(rate)], rate))).toBeNull()
  })

  it('moves up when the top is lifted', () => {
    const dark = sine(300, 0.5, 2)
    const bright = dark.map((x, n) => x + 0.1 * Math.sin((2 * Math.PI * 6_000 * n) / rate))
    const of = (x: Float32Array) => centroid(averageSpectrum([x], rate)) ?? 0
    expect(of(bright)).toBeGreaterThan(of(dark) * 1.5)
  })

  it('tells the power inside a band', () => {
    const x = sine(1_000, 0.5, 2)
    const spectrum = averageSpectrum([x], rate)
    expect(bandPower(spectrum, 800, 1_250)).toBeCloseTo(0.125, 3)
    expect(bandPower(spectrum, 2_000, 4_000)).toBeLessThan(1e-6)
  })

  it('refuses three channels and unequal ones', () => {
    const x = sine(100, 0.1, 0.3)
    expect(() => averageSpectrum([x, x, x], rate)).toThrow('one or two channels')
    expect(() => stageMeasures([x, x.slice(1)], rate)).toThrow('differ in length')
  })
})

describe('levels', () => {
  it('of a full-scale sine: −3.01 dBFS RMS, 0 dBFS peak, 3.01 dB crest', () => {
    const m = stageMeasures([sine(997, 1, 2)], rate)
    expect(m.rmsDbfs).toBeCloseTo(-3.01, 2)
    expect(m.peakDbfs).toBeCloseTo(0, 2)
    expect(m.crestDb).toBeCloseTo(3.01, 1)
  })

  it('of a square: crest near zero; of an impulse: a large one', () => {
    const square = Float32Array.from({ length: rate }, (_, n) => (n % 480 < 240 ? 0.5 : -0.5))
    expect(stageMeasures([square], rate).rmsDbfs).toBeCloseTo(-6.02, 2)
    const click = new Float32Array(rate)
    click[rate / 2] = 0.5
    expect(stageMeasures([click], rate).crestDb ?? 0).toBeGreaterThan(40)
  })

  it('a second side alike changes neither RMS nor peak, but makes it 3 LU louder', () => {
    const x = sine(500, 0.2, 5)
    const one = outputMeasures([x], rate)
    const two = outputMeasures([x, x], rate)
    expect(two.rmsDbfs ?? 0).toBeCloseTo(one.rmsDbfs ?? 1, 6)
    expect((two.integratedLufs ?? 0) - (one.integratedLufs ?? 0)).toBeCloseTo(3.01, 1)
  })

  it('finds peaks between the samples: a quarter-rate sine sampled off its crests', () => {
    const x = Float32Array.from({ length: rate / 2 }, (_, n) => Math.sin((Math.PI * n) / 2 + Math.PI / 4))
    expect(samplePeak([x])).toBeCloseTo(Math.SQRT1_2, 6)
    expect(truePeak([x.map((y, n) => y * Math.min(1, n / 2_000, (x.length - n) / 2_000))])).toBeCloseTo(1, 1)
  })

  it.each([44_100, 88_200, 96_000])('measures the same at %s Hz', (other) => {
    const here = outputMeasures([sine(440, 0.3, 5)], rate)
    const there = outputMeasures([sine(440, 0.3, 5, other)], other)
    expect(there.integratedLufs ?? 0).toBeCloseTo(here.integratedLufs ?? 1, 1)
    expect(there.rmsDbfs ?? 0).toBeCloseTo(here.rmsDbfs ?? 1, 2)
  })
})

describe('brightness', () => {
  const sum = (...parts: Float32Array[]) => parts[0].map((_, n) => parts.reduce((total, part) => total + part[n], 0))
  const of = (...hz: number[]) => centroid(averageSpectrum([sum(...hz.map((f) => sine(f, 0.3)))], rate)) ?? 0

  // two equal sines have their amplitude-weighted centroid half way: both must count, from 40 Hz to 16 kHz and nothing beyond
  it.each([
    [[60, 1_000], 530],
    [[80, 2_000], 1_040],
    [[1_000, 15_000], 8_000],
    [[1_000, 18_000], 1_000],
    [[25, 1_000], 1_000],
  ])('of %o Hz is %s Hz', (hz, expected) => {
    expect(of(...hz) / expected).toBeGreaterThan(0.85)
    expect(of(...hz) / expected).toBeLessThan(1.15)
  })
})
