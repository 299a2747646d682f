import { describe, expect, it } from 'vitest'
import { loudness, LoudnessMeter, outputMeasures, truePeak } from '.'

const rate = 48_000
/** Segments of a stereo 1 kHz sine: level in dBFS of the peak, seconds. */
function tone(...segments: readonly (readonly [db: number, seconds: number])[]): Float32Array[] {
  const data = segments.flatMap(([db, seconds]) => Array.from({ length: Math.round(seconds * rate) }, () => Math.pow(10, db / 20)))
  const channel = Float32Array.from(data, (level, n) => level * Math.sin((2 * Math.PI * 1000 * n) / rate))
  return [channel, channel]
}

describe('loudness against EBU Tech 3341 (2016), table 1', () => {
  it.each([
    ['case 1', tone([-23, 20]), -23],
    ['case 2', tone([-33, 20]), -33],
    ['case 3', tone([-36, 10], [-23, 60], [-36, 10]), -23],
    ['case 4', tone([-72, 10], [-36, 10], [-23, 60], [-36, 10], [-72, 10]), -23],
    ['case 5', tone([-26, 20], [-20, 20.1], [-26, 20]), -23],
  ] as const)('%s', (_, signal, expected) => {
    expect(Math.abs((loudness(signal, rate).integratedLufs ?? 0) - expected)).toBeLessThanOrEqual(0.1)
  })

  it('case 9: short-term loudness of a pulsed tone', () => {
    const pulses = Array.from(
      { length: 5 },
      () =>
        [
          [-20, 1.34],
          [-30, 1.66],
        ] as const,
    ).flat()
    expect(Math.abs((loudness(tone(...pulses), rate).shortTermMaxLufs ?? 0) + 23)).toBeLessThanOrEqual(0.1)
  })

  it('case 12: momentary loudness of a pulsed tone', () => {
    const pulses = Array.from(
      { length: 25 },
      () =>
        [
          [-20, 0.18],
          [-30, 0.22],
        ] as const,
    ).flat()
    expect(Math.abs((loudness(tone(...pulses), rate).momentaryMaxLufs ?? 0) + 23)).toBeLessThanOrEqual(0.1)
  })
})

// EBU Tech 3341 (2016), table 1, case 13: twenty segments, in segment i silence of i · 20 ms before 400 ms of tone and 1 s of silence
it('case 13: momentary loudness of a burst that begins anywhere', () => {
  for (let i = 0; i < 20; i++) {
    const x = tone([-200, 0.02 * i], [-23, 0.4], [-200, 1])
    expect(Math.abs((loudness(x, rate).momentaryMaxLufs ?? 0) + 23)).toBeLessThanOrEqual(0.1)
  }
})

// EBU Tech 3341 cases 15–19: fs/4, fs/6, fs/8 sines with their phase; tolerance +0.2/−0.4 dB
describe('true peak against EBU Tech 3341', () => {
  it.each([
    ['case 15', 4, 0, 0.5, -6],
    ['case 16', 4, 45, 0.5, -6],
    ['case 17', 6, 60, 0.5, -6],
    ['case 18', 8, 67.5, 0.5, -6],
    ['case 19', 4, 45, 1.41, 3],
  ] as const)('%s', (_, divisor, degrees, amplitude, expected) => {
    const fade = 2400
    const x = Float32Array.from({ length: rate }, (_, n) => {
      const edge = Math.min(1, n / fade, (rate - 1 - n) / fade)
      return edge * amplitude * Math.sin((2 * Math.PI * n) / divisor + (degrees * Math.PI) / 180)
    })
    const db = 20 * Math.log10(truePeak([x]))
    expect(db).toBeLessThanOrEqual(expected + 0.2)
    expect(db).toBeGreaterThanOrEqual(expected - 0.4)
  })
})

describe('loudness range against EBU Tech 3342, table 1', () => {
  it.each([
    ['case 1', tone([-20, 20], [-30, 20]), 10],
    ['case 2', tone([-20, 20], [-15, 20]), 5],
    ['case 3', tone([-40, 20], [-20, 20]), 20],
    ['case 4', tone([-50, 20], [-35, 20], [-20, 20], [-35, 20], [-50, 20]), 15],
  ] as const)('%s', (_, signal, expected) => {
    expect(Math.abs((loudness(signal, rate).rangeLu ?? 0) - expected)).toBeLessThanOrEqual(1)
  })
})

describe('other measures', () => {
  it('reads a 1 kHz sine at half scale: bands, RMS, crest', () => {
    const x = Float32Array.from({ length: rate * 2 }, (_, n) => 0.5 * Math.sin((2 * Math.PI * 1000 * n) / rate))
    const m = outputMeasures([x], rate)
    expect(m.rmsDbfs).toBeCloseTo(-9.03, 2)
    expect(m.crestDb).toBeCloseTo(3.01, 1)
    expect(m.thirdOctave.find((b) => b.hz === 1000)?.db).toBeCloseTo(-9.03, 1)
    expect(m.thirdOctave.find((b) => b.hz === 500)?.db).toBeLessThan(-60)
    expect(m.centroidHz).toBeGreaterThan(950)
    expect(m.centroidHz).toBeLessThan(1100)
  })

  it('has no figures for silence', () => {
    const m = outputMeasures([new Float32Array(rate)], rate)
    expect(m).toMatchObject({ integratedLufs: null, rangeLu: null, truePeakDbtp: null, rmsDbfs: null, crestDb: null, centroidHz: null })
  })

  it('counts a mono signal as one channel', () => {
    const [x] = tone([-23, 10])
    expect(loudness([x], rate).integratedLufs).toBeCloseTo(-26.01, 1)
  })

  it('refuses three channels', () => {
    const x = new Float32Array(10)
    expect(() => loudness([x, x, x], rate)).toThrow('one or two channels')
  })

  it('meters as it measures', () => {
    const [x] = tone([-23, 2])
    const meter = new LoudnessMeter(rate)
    for (let n = 0; n < x.length; n += 128) meter.process(x.subarray(n, n + 128), x.subarray(n, n + 128), Math.min(128, x.length - n))
    expect(meter.momentary).toBeCloseTo(-23, 1)
  })

  // ITU-R BS.1770-5, annex 1: a sine of 997 Hz at 0 dBFS in one channel reads −3.01 LUFS, and channels add by power
  it.each([
    [-20, -26],
    [-26, -20],
    [-20, -Infinity],
  ])('meters %s and %s dBFS on two sides', (leftDb, rightDb) => {
    const sine = (db: number) => Float32Array.from({ length: rate }, (_, n) => 10 ** (db / 20) * Math.sin((2 * Math.PI * 997 * n) / rate))
    const [left, right] = [sine(leftDb), sine(rightDb)]
    const meter = new LoudnessMeter(rate)
    // pieces of any size
    for (let n = 0; n < rate; n += 113) meter.process(left.subarray(n, n + 113), right.subarray(n, n + 113), Math.min(113, rate - n))
    expect(meter.momentary).toBeCloseTo(-3.01 + 10 * Math.log10(10 ** (leftDb / 10) + 10 ** (rightDb / 10)), 1)
  })

  it('keeps the largest magnitudes until they are forgotten, of pieces of any size', () => {
    const meter = new LoudnessMeter(rate)
    const piece = (frames: number, at: number, value: number) => Float32Array.from({ length: frames }, (_, n) => (n === at ? value : 0.1))
    meter.process(piece(700, 699, -0.75), piece(700, 256, 0.5), 700)
    expect(meter.peaks).toEqual({ left: 0.75, right: 0.5 })
    meter.process(piece(13, 11, 0.625), piece(13, 0, -0.875), 13)
    expect(meter.peaks).toEqual({ left: 0.75, right: 0.875 })
    meter.peaks.left = meter.peaks.right = 0
    // what stands behind a short piece is none of it
    meter.process(piece(10, 0, 0.125), piece(10, 9, -0.25), 10)
    expect(meter.peaks).toEqual({ left: 0.125, right: 0.25 })
    // frames beyond the count are not looked at, nor kept
    expect(meter.peakOf(piece(300, 299, 1), 299)).toBeCloseTo(0.1, 6)
    expect(meter.peakOf(piece(300, 299, -1), 300)).toBe(1)
    expect(meter.peaks).toEqual({ left: 0.125, right: 0.25 })
  })
})
