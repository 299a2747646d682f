import { describe, expect, it } from 'vitest'
import { clearingDb, distanceOf, echoPattern, estimateTaps, maskingOf, nearestNote, noteMs, tappedBpm } from '.'

function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

describe('taps', () => {
  it('steady ones give their interval', () => {
    expect(estimateTaps([0, 500, 1_000, 1_500])).toEqual({ intervalMs: 500, taps: 4, errorMs: 0 })
    expect(estimateTaps([100, 600])).toMatchObject({ intervalMs: 500, errorMs: null })
    expect(estimateTaps([100])).toBeNull()
  })

  // jitter of a practised player: 20 ms standard deviation (Repp 2005, from memory); eight taps estimate within 3 %
  it('jittered ones come near, nearer than a mean of the last two', () => {
    const next = random(5)
    const gauss = () => Math.sqrt(-2 * Math.log(next() + 1e-12)) * Math.cos(2 * Math.PI * next())
    let worst = 0
    let lastTwo = 0
    for (let i = 0; i < 300; i++) {
      const interval = 300 + 500 * next()
      const times = Array.from({ length: 8 }, (_, k) => k * interval + 20 * gauss())
      const found = estimateTaps(times)
      worst = Math.max(worst, Math.abs((found?.intervalMs ?? 0) - interval) / interval)
      lastTwo = Math.max(lastTwo, Math.abs(times[7] - times[6] - interval) / interval)
    }
    expect(worst).toBeLessThan(0.04)
    expect(worst).toBeLessThan(lastTwo / 3)
  })

  it('a missed tap and a doubled one do not throw it', () => {
    expect(estimateTaps([0, 500, 1_000, 2_000, 2_500, 3_000])?.intervalMs).toBeCloseTo(500, 6)
    expect(estimateTaps([0, 500, 1_000, 1_060, 1_500, 2_000])?.intervalMs).toBeCloseTo(500, 6)
  })

  it('a pause begins anew', () => {
    expect(estimateTaps([0, 400, 800, 9_000, 9_600, 10_200])?.intervalMs).toBeCloseTo(600, 6)
  })

  // common practice: tapping quarters at 500 ms is 120 bpm, tapping halves of the same song takes 1,000 ms
  it('count as what the player taps', () => {
    expect(tappedBpm(500)).toBe(120)
    expect(tappedBpm(1_000, 'half')).toBe(120)
    expect(tappedBpm(250, 'eighth')).toBe(120)
    expect(() => tappedBpm(500, 'crotchet')).toThrow('no note value')
  })
})

// by hand: 60,000 / 120 = 500 ms a quarter; 375 a dotted eighth, 166.7 an eighth triplet; at 123 bpm a quarter is 487.8
it.each([
  [120, 375, 'eighth-dotted', 0],
  [120, 380, 'eighth-dotted', 5],
  [120, 166.7, 'eighth-triplet', 0],
  [123, 487.8, 'quarter', 0],
  [96, 300, 'eighth', -12.5],
])('at %s bpm, %s ms is nearest to %s', (bpm, ms, id, off) => {
  const found = nearestNote(bpm, ms)
  expect(found.id).toBe(id)
  expect(found.offMs).toBeCloseTo(off, 0)
  expect(noteMs(bpm, id) + found.offMs).toBeCloseTo(ms, 6)
})

describe('echoes', () => {
  // 50 % feedback is −6.02 dB a repeat, 20 % −13.98: handbook arithmetic
  it('fall by the feedback from the wet level on', () => {
    const half = echoPattern(375, 0.5, -12)
    expect(half.slice(0, 3).map((p) => [p.ms, Number(p.db.toFixed(2))])).toEqual([
      [375, -12],
      [750, -18.02],
      [1_125, -24.04],
    ])
    expect(half).toHaveLength(8)
    expect(echoPattern(375, 0, -12)).toEqual([{ ms: 375, db: -12 }])
  })

  it('are told by how far they lie under the notes that they fall on', () => {
    // a quarter echo under quarters: every repeat falls on a note; −12, −26 … sums to −11.8
    expect(maskingOf(echoPattern(500, 0.2, -12), 500)?.underDb).toBeCloseTo(11.82, 1)
    // a dotted eighth (375) against quarters (500) falls between them, but for every fourth repeat
    expect(maskingOf(echoPattern(375, 0.2, -12), 500)?.underDb).toBeGreaterThan(50)
    expect(maskingOf(echoPattern(375, 0, -12), 500)).toBeNull()
    // an echo within 40 ms of a note falls on it, one that comes later beside it
    expect([461, 465, 535, 539].map((ms) => maskingOf(echoPattern(ms, 0, -12), 500) !== null)).toEqual([true, true, true, true])
    expect([455, 545].map((ms) => maskingOf(echoPattern(ms, 0, -12), 500))).toEqual([null, null])
  })

  it('and by how much they must come down', () => {
    expect(clearingDb(maskingOf(echoPattern(500, 0, -5), 500))).toBeCloseTo(7, 6)
    expect(clearingDb(maskingOf(echoPattern(500, 0, -20), 500))).toBe(0)
    expect(clearingDb(null)).toBe(0)
  })

  // 343 m/s: 1 ms is 0.343 m or 1.125 ft
  it('short ones are told as a distance', () => {
    expect(distanceOf(1).metres).toBeCloseTo(0.343, 6)
    expect(distanceOf(10).feet).toBeCloseTo(11.25, 2)
  })
})
