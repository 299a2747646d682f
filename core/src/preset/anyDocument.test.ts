import { expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { DocumentError } from '@fulgor/core/document'
import { applyEdit, EMPTY_BOARD, DEFAULT_MIDI, DEFAULT_SCALE, createControl, createLayer, createSwitch, readPreset, type Preset } from '.'
import first from './migrations/fixtures/version1-first.json'
import lanes from './migrations/fixtures/version1-lanes.json'

type Path = readonly (string | number)[]

/** Every place in a document. */
function places(value: unknown, at: Path = []): Path[] {
  if (typeof value !== 'object' || value === null) return [at]
  return [at, ...Object.entries(value).flatMap(([key, inner]) => places(inner, [...at, Array.isArray(value) ? Number(key) : key]))]
}

function changed(value: unknown, [key, ...rest]: Path, next: unknown): unknown {
  if (key === undefined) return next
  const inner = changed((value as Record<string | number, unknown>)[key], rest, next)
  if (Array.isArray(value)) return value.map((v: unknown, i) => (i === key ? inner : v))
  return Object.fromEntries(Object.entries(value as object).map(([k, v]) => [k, k === key ? inner : (v as unknown)]))
}

const deep = (): unknown => {
  let value: unknown = 1
  for (let i = 0; i < 10_000; i++) value = [value]
  return value
}

const HOSTILE: readonly (readonly [string, unknown])[] = [
  ['null', null],
  ['nothing', undefined],
  ['NaN', NaN],
  ['a huge number', 1e308],
  ['a text', 'x'],
  ['an empty text', ''],
  ['a lone surrogate', '\udc00'],
  ['a long text', 'x'.repeat(20_000)],
  ['a list', [[]]],
  ['an object', { toString: 1 }],
  ['__proto__', JSON.parse('{"__proto__": {"on": true}}')],
  ['depth 10,000', deep()],
]

/** A document in which every part says something. */
function full(): Preset {
  const own = {
    ...createSwitch('w1', { page: 'singles', bank: 0, index: 1 }),
    press: { do: 'stages', stages: ['amp'], how: 'each' } as const,
  }
  return applyEdit(demoPresets[0].preset, {
    type: 'all',
    edits: [
      { type: 'setBoard', board: { ...EMPTY_BOARD, switches: [own] } },
      { type: 'setMidiPlan', plan: DEFAULT_MIDI },
      { type: 'setDevice', device: DEFAULT_SCALE },
      { type: 'addControl', control: createControl('k1', 'knob', 'Knob') },
      { type: 'addLayer', layer: createLayer('l1', null, 'storm', { id: 'open-chords', strength: 'soft' }) },
    ],
  })
}

it.each([
  ['of today', full()],
  ['of the first day', first],
  ['with old lanes', lanes],
])('a document %s with one place spoilt is read, or refused by a path', (_, document) => {
  const plain: unknown = JSON.parse(JSON.stringify(document))
  let [read, refused] = [0, 0]
  for (const [i, place] of places(plain).entries())
    // every place with some of the values, every value at some of the places
    for (const [k, [, value]] of HOSTILE.entries()) {
      if ((i + k) % 4 !== 0) continue
      try {
        const preset = readPreset(changed(plain, place, value))
        read++
        expect(readPreset(JSON.parse(JSON.stringify(preset)))).toEqual(preset)
      } catch (error) {
        if (!(error instanceof DocumentError)) throw error
        refused++
        expect(error.reason.length).toBeGreaterThan(5)
        if (place.length > 0 && value !== undefined) expect(error.path).not.toBe('')
      }
    }
  expect(refused).toBeGreaterThan(100)
  expect(read).toBeGreaterThan(0)
})
