import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { DocumentError } from '@fulgor/core/document'
import { findLane, PRESET_VERSION, presetSchema, readPreset, resolveValues, stagesOf } from '..'
import first from './fixtures/version1-first.json'
import lanes from './fixtures/version1-lanes.json'
import last from './fixtures/version1-last.json'

const valid = new Ajv2020({ strict: false }).compile(presetSchema())
const plain = (value: unknown): object => JSON.parse(JSON.stringify(value)) as object

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
    const { guitars, hand, madeOn } = readPreset(first)
    expect(guitars).toHaveLength(1)
    expect(guitars[0]).toMatchObject({ name: 'Hot humbucker', positions: [{ kind: 'humbucker', place: 'bridge', hard: { peakDbfs: -7 } }] })
    expect([hand, madeOn]).toEqual([{ guitar: guitars[0].id, position: 0, volume: 10, tone: 10 }, 0])
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

describe('documents of version 2', () => {
  const eq = (id: string, params: object) => ({ kind: 'stage', id, model: 'eq.parametric', on: true, params })
  const document = (chain: readonly object[]) => ({
    ...first,
    guitar: { name: 'Hot humbucker', hardPeakDbfs: -7 },
    chain,
    snapshots: [{ id: 's', name: 'S', stages: {} }],
    version: 2,
  })

  it('that left the slopes of an equaliser out keep its cuts, also in lanes; today’s are flat', () => {
    const inLane = {
      kind: 'parallel',
      id: 'p',
      lanes: [
        { id: 'l', on: true, params: {}, nodes: [eq('b', { lowSlope: '24' })] },
        { id: 'm', on: true, params: {}, nodes: [] },
      ],
    }
    const [a, b] = stagesOf(readPreset(document([eq('a', { lowCut: 100 }), inLane])).chain)
    expect(a.params).toMatchObject({ lowCut: 100, lowSlope: '12', highSlope: '12' })
    expect(b.params).toMatchObject({ lowSlope: '24', highSlope: '12' })
    const now = stagesOf(readPreset({ ...plain(readPreset(document([]))), chain: [eq('a', {})] }).chain)
    expect(now[0].params).toMatchObject({ lowSlope: 'off', highSlope: 'off' })
  })
})

describe('documents of version 3', () => {
  const document = {
    ...last,
    version: 3,
    guitar: { name: 'Mild single coil', hardPeakDbfs: -19, pickup: 'middle-neck' },
    riff: { id: 'funk', strength: 'soft', pickup: 'single' },
    layers: undefined,
    snapshots: last.snapshots.map((s, i) => (i === 0 ? { ...s, riff: { id: 'bends', strength: 'hard', pickup: 'neck' } } : s)),
  }

  it('have what they were played on as positions of a guitar, and what a riff had for itself in the hand', () => {
    const preset = readPreset(plain(document))
    const [guitar] = preset.guitars
    expect(guitar.positions.map((p) => [p.kind, p.place])).toEqual([
      ['two', 'middle-neck'],
      ['single', 'neck'],
      ['humbucker', 'neck'],
    ])
    expect(guitar.positions.map((p) => p.hard.peakDbfs)).toEqual([-19, -19, -19])
    expect([preset.hand, preset.madeOn]).toEqual([{ guitar: guitar.id, position: 1, volume: 10, tone: 10 }, 1])
    expect(preset.riff).toEqual({ id: 'funk', strength: 'soft' })
    expect(preset.snapshots[0]).toMatchObject({ riff: { id: 'bends', strength: 'hard' }, hand: { position: 2 } })
    expect(preset.snapshots[0].riff).not.toHaveProperty('pickup')
  })

  it('are refused by a path where their guitar is none', () => {
    expect(() => readPreset({ ...plain(document), guitar: 7 })).toThrow('guitars[0]')
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
