import { beforeAll, describe, expect, it } from 'vitest'
import { drivers, micResponse, type CabDesign, type MicPlace } from '@fulgor/core/cabinet'
import { playRiff } from '@fulgor/core/riffs'
import { Convolver } from '@fulgor/core/signal'
import { bandsAt, candidateOf, gridOf, longSpectrum, powerAt, Ranking } from '.'

const RATE = 48_000
const GRID = gridOf({ fromHz: 100, toHz: 10_000 })
const BOX: Omit<CabDesign, 'driver'> = { size: '12', drivers: '4', back: 'closed', second: 'same' }

/** 96 responses: every driver, three microphones, places across the cone and before it. */
const library = drivers.slice(0, 4).flatMap(({ id: driver }) =>
  (['coil', 'ribbon', 'small-condenser'] as const).flatMap((type) =>
    [
      [5, 15],
      [25, 15],
      [50, 25],
      [75, 40],
      [20, 80],
      [55, 120],
      [0, 200],
      [90, 60],
    ].map(([offset, distance]) => {
      const place: MicPlace = { type, offset, bearing: 0, distance, angle: 0, reflections: 0, room: 0 }
      return micResponse({ driver, ...BOX }, place, RATE, 2_048)
    }),
  ),
)

const convolved = (x: Float32Array, taps: Float64Array): Float32Array => {
  const out = x.slice()
  new Convolver(taps).process(out, out.length)
  return out
}

/** Two responses on one, the second later, at a level and in a polarity. */
function blended(first: Float64Array, second: Float64Array, gain: number, lateUs: number): Float64Array {
  const onset = (taps: Float64Array) => {
    const peak = taps.reduce((m, v) => Math.max(m, Math.abs(v)), 0)
    return taps.findIndex((v) => Math.abs(v) >= 0.1 * peak)
  }
  const late = onset(first) - onset(second) + (lateUs * RATE) / 1e6
  // band-limited: a windowed sinc of 64 taps
  const out = first.slice()
  for (let n = 0; n < out.length; n++)
    for (let k = Math.ceil(n - late - 32); k <= n - late + 32; k++) {
      if (k < 0 || k >= second.length) continue
      const t = n - late - k
      const w = 0.5 + 0.5 * Math.cos((Math.PI * t) / 32)
      out[n] += gain * second[k] * w * (Math.abs(t) < 1e-9 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t))
    }
  return out
}

let sound: Float32Array
let power: Float32Array
const candidates = library.map((taps) => candidateOf(GRID, taps, RATE))
const everyOne = library.map((_, k) => k)
beforeAll(() => {
  const dry = playRiff('open-chords', RATE, { strength: 'hard', bpm: 120 })
  sound = Float32Array.from(dry, (v) => 0.3 * Math.tanh(8 * v))
  power = powerAt(GRID, longSpectrum([sound], RATE))
})
const heardAs = (taps: Float64Array): Ranking =>
  new Ranking({ grid: GRID, power, wanted: bandsAt(GRID, longSpectrum([convolved(sound, taps)], RATE)) }, candidates)

describe('ranking', () => {
  it('finds a response that the recording was made with, alone', () => {
    for (const k of [3, 40, 77]) {
      const [best, next] = heardAs(library[k]).alone()
      expect(best.first).toBe(k)
      expect(best.db).toBeLessThan(0.3)
      expect(next.db).toBeGreaterThan(best.db)
    }
  })

  it('finds a hidden blend of two, with its level, lag and polarity, among more than 200,000', () => {
    let state = 11
    const random = () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
      return state / 2 ** 32
    }
    const ranks: number[] = []
    for (let round = 0; round < 8; round++) {
      const [i, j] = [Math.floor(random() * library.length), Math.floor(random() * library.length)].sort((a, b) => a - b)
      if (i === j) continue
      const [levelDb, lateUs, sign] = [12 * random() - 6, 600 * random() - 300, random() < 0.5 ? 1 : -1]
      const heard = heardAs(new Float64Array(2_048))
      const gain = Math.pow(10, (levelDb + heard.gainDb[j] - heard.gainDb[i]) / 20)
      const aim = heardAs(blended(library[i], library[j], sign * gain, lateUs))
      const { best, blends } = aim.pairs(everyOne, everyOne, 400)
      expect(blends).toBeGreaterThan(200_000)
      const rank = best.findIndex((b) => b.first === i && b.second === j) + 1
      const found = best[rank - 1]
      if (rank === 1) {
        expect(found.inverted).toBe(sign < 0)
        expect(Math.abs(found.levelDb - levelDb)).toBeLessThan(0.5)
        expect(Math.abs(found.lateUs - lateUs)).toBeLessThan(6)
      }
      ranks.push(rank)
    }
    expect(ranks.filter((r) => r >= 1 && r <= 3).length).toBeGreaterThanOrEqual(7)
  }, 240_000)
})
