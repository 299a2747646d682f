import { GUITARS } from '@fulgor/core/guitar'
import { describe, expect, it } from 'vitest'
import { applyEdit, blankPreset } from '@fulgor/core/preset'
import { demoPresets } from '@fulgor/core/demo'
import { pickWords } from './picks'
import { rowName } from './rowName'
import { gutterWidth, sheetRows } from './rows'

const wall = demoPresets.find((d) => d.id === 'demo-tide-wall')?.preset ?? blankPreset('none')
const rows = sheetRows(wall.chain)
const row = (id: string) => {
  const found = rows.find((r) => r.id === id)
  if (!found) throw new Error(id)
  return found
}

describe('lines of the Sheet', () => {
  it('number the stages through and the lanes in their split', () => {
    expect(rows.filter((r) => r.kind === 'stage').map((r) => r.number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11])
    expect(rows.filter((r) => r.kind === 'lane').map((r) => r.number)).toEqual([1, 2, 3, 1, 2])
    const lane = row('right')
    expect(lane.stage && rowName(lane, lane.stage)).toBe('Lane 2')
    const amp = row('chime')
    expect(amp.stage && rowName(amp, amp.stage)).toBe('Bellbuoy 30')
  })

  it('follow the signal: what comes before a line and behind it', () => {
    expect([row('gate').before, row('gate').here, row('gate').after]).toEqual([null, 'gate', 'boost'])
    // each lane begins with what came into the split
    for (const id of ['left', 'right', 'below']) expect(row(id).here).toBe('boost')
    expect([row('chime').before, row('chime').after]).toEqual(['boost', 'cab1'])
    // the last stage of a lane goes into its strip, the sum into what follows
    expect(row('cab2').after).toBe('right')
    expect([row('amps').here, row('amps').after]).toEqual(['amps', 'eq'])
    expect(row('eq').before).toBe('amps')
    // an empty lane is its strip alone
    expect(row('dry').after).toBe('dry')
    expect(row('out').before).toBe('space')
  })

  it('know what passes beside a line in other lanes', () => {
    expect(row('chime').passing).toEqual(['boost'])
    expect(row('crunch').passing).toEqual(['boost', 'left'])
    expect(row('bass').passing).toEqual(['left', 'right'])
    expect(row('eq').passing).toEqual([])
  })

  it('draw one unbroken line: each path starts at the top and the last of a lane leaves it', () => {
    for (const r of rows) expect(r.path).toMatch(/^M\d/)
    expect(row('gate').path).toContain('M7 14V20')
    expect(row('boost').path).toContain('M7 0V20')
    expect(row('cab1').path).toContain('C23 32 30 28 30 40')
    expect(row('amps').path).toContain('M30 0C30 14 7 8 7 20')
    expect(row('chime').node).toBe(23)
    expect(gutterWidth(0)).toBe(14)
    expect(gutterWidth(2)).toBeGreaterThan(gutterWidth(1))
  })

  it('stand two deep', () => {
    const deep = applyEdit(wall, { type: 'split', stage: 'chime', split: 's', lanes: ['a', 'b'] })
    const deeper = sheetRows(deep.chain)
    expect(Math.max(...deeper.map((r) => r.depth))).toBe(2)
    const inner = deeper.find((r) => r.id === 'chime')
    expect(inner?.node).toBe(39)
    // the outer split's way to the next lane, the inner one's, and its own line
    expect(inner?.path.match(/M/g)?.length).toBeGreaterThanOrEqual(4)
  })
})

describe('strokes of a guitar', () => {
  it.each([
    [-7, 'hard pick'],
    [-12, 'normal pick'],
    [-18, 'soft pick'],
    [-28, 'soft pick'],
    [-50, 'any touch'],
    [0, 'harder than hard'],
  ])('%s dBFS on a hot humbucker is %s', (db, words) => {
    expect(pickWords(db, GUITARS[0].positions[0])).toBe(words)
  })

  it('a mild single coil needs a harder stroke for the same level', () => {
    expect(pickWords(-20, GUITARS[0].positions[0])).toBe('soft pick')
    expect(pickWords(-20, GUITARS[3].positions[0])).toBe('hard pick')
  })
})
