import { describe, expect, it } from 'vitest'
import { Biquad, createBlock, design } from '@fulgor/core/signal'
import { NECK_NOTE_S, NECK_NOTES, neckNotes } from '@fulgor/core/riffs'
import { pitchOf } from '@fulgor/core/measure'
import { changeDb, gapDepthDb, harshNote, laneAgainst } from '.'

const RATE = 48_000
/** A linear congruential generator (Numerical Recipes, Press et al., 1992). */
function noise(seconds: number, seed = 1): Float32Array {
  let state = seed
  return Float32Array.from({ length: seconds * RATE }, () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return state / 2 ** 31 - 1
  })
}
const delayed = (x: Float32Array, samples: number, gain = 1) => x.map((_, n) => gain * (x[n - samples] ?? 0))
const against = (a: Float32Array, b: Float32Array) => {
  const pair = laneAgainst(['a', 'b'], a, b, RATE)
  if (!pair) throw new Error('silent')
  return pair
}

describe('a lane against another', () => {
  const x = noise(1)
  it('is found late by its samples and turned over', () => {
    expect(against(x, delayed(x, 24))).toMatchObject({ lateMs: 0.5, inverted: false })
    expect(against(delayed(x, 7), x).lateMs).toBeCloseTo(-7 / 48, 9)
    expect(against(x, delayed(x, 24, -0.5)).inverted).toBe(true)
  })

  it('adds 3.01 dB in phase, nothing where it is unrelated, and cancels turned over', () => {
    // powers add to 2, equal waves to 4
    expect(against(x, x).sumDb).toBeCloseTo(3.01, 2)
    expect(Math.abs(against(x, noise(1, 99)).sumDb)).toBeLessThan(0.2)
    expect(against(x, delayed(x, 0, -1)).sumDb).toBeLessThan(-60)
    expect(against(x, noise(1, 99)).alike).toBeLessThan(0.1)
  })

  it('is nothing where one is silent', () => {
    expect(laneAgainst(['a', 'b'], x, new Float32Array(x.length), RATE)).toBeNull()
  })
})

it('gaps 26 dB under the notes are 26 dB deep, also filled up to 6 dB', () => {
  const bursts = (gap: number) =>
    Float32Array.from({ length: 2 * RATE }, (_, n) => (Math.floor(n / 9_600) % 2 ? gap : 1) * Math.sin((2 * Math.PI * 1_000 * n) / RATE))
  expect(gapDepthDb(bursts(0.05), RATE)).toBeCloseTo(26.02, 1)
  expect(gapDepthDb(bursts(0.5), RATE)).toBeCloseTo(6.02, 1)
  expect(gapDepthDb(new Float32Array(RATE), RATE)).toBeNull()
})

it('a change is the largest of loudness, crest and shape, and none between alike sounds', () => {
  const bands = (...db: number[]) => db.map((x, i) => ({ hz: 100 * (i + 1), low: 0, high: 0, db: x }))
  const as = { bands: bands(-20, -30, -90), crestDb: 12, lufs: -18 }
  expect(changeDb(as, as)).toBe(0)
  // 6 dB up is the same shape
  expect(changeDb(as, { ...as, bands: bands(-14, -24, -84), lufs: -12 })).toBe(6)
  expect(changeDb(as, { ...as, crestDb: 9 })).toBe(3)
  // what lies 70 dB down is not heard: (4 + 2) / 2
  expect(changeDb(as, { ...as, bands: bands(-24, -28, -20) })).toBe(3)
  expect(changeDb(as, { ...as, lufs: null })).toBeNull()
})

describe('single notes up the neck', () => {
  const dry = neckNotes(RATE)
  const through = (gain: number, hz = 2_000, q = 8) => {
    const filter = new Biquad()
    design.bell(filter.section, hz, q, gain, RATE)
    const block = createBlock()
    const out = Float32Array.from(dry)
    for (let at = 0; at < out.length; at += block.left.length) {
      const count = Math.min(block.left.length, out.length - at)
      for (let i = 0; i < count; i++) block.left[i] = out[at + i]
      block.stereo = false
      filter.process(block)
      for (let i = 0; i < count; i++) out[at + i] = block.left[i]
    }
    return out
  }

  it('are in tune: A2 110 Hz, whole tones up to F5', () => {
    expect(NECK_NOTES[0].hz).toBeCloseTo(110, 1)
    expect(NECK_NOTES.every((n) => n.fret >= 0 && n.fret <= 13)).toBe(true)
    NECK_NOTES.forEach(({ hz }, i) => {
      const span = Math.round(NECK_NOTE_S * RATE)
      const found = pitchOf(dry.slice(i * span + 2_000, (i + 1) * span), RATE)
      expect(Math.abs(1_200 * Math.log2((found?.hz ?? 1) / hz))).toBeLessThan(15)
    })
  })

  it('find a resonance of 12 dB near 2 kHz where it is, and nothing in the guitar itself or a boost of 3 dB', () => {
    const found = harshNote(dry, through(12), RATE)
    expect(found?.db).toBeGreaterThan(6)
    expect(found?.db).toBeLessThan(13)
    expect(Math.abs(Math.log2((found?.hz ?? 1) / 2_000))).toBeLessThan(1 / 6)
    expect(harshNote(dry, through(0), RATE)?.db ?? 0).toBeLessThan(0.1)
    expect(harshNote(dry, through(3), RATE)?.db ?? 0).toBeLessThan(4)
  })
})
