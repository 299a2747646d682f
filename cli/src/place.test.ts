import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it } from 'vitest'
import { PLACES_TO_BEGIN } from '@fulgor/core/place'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-place-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const pa = join(folder, 'pa.json')
writeFileSync(pa, JSON.stringify(PLACES_TO_BEGIN[3]))

it('two places are compared, by name or document', () => {
  const { status, json } = fulgor('place', 'compare', 'Headphones at night', pa, '--json')
  expect(status).toBe(0)
  const found = json() as unknown as { hz: number[]; earDb: number[]; sumDb: number[]; hoursADay: number; correction: object[] }
  // ISO 226:2003 is equal at 1 kHz by definition; NIOSH 98-126: an hour at 94 dB(A)
  expect(found.earDb[found.hz.indexOf(1000)]).toBeCloseTo(0, 10)
  expect(found.hoursADay).toBeCloseTo(1, 10)
  expect(found.correction.length).toBeGreaterThan(0)
  expect(fulgor('place', 'compare', 'headphones at night', pa).stdout).toContain('dB more lows')
})

it('a place that is none is refused by its file', () => {
  const { status, stderr } = fulgor('place', 'compare', 'Nowhere', pa)
  expect([status, stderr.includes('Nowhere: there is no such file')]).toEqual([2, true])
})
