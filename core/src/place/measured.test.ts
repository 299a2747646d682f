import { describe, expect, it } from 'vitest'
import { bandsDb, bandsFrom, correctSides, curveOfImpulse, readCurve, UnfitCurve, type PlaceBand } from '.'

const room: readonly PlaceBand[] = [
  { kind: 'low', hz: 90, db: 5, q: 0.7 },
  { kind: 'bell', hz: 240, db: -4, q: 1.2 },
  { kind: 'high', hz: 6_000, db: -6, q: 0.7 },
]
const HZ = Array.from({ length: 60 }, (_, k) => 30 * Math.pow(500, k / 59))
const told = bandsDb(room, [1_000])[0]

describe('a measured response', () => {
  it('is read from lines of Hz and dB, whatever stands around them', () => {
    const text = [
      '* a measurement',
      'Freq(Hz) SPL(dB) Phase(degrees)',
      ...HZ.map((hz, k) => `${hz.toFixed(3)}\t${(bandsDb(room, [hz])[0] + 80).toFixed(2)}\t${k}`),
    ]
    const curve = readCurve(text.join('\r\n'))
    expect(curve).toHaveLength(60)
    expect(readCurve(text.join('\n').replaceAll('\t', '; '))).toEqual(curve)
    expect(readCurve(text.join('\n').replaceAll('\t', ', '))).toEqual(curve)
    const { bands, leftDb } = bandsFrom(curve)
    expect(leftDb).toBeLessThan(0.5)
    for (const hz of [40, 90, 240, 1_000, 3_000, 8_000, 14_000])
      expect(Math.abs(bandsDb(bands, [hz])[0] - (bandsDb(room, [hz])[0] - told))).toBeLessThan(1.2)
  })

  it('is read from an impulse that was recorded there', () => {
    const click = Float32Array.from({ length: 48_000 }, (_, n) => (n === 400 ? 0.5 : 0))
    const [heard] = correctSides([click], room, 48_000)
    const { bands } = bandsFrom(curveOfImpulse(heard, 48_000))
    for (const hz of [60, 240, 1_000, 4_000, 10_000])
      expect(Math.abs(bandsDb(bands, [hz])[0] - (bandsDb(room, [hz])[0] - told))).toBeLessThan(1.2)
  })

  it('that is even needs no bands, and one that says nothing is refused', () => {
    expect(bandsFrom(HZ.map((hz) => [hz, -31] as const)).bands).toEqual([])
    expect(() => readCurve('nothing here\n1 2\n')).toThrow(UnfitCurve)
    expect(() =>
      readCurve(
        HZ.filter((hz) => hz < 900)
          .map((hz) => `${hz} 1`)
          .join('\n'),
      ),
    ).toThrow('500 Hz to 2 kHz')
  })
})
