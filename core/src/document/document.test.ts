import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import {
  choice,
  constant,
  DocumentError,
  filled,
  flag,
  id,
  list,
  matching,
  migrated,
  named,
  nested,
  nullable,
  number,
  optional,
  optionalIf,
  pair,
  readWith,
  record,
  refined,
  schemaOf,
  table,
  tagged,
  text,
  whole,
  type Field,
} from '.'

/** A shelf of boxes: every combinator once. */
interface Box {
  readonly kind: 'box'
  readonly id: string
  readonly inside: readonly Thing[]
}
interface Stone {
  readonly kind: 'stone'
  readonly id: string
  readonly grams: number
}
type Thing = Box | Stone

const thing: Field<Thing> = named('thing', () =>
  tagged('kind', {
    box: nested(record({ kind: constant('box'), id: id(), inside: list(thing, 5) }), 2, 'boxes lie 2 deep.'),
    stone: record({ kind: constant('stone'), id: id(), grams: number([0, 5_000]) }),
  }),
)
const shelf = record({
  name: text(10),
  code: matching('^[a-z]+$', 'must be small letters.'),
  floors: whole([1, 9]),
  open: flag(),
  colour: choice(['red', 'blue']),
  owner: nullable(text(5)),
  note: optional(text(5, { least: 0 })),
  lock: optionalIf((owner) => owner.open !== true, text(5)),
  span: pair(number([0, 10])),
  marks: refined(list(number([0, 9]), 3, { unique: true }), (marks, path) => {
    if (marks.some((m, i) => i > 0 && m < marks[i - 1])) throw new DocumentError(path, 'must rise.')
  }),
  prices: table(number([0, 100]), 2),
  size: filled(record({ wide: number([1, 9]), high: number([1, 9]) }), ['wide'], () => ({ high: 2 })),
  things: list(thing, 5, { ids: 'own' }),
})

const good = {
  name: 'Cellar',
  code: 'abc',
  floors: 3,
  open: false,
  colour: 'red',
  owner: null,
  lock: 'key',
  span: [1, 2],
  marks: [1, 2],
  prices: { stone: 4 },
  size: { wide: 3 },
  things: [
    { kind: 'box', id: 'a', inside: [{ kind: 'stone', id: 'b', grams: 20 }] },
    { kind: 'stone', id: 'c', grams: 1 },
  ],
}
const read = (change: object) => readWith(shelf, { ...good, ...change })
const valid = new Ajv2020({ strict: false }).compile(schemaOf(shelf, { title: 'Shelf' }))

describe('a description', () => {
  it('reads what fits, fills in what may be missing, and is the schema of it', () => {
    expect(read({})).toEqual({ ...good, size: { wide: 3, high: 2 } })
    expect(valid(good)).toBe(true)
  })

  it.each([
    [{ name: '' }, 'name', '1 to 10 characters'],
    [{ name: 'eleven lett' }, 'name', '1 to 10 characters'],
    [{ code: 'ABC' }, 'code', 'small letters'],
    [{ floors: 2.5 }, 'floors', 'whole number'],
    [{ floors: 10 }, 'floors', 'from 1 to 9'],
    [{ open: 1 }, 'open', 'true or false'],
    [{ colour: 'green' }, 'colour', 'must be red or blue'],
    [{ owner: 5 }, 'owner', '1 to 5 characters'],
    [{ note: 'longer' }, 'note', '0 to 5 characters'],
    [{ open: true }, 'lock', 'not a known field'],
    [{ span: [1] }, 'span', 'must hold two values'],
    [{ span: [1, 11] }, 'span[1]', 'from 0 to 10'],
    [{ marks: [1, 1] }, 'marks', 'names one twice'],
    [{ marks: [0, 1, 2, 3] }, 'marks', 'holds 4 entries, at most 3'],
    [{ prices: { stone: 101 } }, 'prices.stone', 'from 0 to 100'],
    [{ prices: { 'two words': 1 } }, 'prices.two words', 'letters, digits'],
    [{ size: { high: 3 } }, 'size.wide', 'from 1 to 9'],
    [{ things: [{ kind: 'cup', id: 'a' }] }, 'things[0].kind', 'must be “box” or “stone”'],
    [{ things: [good.things[0], { kind: 'stone', id: 'b', grams: 1 }] }, 'things[1].id', 'used twice'],
    [{ stranger: 1 }, 'stranger', 'not a known field'],
    [{ things: {} }, 'things', 'must be a list'],
    [{ size: [] }, 'size', 'must be an object'],
  ])('refuses %o at %s', (change, path, says) => {
    const error = refusalOf(() => read(change))
    expect(error.path).toBe(path)
    expect(error.reason).toContain(says)
    expect(valid({ ...good, ...change })).toBe(path === 'lock' || path === 'things[1].id')
  })

  it('takes both ends of every range and length', () => {
    const ends = [
      { floors: 1, size: { wide: 1, high: 1 }, span: [0, 10], marks: [], name: 'x' },
      { floors: 9, size: { wide: 9, high: 9 }, span: [10, 0], marks: [0, 5, 9], name: 'ten letter' },
    ]
    for (const change of ends) {
      expect(read(change)).toMatchObject(change)
      expect(valid({ ...good, ...change })).toBe(true)
    }
  })

  it('is refused by a further rule, which a schema cannot tell', () => {
    expect(refusalOf(() => read({ marks: [2, 1] }))).toMatchObject({ path: 'marks', reason: 'must rise.' })
  })

  it('may hold itself, so deep and not deeper', () => {
    const box = (inside: unknown[], own: string) => ({ kind: 'box', id: own, inside })
    expect(() => read({ things: [box([box([], 'y')], 'x')] })).not.toThrow()
    expect(refusalOf(() => read({ things: [box([box([box([], 'z')], 'y')], 'x')] })).path).toBe('things[0].inside[0].inside[0]')
  })
})

describe('hostile input', () => {
  it.each(['__proto__', 'constructor', 'toString', 'valueOf', 'hasOwnProperty'])('%s is no id and no key', (word) => {
    expect(refusalOf(() => read({ things: [{ kind: 'stone', id: word, grams: 1 }] })).path).toBe('things[0].id')
    const prices: unknown = JSON.parse(`{"${word}": 1}`)
    expect(refusalOf(() => read({ prices })).path).toBe(`prices.${word}`)
    expect(valid({ ...good, prices })).toBe(false)
    expect(refusalOf(() => readWith(shelf, JSON.parse(`{"${word}": 1}`))).path).toBe(word)
  })

  it.each([
    ['a number that is none', { floors: NaN }, 'floors'],
    ['an infinite one', { size: { wide: Infinity } }, 'size.wide'],
    ['half of a character', { name: 'a\ud800' }, 'name'],
    ['a list with holes', { marks: Array.from({ length: 2 }).concat([1]) }, 'marks[0]'],
    ['a text of 10 MB', { name: 'x'.repeat(1e7) }, 'name'],
    ['a list of a million', { marks: new Array(1e6).fill(1) }, 'marks'],
  ])('%s', (_, change, path) => {
    expect(refusalOf(() => read(change)).path).toBe(path)
  })

  it('ten thousand boxes in one another', () => {
    let deep: unknown = []
    for (let i = 0; i < 10_000; i++) deep = [{ kind: 'box', id: `b${i}`, inside: deep }]
    expect(refusalOf(() => read({ things: deep })).reason).toBe('boxes lie 2 deep.')
  })
})

describe('versions', () => {
  const steps = [(d: object) => ({ ...d, b: 1 }), (d: object) => ({ ...d, c: 2 })]
  it('run through every step from their own on', () => {
    expect(migrated({ format: 'f', version: 1 }, 'f', 'thing', steps)).toEqual({ format: 'f', version: 3, b: 1, c: 2 })
    expect(migrated({ format: 'f', version: 2 }, 'f', 'thing', steps)).toEqual({ format: 'f', version: 3, c: 2 })
    expect(migrated({ format: 'f', version: 3 }, 'f', 'thing', steps)).toEqual({ format: 'f', version: 3 })
  })
  it('of tomorrow are refused', () => {
    expect(refusalOf(() => migrated({ format: 'f', version: 4 }, 'f', 'thing', steps)).reason).toContain('reads things up to version 3')
  })
})

function refusalOf(work: () => unknown): DocumentError {
  try {
    work()
  } catch (error) {
    if (error instanceof DocumentError) return error
    throw error
  }
  throw new Error('it was taken')
}
