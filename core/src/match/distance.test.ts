import { describe, expect, it } from 'vitest'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { playRiff } from '@fulgor/core/riffs'
import { design, identity, sectionsDb } from '@fulgor/core/signal'
import { bandsOfSound, distanceOf, inspectReference, tiltOf, UnfitReference, viewOf } from '.'

const RATE = 48_000
const random = (seed: number) => () => {
  seed = (Math.imul(seed, 1_664_525) + 1_013_904_223) >>> 0
  return seed / 2 ** 31 - 1
}
const white = () => {
  const next = random(3)
  return Float32Array.from({ length: 20 * RATE }, () => 0.2 * next())
}

/** White noise through the filter of Kellet (pink within 0.05 dB from 10 Hz at 44.1 kHz; coefficients from memory). */
function pink(): Float32Array {
  const next = random(7)
  const b = new Float32Array(7)
  return Float32Array.from({ length: 20 * 44_100 }, () => {
    const w = 0.1 * next()
    b[0] = 0.99886 * b[0] + w * 0.0555179
    b[1] = 0.99332 * b[1] + w * 0.0750759
    b[2] = 0.969 * b[2] + w * 0.153852
    b[3] = 0.8665 * b[3] + w * 0.3104856
    b[4] = 0.55 * b[4] + w * 0.5329522
    b[5] = -0.7616 * b[5] - w * 0.016898
    const out = b[0] + b[1] + b[2] + b[3] + b[4] + b[5] + b[6] + w * 0.5362
    b[6] = w * 0.115926
    return out
  })
}

describe('third octaves', () => {
  const inside = (k: number) => THIRD_OCTAVES[k] >= 100 && THIRD_OCTAVES[k] <= 10_000
  it('of white noise rise by a decibel a band, of pink noise are even (IEC 61260-1: bands of a tenth of a decade)', () => {
    const rises = bandsOfSound([white()], RATE).db.flatMap((db, k, all) =>
      inside(k) && inside(k - 1) ? [(db ?? 0) - (all[k - 1] ?? 0)] : [],
    )
    for (const rise of rises) expect(Math.abs(rise - 1)).toBeLessThan(0.45)
    expect(rises.reduce((sum, v) => sum + v, 0) / rises.length).toBeCloseTo(1, 1)
    const even = bandsOfSound([pink()], 44_100).db.filter((_, k) => inside(k)) as number[]
    expect(Math.max(...even) - Math.min(...even)).toBeLessThan(0.9)
    expect(tiltOf(bandsOfSound([pink()], 44_100).db)).toBeCloseTo(0, 1)
  })

  it('differ little from half second to half second in noise, much in a riff', () => {
    const spreadAt = (x: Float32Array) => bandsOfSound([x], RATE).spread.filter((_, k) => inside(k))
    expect(Math.max(...spreadAt(white()))).toBeLessThan(1.2)
    expect(Math.max(...spreadAt(Float32Array.from(playRiff('lead-line', RATE, { strength: 'hard', bpm: 120 }))))).toBeGreaterThan(4)
  })
})

describe('the distance', () => {
  const riff = Float32Array.from(playRiff('open-chords', RATE, { strength: 'hard', bpm: 120 }))
  it('of a sound from itself is nothing, however loud', () => {
    const bands = bandsOfSound([riff], RATE).db
    expect(distanceOf(bands, bands)?.db).toBe(0)
    const softer = distanceOf(bandsOfSound([riff.map((v) => 0.25 * v)], RATE).db, bands)
    expect(softer?.db).toBeLessThan(0.01)
    expect(softer?.louder).toBeCloseTo(-12.04, 1)
  })

  it('through an equaliser is what the equaliser does, band by band', () => {
    const section = identity()
    design.bell(section, 800, 0.8, 9, RATE)
    const { b0, b1, b2, a1, a2 } = section
    let [s1, s2] = [0, 0]
    const noise = white()
    const through = noise.map((v) => {
      const y = b0 * v + s1
      s1 = b1 * v - a1 * y + s2
      s2 = b2 * v - a2 * y
      return y
    })
    const found = distanceOf(bandsOfSound([through], RATE).db, bandsOfSound([noise], RATE).db)
    const told = THIRD_OCTAVES.map((hz) => sectionsDb([section], hz, RATE))
    const mean = told.filter((_, k) => found?.bands[k] != null).reduce((sum, v, _, all) => sum + v / all.length, 0)
    found?.bands.forEach((db, k) => {
      if (db !== null) expect(Math.abs(db - (told[k] - mean))).toBeLessThan(0.3)
    })
  })

  it('is told only of what can be trusted', () => {
    const flat = THIRD_OCTAVES.map(() => -30)
    const bent = THIRD_OCTAVES.map((hz) => (hz > 5_000 ? -60 : -30))
    expect(distanceOf(bent, flat, { fromHz: 100, toHz: 5_000 })?.db).toBe(0)
    expect(distanceOf(bent, flat, { fromHz: 100, toHz: 160 })).toBeNull()
  })
})

describe('a recording that says nothing', () => {
  it('is refused in a sentence', () => {
    expect(() => inspectReference([new Float32Array(RATE / 2)], RATE)).toThrow('lasts 0.5 s')
    expect(() => inspectReference([new Float32Array(3 * RATE)], RATE)).toThrow('is silent')
    const x = white().subarray(0, 3 * RATE)
    expect(() => inspectReference([x, x], RATE, 'side')).toThrow(UnfitReference)
  })

  it('of two seconds has a spectrum, but neither tempo nor echo', () => {
    const x = white().subarray(0, 2 * RATE)
    const report = inspectReference([x, x], RATE)
    expect(report.tempo.value).toBeNull()
    expect(report.echo.words).toContain('are needed')
    expect(report.tuning.value).toBeNull()
    expect(report.sides.value?.kind).toBe('mono')
    expect(report.crestDb).toBeCloseTo(4.77, 1)
  })

  it('has a middle and a side', () => {
    const [a, b] = [Float32Array.of(1, 0.5), Float32Array.of(0, 0.5)]
    expect([...viewOf([a, b], 'mid')]).toEqual([0.5, 0.5])
    expect([...viewOf([a, b], 'side')]).toEqual([0.5, 0])
    expect(viewOf([a], 'right')).toBe(a)
  })
})
