import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { DocumentError } from '@fulgor/core/document'
import { findLane, PRESET_VERSION, presetSchema, readPreset, resolveValues, stagesOf } from '..'
import first from './fixtures/version1-first.json'
import lanes from './fixtures/version1-lanes.json'
import last from './fixtures/version1-last.json'

const valid = new Ajv2020({ strict: false }).compile(presetSchema())
const plain = (value: unknown): unknown => JSON.parse(JSON.stringify(value))

describe('documents of version 1', () => {
  // kept as they were written by the program of 24 and 25 November 2026, by hand for its lanes, and of 28 November
  it.each([
    ['without a guitar', first],
    ['with lanes of the first form', lanes],
    ['of the last day', last],
  ])('%s become today’s, fit the schema and stay as they are when read again', (_, document) => {
    const preset = readPreset(document)
    expect(preset.version).toBe(PRESET_VERSION)
    expect(valid(plain(preset))).toBe(true)
    expect(readPreset(plain(preset))).toEqual(preset)
  })

  it('get the guitar that they were heard on', () => {
    expect(readPreset(first).guitar).toEqual({ name: 'Hot humbucker', hardPeakDbfs: -7, pickup: 'bridge' })
  })

  it('keep every stage, value and snapshot', () => {
    const preset = readPreset(first)
    expect(preset.chain.map((node) => node.id)).toEqual(first.chain.map((node) => node.id))
    for (const [i, stage] of stagesOf(preset.chain).entries()) expect(stage.params).toMatchObject(first.chain[i].params)
    expect(preset.snapshots).toEqual(first.snapshots)
    expect(resolveValues(preset, 'storm').amp.params).toMatchObject({ gain: 6.2, mid: 7 })
  })

  it('have their lanes’ levels in a strip: −1 … 1 has become −100 … 100, mute is off', () => {
    const preset = readPreset(lanes)
    expect(findLane(preset, 'left')?.lane).toMatchObject({ on: true, params: { level: -3, pan: -100, polarity: 'normal', delay: 0 } })
    expect(findLane(preset, 'right')?.lane).toMatchObject({ on: false, params: { level: -4.5, pan: 35, polarity: 'inverted' } })
    expect(findLane(preset, 'b')?.lane.params.level).toBe(-12)
  })

  it('are refused where even version 1 knew better, by the path', () => {
    const broken = { ...lanes, chain: [{ ...lanes.chain[0], lanes: [{ ...lanes.chain[0].lanes?.[0], levelDb: 40 }, {}] }] }
    expect(() => readPreset(broken)).toThrow('chain[0].lanes[0].params.level')
  })
})

it.each([
  ['a newer one', { version: PRESET_VERSION + 1 }, `reads presets up to version ${PRESET_VERSION}`],
  ['no number', { version: '1' }, 'must be a whole number from 1'],
  ['nought', { version: 0 }, 'must be a whole number from 1'],
  ['another format', { format: 'x' }, 'this is no Fulgor preset'],
])('a version that is %s is refused', (_, change, says) => {
  expect(() => readPreset({ ...first, ...change })).toThrow(says)
  expect(() => readPreset({ ...first, ...change })).toThrow(DocumentError)
})
