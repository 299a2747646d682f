import { describe, expect, it } from 'vitest'
import { DocumentError } from '@fulgor/core/document'
import {
  allowedHours,
  bandsDb,
  comparePlaces,
  CONTOUR_HZ,
  contour,
  correctSides,
  differenceWords,
  hearThere,
  louderBalance,
  PLACES_TO_BEGIN,
  proposeCorrection,
  readPlace,
  type Place,
} from '.'

const [phones, , , pa] = PLACES_TO_BEGIN
const plain = (level: number): Place => ({ ...phones, name: `${level}`, level, response: [] })

describe('equal loudness', () => {
  // ISO 226:2003, annex: the contour of 40 phon, dB SPL, 20 Hz to 12.5 kHz (from memory)
  const FORTY = [
    99.85, 93.94, 88.17, 82.63, 77.78, 73.08, 68.48, 64.37, 60.59, 56.7, 53.41, 50.4, 47.58, 44.98, 43.05, 41.34, 40.06, 40.01, 41.82,
    42.51, 39.23, 36.51, 35.61, 36.65, 40.01, 45.83, 51.8, 54.28, 51.49,
  ]
  it('is the published contour of 40 phon within 0.1 dB', () => {
    contour(40).forEach((db, k) => expect(Math.abs(db - FORTY[k])).toBeLessThan(0.1))
  })

  it.each([20, 40, 60, 80, 90])('%d phon are so many dB at 1 kHz', (phon) => {
    expect(Math.abs(contour(phon)[CONTOUR_HZ.indexOf(1000)] - phon)).toBeLessThan(0.1)
  })

  it('louder brings the lows forward, most at the bottom, and softer takes them back by as much', () => {
    const up = louderBalance(65, 94)
    expect(up[CONTOUR_HZ.indexOf(1000)]).toBeCloseTo(0, 10)
    expect(up[CONTOUR_HZ.indexOf(63)]).toBeGreaterThan(up[CONTOUR_HZ.indexOf(160)])
    expect(up[CONTOUR_HZ.indexOf(160)]).toBeGreaterThan(2)
    louderBalance(94, 65).forEach((db, k) => expect(db).toBeCloseTo(-up[k], 10))
    expect(louderBalance(70, 70).every((db) => Math.abs(db) < 1e-12)).toBe(true)
  })
})

// 8 h / 2^((L − 85) / 3): NIOSH 98-126, 1998, table 1-1
it.each([
  [85, 8],
  [88, 4],
  [91, 2],
  [94, 1],
  [97, 0.5],
  [100, 0.25],
  [106, 0.0625],
])('at %d dB(A) the usual limit is %d h a day', (dba, hours) => expect(allowedHours(dba)).toBeCloseTo(hours, 10))
it('below 85 it names no time', () => expect(allowedHours(84.9)).toBeNull())

describe('two places', () => {
  it('differ by the ear and by what they do to the sound, told in a sentence', () => {
    const d = comparePlaces(phones, pa)
    expect(d.louder).toBe(29)
    d.sum.forEach((db, k) => expect(db).toBeCloseTo(d.ear[k] + d.response[k], 10))
    expect(d.lows).toBeGreaterThan(5)
    expect(d.top).toBeLessThan(0)
    expect(differenceWords(phones, pa)).toMatch(
      /^What was even at “Headphones at night” has \d+ dB more lows and \d+ dB less top at “House PA, mono”, where it is 29 dB louder\.$/,
    )
    expect(differenceWords(phones, { ...phones, name: 'Same' })).toBe('At “Same” it is as loud, and the balance stays.')
  })

  it('are brought back by at most three bands to within 1.5 dB from 60 Hz to 8 kHz', () => {
    for (const [a, b] of [
      [phones, pa],
      [plain(60), plain(95)],
      [plain(95), plain(65)],
    ]) {
      const correction = proposeCorrection(a, b)
      expect(correction.length).toBeLessThanOrEqual(3)
      const left = comparePlaces(a, { ...b, correction }).sum.filter((_, k) => CONTOUR_HZ[k] >= 60 && CONTOUR_HZ[k] <= 8_000)
      expect(Math.max(...left) - Math.min(...left)).toBeLessThan(3)
    }
    expect(proposeCorrection(plain(70), plain(70))).toEqual([])
  })

  it('are heard by a filter that does what the curve says', () => {
    const taps = hearThere(phones, pa, 48_000)
    const { sum } = comparePlaces(phones, pa)
    const gainDb = (hz: number) => {
      let [re, im] = [0, 0]
      taps.forEach((h, n) => {
        re += h * Math.cos((2 * Math.PI * hz * n) / 48_000)
        im += h * Math.sin((2 * Math.PI * hz * n) / 48_000)
      })
      return 10 * Math.log10(re * re + im * im)
    }
    for (const hz of [100, 250, 1000, 4000, 8000]) expect(Math.abs(gainDb(hz) - sum[CONTOUR_HZ.indexOf(hz)])).toBeLessThan(0.3)
  })

  it('are corrected in an export by just what the bands say', () => {
    const bands = [
      { kind: 'low', hz: 120, db: -6, q: 0.7 },
      { kind: 'bell', hz: 1_000, db: 4, q: 1 },
    ] as const
    const [left, right] = correctSides([Float32Array.of(1, ...new Array<number>(47_999).fill(0)), new Float32Array(48_000)], bands, 48_000)
    for (const hz of [40, 120, 400, 1_000, 5_000]) {
      let [re, im] = [0, 0]
      left.forEach((v, n) => {
        re += v * Math.cos((2 * Math.PI * hz * n) / 48_000)
        im += v * Math.sin((2 * Math.PI * hz * n) / 48_000)
      })
      expect(20 * Math.log10(Math.hypot(re, im))).toBeCloseTo(bandsDb(bands, [hz])[0], 1)
    }
    expect(right.every((v) => v === 0)).toBe(true)
  })

  it('have bands that add up', () => {
    const [db] = bandsDb(
      [
        { kind: 'bell', hz: 1000, db: 4, q: 1 },
        { kind: 'low', hz: 4_000, db: 2, q: 0.7 },
      ],
      [1000],
    )
    expect(db).toBeCloseTo(6, 0)
  })
})

describe('a place’s document', () => {
  it('comes back as it was, and is refused by field', () => {
    expect(readPlace(JSON.parse(JSON.stringify(pa)))).toEqual(pa)
    expect(() => readPlace({ ...pa, level: 130 })).toThrow('level')
    expect(() => readPlace({ ...pa, response: [{ kind: 'bell', hz: 5, db: 0, q: 1 }] })).toThrow('response[0].hz')
    expect(() => readPlace({ ...pa, mono: 1 })).toThrow(DocumentError)
  })
})
