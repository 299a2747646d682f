import { describe, expect, it } from 'vitest'
import { design, identity, sectionsDb } from '@fulgor/core/signal'
import { CORRECTIVE, CREATIVE, eqFor, type EqBand } from '.'

const RATE = 48_000
const HZ = Array.from({ length: 64 }, (_, k) => 100 * Math.pow(100, (k + 0.5) / 64))
const curve = (bands: readonly EqBand[]) => {
  const sections = bands.map(({ hz, db, q }) => {
    const section = identity()
    design.bell(section, hz, q, db, RATE)
    return section
  })
  return HZ.map((f) => sectionsDb(sections, f, RATE))
}

describe('an equaliser for a difference', () => {
  it('of three hidden bands is found within a decibel at every frequency, 40 times of 40', () => {
    let state = 5
    const random = () => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
      return state / 2 ** 32
    }
    const worst = Array.from({ length: 40 }, () => {
      const hidden = [150, 700, 3_300].map((hz) => ({ hz: hz * (0.7 + 0.8 * random()), db: 16 * random() - 8, q: 0.6 + 1.2 * random() }))
      const wanted = curve(hidden)
      const found = eqFor(HZ, wanted, { ...CREATIVE, mostDb: 12, q: [0.4, 3] })
      const rest = curve(found.bands).map((db, k) => db + wanted[k])
      const mean = rest.reduce((sum, v) => sum + v / rest.length, 0)
      return Math.max(...rest.map((v) => Math.abs(v - mean)))
    })
    expect(worst.filter((db) => db < 1).length).toBe(40)
  }, 60_000)

  it('keeps its limits: cuts only, narrow, and no more bands than are worth it', () => {
    const ringing = curve([{ hz: 1_200, db: 7, q: 6 }])
    const found = eqFor(HZ, ringing, CORRECTIVE)
    expect(found.bands[0].hz).toBeGreaterThan(1_120)
    expect(found.bands[0].hz).toBeLessThan(1_280)
    for (const { db, q } of found.bands) {
      expect(db).toBeLessThanOrEqual(0)
      expect(q).toBeGreaterThanOrEqual(2.5)
    }
    expect(found.bands.length).toBeLessThanOrEqual(2)
    // what a cut cannot do is left
    expect(eqFor(HZ, curve([{ hz: 500, db: -6, q: 4 }]), CORRECTIVE).db).toBeGreaterThan(0.4)
    expect(
      eqFor(
        HZ,
        HZ.map(() => 3),
        CREATIVE,
      ),
    ).toEqual({ bands: [], db: 0 })
  })
})
