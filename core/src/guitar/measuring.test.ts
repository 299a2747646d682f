import { describe, expect, it } from 'vitest'
import { restingGuitar } from '@fulgor/core/riffs'
import { Convolver } from '@fulgor/core/signal'
import { readGuitar, asDocument } from '.'
import {
  dryChannel,
  GUITARS,
  measuredPosition,
  measureGuitar,
  measureSteps,
  noiseIn,
  noteHz,
  noteNumber,
  playOn,
  strokesOn,
  UnfitRecording,
  voiceOf,
} from '.'

const RATE = 48_000
const guitar = GUITARS[0]
const [bridge] = guitar.positions

/** Noise of a seed: even, so that a level stands for an RMS of level / √3. */
function noise(seconds: number, level: number, seed = 1): Float32Array {
  let state = seed
  return Float32Array.from({ length: Math.round(seconds * RATE) }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return level * (state / 2 ** 31 - 1)
  })
}
const add = (into: Float32Array, what: Float32Array, at = 0): Float32Array => {
  what.forEach((v, n) => {
    if (at + n < into.length) into[at + n] += v
  })
  return into
}
const hum = (seconds: number, mains: number, levels: readonly number[]): Float32Array =>
  Float32Array.from({ length: Math.round(seconds * RATE) }, (_, n) =>
    levels.reduce((sum, a, k) => sum + a * Math.sin((2 * Math.PI * mains * (k + 1) * n) / RATE + k), 0),
  )
/** A decaying sine with a few harmonics. */
const pluck = (hz: number, level: number, seconds = 1.2): Float32Array =>
  Float32Array.from({ length: Math.round(seconds * RATE) }, (_, n) => {
    const t = n / RATE
    const ends = Math.min(1, t / 0.002, (seconds - t) / 0.02)
    return (
      level *
      ends *
      Math.exp(-1.5 * t) *
      (Math.sin(2 * Math.PI * hz * t) + 0.4 * Math.sin(4 * Math.PI * hz * t) + 0.2 * Math.sin(6 * Math.PI * hz * t))
    )
  })

describe('hum and hiss', () => {
  // levels of what was put together: sines of amplitude a have a²/2, even noise of level l has l²/3
  it.each([
    [50, [2e-4, 4e-4, 1e-4], 1e-4],
    [60, [3e-4, 1e-4, 2e-4], 2e-5],
    [50, [1e-5, 1e-5, 0], 3e-4],
    [60, [1e-3, 0, 5e-4], 1e-3],
  ])('%d Hz: within 0.5 dB of what was put together', (mains, lines, level) => {
    const rest = add(noise(1.6, level), hum(1.6, mains, lines))
    const found = noiseIn(rest, RATE)
    expect(found.mains).toBe(mains)
    expect(Math.abs(found.humDbfs - 10 * Math.log10(lines.reduce((s, a) => s + (a * a) / 2, 0)))).toBeLessThan(lines[0] < 5e-5 ? 3 : 0.5)
    expect(Math.abs(found.hissDbfs - 10 * Math.log10((level * level) / 3))).toBeLessThan(0.5)
  })

  it('mains that are a little off are hum all the same', () => {
    const found = noiseIn(add(noise(1.2, 1e-5), hum(1.2, 50.15, [3e-4, 3e-4, 3e-4])), RATE)
    expect(found.mains).toBe(50)
    expect(found.humDbfs).toBeCloseTo(10 * Math.log10(3 * 4.5e-8), 0)
  })
})

/** Two seconds of rest, then strums of the string model: soft, normal and hard, twice over. */
function recording(gain = 1): Float32Array {
  const x = add(noise(16, 3e-5), hum(16, 50, [1e-4, 2e-4]))
  const voice = voiceOf(guitar, bridge)
  ;(['soft', 'normal', 'hard'] as const).forEach((strength, k) => {
    const strum = strokesOn(voice, strength, RATE).subarray(0, 0.5 * RATE)
    for (let i = 0; i < 4; i++) add(x, strum, Math.round((2.2 + 4 * k + i) * RATE))
  })
  return x.map((v) => v * gain)
}

describe('a dry recording of a guitar', () => {
  it('shows its rest and its strums, and what they measure', () => {
    const m = measureGuitar(recording(), RATE, guitar)
    // the longest quiet stretch is the one behind the last strum
    const [rest] = m.segments.filter((s) => s.kind === 'rest')
    expect(rest.from).toBeGreaterThan(13.7)
    expect(rest.to).toBe(16)
    expect(m.segments.filter((s) => s.kind === 'soft')).toHaveLength(4)
    expect(m.segments.filter((s) => s.kind === 'normal')).toHaveLength(4)
    const hard = m.segments.filter((s) => s.kind === 'hard')
    expect(hard).toHaveLength(4)
    expect(Math.abs(hard[0].from - 10.2)).toBeLessThan(0.03)
    const peak = (s: 'soft' | 'normal' | 'hard') =>
      20 *
      Math.log10(
        strokesOn(voiceOf(guitar, bridge), s, RATE)
          .subarray(0, 12_000)
          .reduce((a, v) => Math.max(a, Math.abs(v)), 0),
      )
    for (const s of ['soft', 'normal', 'hard'] as const) expect(Math.abs(m[s].peakDbfs - peak(s))).toBeLessThan(0.3)
    expect(m.mains).toBe(50)
    expect(Math.abs(m.humDbfs - 10 * Math.log10(2.5e-8))).toBeLessThan(0.5)
    expect(m.centroidHz).toBeGreaterThan(900)
    expect(m.centroidHz).toBeLessThan(1_500)
    expect(m.warnings).toEqual([])
  })

  it('becomes the figures of a position, which a document takes', () => {
    const position = measuredPosition(bridge, measureGuitar(recording(), RATE, guitar), 'file', '2026-11-28')
    expect(position).toMatchObject({ from: 'file', measuredOn: '2026-11-28', mains: 50 })
    expect(readGuitar(JSON.parse(JSON.stringify(asDocument({ ...guitar, positions: [position] }))))).toMatchObject({
      positions: [position],
    })
  })

  it('may be played in four steps', () => {
    const voice = voiceOf(guitar, bridge)
    const part = (strength: 'soft' | 'normal' | 'hard') =>
      add(noise(2.5, 3e-5, 7), strokesOn(voice, strength, RATE).subarray(0, 24_000), 9_600)
    const m = measureSteps({ rest: noise(2, 3e-5), soft: part('soft'), normal: part('normal'), hard: part('hard') }, RATE, guitar)
    const whole = measureGuitar(recording(), RATE, guitar)
    expect(Math.abs(m.hard.peakDbfs - whole.hard.peakDbfs)).toBeLessThan(0.5)
    expect(m.soft.peakDbfs).toBeLessThan(m.normal.peakDbfs - 4)
    expect(() =>
      measureSteps({ rest: noise(0.5, 3e-5), soft: part('soft'), normal: part('normal'), hard: part('hard') }, RATE, guitar),
    ).toThrow('0.5 s')
    expect(() =>
      measureSteps({ rest: noise(2, 3e-5), soft: noise(2, 3e-5), normal: part('normal'), hard: part('hard') }, RATE, guitar),
    ).toThrow('No soft strum')
  })
})

describe('the pitch of open strings', () => {
  // equal temperament from the concert pitch: what the notes were made with
  it.each([425, 432, 440, 442])('at %d Hz within 1 cent', (a4) => {
    const x = noise(14, 2e-5)
    guitar.strings.forEach(({ note }, k) => add(x, pluck(noteHz(noteNumber(note) ?? 0, a4), 0.2), Math.round((1.6 + 2 * k) * RATE)))
    const pitch = measureGuitar(x, RATE, guitar).pitch
    expect(Math.abs(1200 * Math.log2((pitch?.a4 ?? 1) / a4))).toBeLessThan(1)
    pitch?.cents.forEach((c) => expect(Math.abs(Number(c) - 1200 * Math.log2(a4 / 440))).toBeLessThan(1))
  })

  it('each string is told by itself', () => {
    const x = noise(14, 2e-5)
    const off = [-6.3, 0, 4.8, -1.1, 2, 0.4]
    guitar.strings.forEach(({ note }, k) =>
      add(x, pluck(noteHz(noteNumber(note) ?? 0) * Math.pow(2, off[k] / 1200), 0.2), Math.round((1.6 + 2 * k) * RATE)),
    )
    measureGuitar(x, RATE, guitar).pitch?.cents.forEach((c, k) => expect(Math.abs(Number(c) - off[k])).toBeLessThan(1))
  })

  it('chords alone tell the concert pitch within a few cents', () => {
    const sharp = { ...guitar, a4: 440 }
    const m = measureGuitar(recording(), RATE, sharp)
    expect(Math.abs(1200 * Math.log2((m.pitch?.a4 ?? 1) / 440))).toBeLessThan(6)
  })
})

describe('what says nothing of a guitar is told so', () => {
  const refusal = (x: Float32Array, rate = RATE) => {
    try {
      measureGuitar(x, rate, guitar)
    } catch (error) {
      if (error instanceof UnfitRecording) return error.message
      throw error
    }
    return 'taken'
  }
  it.each([
    ['silence', () => new Float32Array(5 * RATE), 'is silent'],
    ['no quiet stretch', () => add(noise(6, 0.05), pluck(110, 0.3), RATE), 'no quiet stretch of 0.8 s'],
    ['nothing but noise', () => noise(6, 0.01), 'no quiet stretch'],
    ['a square wave', () => recording(60).map((v) => Math.max(-0.5, Math.min(0.5, v))), 'clipped to a square wave'],
    ['too short', () => recording().subarray(0, RATE), 'lasts 1.0 s'],
  ])('%s', (_, make, says) => expect(refusal(make())).toContain(says))

  it('a rate that has no top', () => expect(refusal(recording(), 22_050)).toContain('22,050 Hz'))

  it('clipped hard strums, a gated rest and a squashed signal are warned of', () => {
    const warned = (x: Float32Array) => measureGuitar(x, RATE, guitar).warnings.join(' ')
    expect(warned(recording(2.4).map((v) => Math.max(-0.9, Math.min(0.9, v))))).toMatch(/clips in \d+ places, first at 1[01]\./)
    const gated = recording()
    gated.fill(0, 0, 2 * RATE)
    expect(warned(gated)).toContain('digital silence')
    const squashed = noise(12, 1e-5)
    ;[0.05, 0.12, 0.4].forEach((level, k) => add(squashed, noise(0.8, level, k + 2), Math.round((2.5 + 3 * k) * RATE)))
    expect(warned(squashed)).toContain('compressed or distorted')
  })

  it('two sides: the empty one is left out, two signals and a stereo effect are refused', () => {
    const x = recording()
    const { samples, note } = dryChannel([new Float32Array(x.length), x])
    expect(samples).toBe(x)
    expect(note).toContain('left side is empty')
    expect(dryChannel([x, x.map((v) => 0.5 * v)]).samples).toBe(x)
    expect(() => dryChannel([x, noise(16, 0.1)])).toThrow('two different signals')
    expect(dryChannel([x, noise(16, 0.1)], 0).samples).toBe(x)
    const wide = x.map((v, n) => v + 0.7 * (x[n - 700] ?? 0))
    expect(() => dryChannel([x, wide])).toThrow('stereo effect')
  })
})

describe('a wet recording', () => {
  /** A file as a hand plays it: rest, then chords soft, normal and hard, each stopped. */
  const played = (() => {
    const voice = voiceOf(guitar, bridge)
    const rest = () => restingGuitar(1.5, RATE, voice.noise)
    const strums = (['soft', 'normal', 'hard'] as const).map((strength, k) => {
      const x = playOn('open-chords', voice, { strength, bpm: 80, take: 2 + k }, RATE).slice(0, 4.5 * RATE)
      const stop = 0.06 * RATE
      return x.map((v, n) => v * Math.min(1, (x.length - n) / stop))
    })
    const parts = [rest(), ...strums.flatMap((x) => [x, rest()])]
    const out = new Float32Array(parts.reduce((sum, p) => sum + p.length, 0))
    let at = 0
    for (const part of parts) {
      out.set(part, at)
      at += part.length
    }
    return out
  })()
  const told = (x: Float32Array) => measureGuitar(x, RATE, guitar).warnings.join(' ')

  it('dry, is not told of', () => {
    expect(told(played)).not.toMatch(/delay|reverb/)
  })

  it('by an echo 290 ms later and 12 dB softer is told with both', () => {
    const late = Math.round(0.29 * RATE)
    const words = told(played.map((v, n) => v + (n < late ? 0 : played[n - late] * Math.pow(10, -12 / 20))))
    const [, ms, db] = /comes back (\d+) ms later, (\d+) dB softer/.exec(words) ?? []
    expect(Number(ms)).toBe(290)
    expect(Math.abs(Number(db) - 12)).toBeLessThanOrEqual(3)
  })

  it('by a room that falls by 60 dB in 1.2 s is told with its time', () => {
    const tail = noise(1.5, 1, 7).map((v, n) => 0.012 * v * Math.pow(10, (-3 * n) / (1.2 * RATE)))
    const wet = Float32Array.from(played)
    new Convolver(Float32Array.from(tail)).process(wet, wet.length)
    const words = told(played.map((v, n) => v + wet[n]))
    const [, seconds] = /rings on, ([\d.]+) s for 60 dB/.exec(words) ?? []
    expect(Math.abs(Number(seconds) - 1.2)).toBeLessThan(0.25)
  })
})
