import { describe, expect, it } from 'vitest'
import { columnsOf, isUsable, nextInRow, Together, TOGETHER_MS, type FootEvent } from '.'

const told = (events: readonly FootEvent[]) => events.map((e) => `${e.kind} ${e.at} ${e.down ? 'v' : '^'} ${e.when}`)

/** A and B are a pair told by A, B and C one told by B; D belongs to none. */
const PAIRS: Record<string, ReadonlyMap<string, string>> = {
  a: new Map([['b', 'a']]),
  b: new Map([
    ['a', 'a'],
    ['c', 'b'],
  ]),
  c: new Map([['b', 'b']]),
  d: new Map(),
}

/** `a v 100`: a comes down at 100 ms; what falls due is called as its owner would. */
function played(...moves: readonly string[]): string[] {
  const together = new Together()
  const heard: string[] = []
  const dueBefore = (end: number) => {
    for (let due = together.dueAt(); due !== null && due < end; due = together.dueAt()) heard.push(...told(together.due(due)))
  }
  for (const move of moves) {
    const [at, way, time] = move.split(' ')
    dueBefore(Number(time))
    heard.push(...told(together.move(at, way === 'v', Number(time), PAIRS[at])))
  }
  dueBefore(Infinity)
  return heard
}

describe('two switches', () => {
  it('pressed within the time are one gesture, whichever comes first, and neither acts alone', () => {
    expect(played('a v 100', 'b v 130', 'a ^ 300', 'b ^ 320')).toEqual(['both a v 130', 'both a ^ 300'])
    expect(played('b v 100', 'a v 149', 'b ^ 300', 'a ^ 320')).toEqual(['both a v 149', 'both a ^ 300'])
  })

  it('pressed later are two presses: each with the time of its own foot', () => {
    expect(played('a v 100', `b v ${100 + TOGETHER_MS}`, 'a ^ 300', 'b ^ 400')).toEqual([
      'alone a v 100',
      'alone b v 150',
      'alone a ^ 300',
      'alone b ^ 400',
    ])
  })

  it('a quick one is not swallowed, and the next one finds nobody waiting', () => {
    expect(played('a v 100', 'a ^ 120', 'b v 130', 'b ^ 140')).toEqual(['alone a v 100', 'alone a ^ 120', 'alone b v 130', 'alone b ^ 140'])
  })

  it('of several pairs the one that was pressed is meant', () => {
    expect(played('c v 0', 'b v 10', 'b ^ 20', 'c ^ 30')).toEqual(['both b v 10', 'both b ^ 20'])
    expect(played('a v 0', 'c v 10', 'a ^ 100', 'c ^ 110')).toEqual(['alone a v 0', 'alone c v 10', 'alone a ^ 100', 'alone c ^ 110'])
  })

  it('a switch of no pair acts at once', () => {
    expect(played('d v 5', 'd ^ 6')).toEqual(['alone d v 5', 'alone d ^ 6'])
  })
})

describe('which switch is beside which', () => {
  it('goes along a row, not around its end', () => {
    expect(columnsOf(6)).toBe(6)
    expect(columnsOf(8)).toBe(4)
    expect([0, 2, 3, 4, 7].map((i) => nextInRow(i, 8))).toEqual([1, 3, null, 5, null])
    expect([0, 5].map((i) => nextInRow(i, 6))).toEqual([1, null])
  })

  it('only a device that knows it can be pressed so', () => {
    const size = { switches: 8, banks: 1, hold: false, double: false, pedals: 0, sources: 1, assignments: 1, snapshots: 8 }
    expect(isUsable('both', { index: 0 }, size)).toBe(false)
    expect(isUsable('both', { index: 0 }, { ...size, both: true })).toBe(true)
    expect(isUsable('both', { index: 3 }, { ...size, both: true })).toBe(false)
    expect(isUsable('press', { index: 3 }, size)).toBe(true)
  })
})
