import { DocumentError } from '@fulgor/core/document'
import { describe, expect, it } from 'vitest'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { GUITARS } from '@fulgor/core/guitar'
import {
  applyEdit,
  blankPreset,
  coalescingKey,
  createLane,
  createStage,
  findSnapshot,
  findStage,
  LANE_MODEL,
  readPreset,
  resolveStage,
  usedGuitar,
  type Edit,
  type Preset,
} from '.'

const pit = demoPresets[0].preset
const plain = (preset: unknown): unknown => JSON.parse(JSON.stringify(preset))
/** Path and reason with which a document is refused. */
function refusal(document: unknown): { path: string; reason: string } {
  try {
    readPreset(document)
  } catch (error) {
    if (error instanceof DocumentError) return { path: error.path, reason: error.reason }
    throw error
  }
  throw new Error('it was taken')
}
const withChain = (chain: unknown): unknown => ({ ...(plain(blankPreset('x')) as object), chain })

describe('reading, model by model', () => {
  it.each(catalogue.map((m) => m.id))('%s: takes its defaults and both ends, refuses what lies beyond', (id) => {
    const { params } = modelOf(id)
    for (const [key, spec] of Object.entries(params)) {
      const stage = (value: unknown) => withChain([{ kind: 'stage', id: 's', model: id, on: true, params: { [key]: value } }])
      const taken = spec.kind === 'number' ? [spec.min, spec.max, spec.initial] : spec.options.map((o) => o.value)
      for (const value of taken) {
        const read = readPreset(stage(value)).chain[0]
        expect(read.kind === 'stage' && read.params[key]).toBe(value)
      }
      const refused = spec.kind === 'number' ? [spec.min - 1, spec.max + 1, NaN, '1', null, true] : ['nothing', 1, null]
      for (const value of refused) {
        const { path, reason } = refusal(stage(value))
        expect([path, reason.length > 5]).toEqual([`chain[0].params.${key}`, true])
      }
    }
  })

  it('fills in what a stage or a lane does not say with the catalogue’s defaults', () => {
    const document = withChain([
      { kind: 'stage', id: 's', model: 'reverb.spring', on: true, params: {} },
      {
        kind: 'parallel',
        id: 'p',
        lanes: [
          { id: 'a', on: true, params: {}, nodes: [] },
          { id: 'b', on: false, params: { pan: 20 }, nodes: [] },
        ],
      },
    ])
    const preset = readPreset(document)
    expect(preset.chain[0]).toEqual(createStage('s', 'reverb.spring'))
    expect(preset.chain[1]).toEqual({
      kind: 'parallel',
      id: 'p',
      lanes: [createLane('a'), { ...createLane('b', [], { pan: 20 }), on: false }],
    })
  })

  it.each([
    ['kind', { kind: 'loop' }, 'chain[0].kind'],
    ['on', { on: 'yes' }, 'chain[0].on'],
    ['id', { id: 'two words' }, 'chain[0].id'],
    ['id of 41 letters', { id: 'x'.repeat(41) }, 'chain[0].id'],
    ['a stranger', { colour: 'red' }, 'chain[0].colour'],
    ['params as a list', { params: [1] }, 'chain[0].params'],
  ])('a stage’s %s', (_, wrong, path) => {
    expect(refusal(withChain([{ ...createStage('s', 'trim'), ...wrong }])).path).toBe(path)
  })

  it.each([
    ['levelDb', { levelDb: 0 }, 'chain[0].lanes[0].levelDb'],
    ['on', { on: 1 }, 'chain[0].lanes[0].on'],
    ['nodes', { nodes: {} }, 'chain[0].lanes[0].nodes'],
    ['params', { params: { gain: 1 } }, 'chain[0].lanes[0].params.gain'],
    ['id', { id: 'b' }, 'chain[0].lanes[1].id'],
  ])('a lane’s %s', (_, wrong, path) => {
    expect(refusal(withChain([{ kind: 'parallel', id: 'p', lanes: [{ ...createLane('a'), ...wrong }, createLane('b')] }])).path).toBe(path)
  })

  it('counts stages in lanes towards the limit, and lanes of a split', () => {
    const many = (from: number, count: number) => Array.from({ length: count }, (_, i) => createStage(`s${from + i}`, 'trim'))
    const chain = [...many(0, 30), { kind: 'parallel', id: 'p', lanes: [createLane('a', many(30, 6)), createLane('b', many(36, 5))] }]
    expect(refusal(withChain(chain)).reason).toContain('holds 41 stages, at most 40')
    const five = Array.from({ length: 5 }, (_, i) => createLane(`l${i}`))
    expect(refusal(withChain([{ kind: 'parallel', id: 'p', lanes: five }])).path).toBe('chain[0].lanes')
  })

  it.each([
    ['name', { name: 'x'.repeat(81) }],
    ['chain[0].name', { chain: [{ ...createStage('x', 'trim'), name: 'x'.repeat(41) }] }],
    ['tags[0]', { tags: ['x'.repeat(31)] }],
    ['tags', { tags: Array.from({ length: 21 }, (_, i) => `t${i}`) }],
    ['notes', { notes: 'x'.repeat(10_001) }],
    ['tempo', { tempo: 400.5 }],
    ['targetLufs', { targetLufs: 0.1 }],
    ['guitars[0].a4', { guitars: [{ ...pit.guitars[0], a4: 500 }] }],
    [
      'guitars[0].positions[0].hard.peakDbfs',
      { guitars: [{ ...pit.guitars[0], positions: [{ ...pit.guitars[0].positions[0], hard: { peakDbfs: 1, rmsDbfs: -9 } }] }] },
    ],
    ['hand.volume', { hand: { ...pit.hand, volume: 11 } }],
  ])('holds the limit of %s', (path, beyond) => {
    expect(refusal({ ...(plain(pit) as object), ...beyond }).path).toBe(path)
  })

  it('snapshots may speak of a lane’s strip', () => {
    const document = {
      ...(withChain([{ kind: 'parallel', id: 'p', lanes: [createLane('a'), createLane('b')] }]) as object),
      snapshots: [{ id: 's', name: 'S', stages: { a: { on: false, params: { level: -3 } } } }],
    }
    const preset = readPreset(document)
    const strip = findStage(preset, 'a')
    expect(strip && resolveStage(preset, strip, 's')).toEqual({ on: false, params: { ...createLane('a').params, level: -3 } })
    const wrong = { ...document, snapshots: [{ id: 's', name: 'S', stages: { a: { params: { gain: 1 } } } }] }
    expect(refusal(wrong)).toMatchObject({ path: 'snapshots[0].stages.a.params.gain' })
    expect(refusal(wrong).reason).toContain(`“${LANE_MODEL}” has no such parameter`)
  })
})

describe('each edit', () => {
  const edits: readonly (readonly [Edit, (p: Preset) => unknown, unknown])[] = [
    [{ type: 'rename', name: 'New' }, (p) => p.name, 'New'],
    [{ type: 'setTags', tags: ['a'] }, (p) => p.tags, ['a']],
    [{ type: 'setNotes', notes: 'n' }, (p) => p.notes, 'n'],
    [{ type: 'setTempo', tempo: 123 }, (p) => p.tempo, 123],
    [{ type: 'setTarget', lufs: -14 }, (p) => p.targetLufs, -14],
    [{ type: 'setRiff', riff: { id: 'lead-line', strength: 'soft' } }, (p) => p.riff.id, 'lead-line'],
    [{ type: 'setGuitar', guitar: usedGuitar('mine', GUITARS[2]) }, (p) => [p.guitars.map((g) => g.id), p.hand.guitar], [['mine'], 'mine']],
    [
      { type: 'putGuitar', guitar: usedGuitar('other', GUITARS[3]) },
      (p) => p.guitars.map((g) => g.name),
      ['Double-cut', 'Mild single coil'],
    ],
    [{ type: 'setHand', snapshot: null, hand: { volume: 7 } }, (p) => p.hand.volume, 7],
    [{ type: 'setHand', snapshot: 'storm', hand: { position: 2 } }, (p) => findSnapshot(p, 'storm')?.hand, { position: 2 }],
    [{ type: 'setParam', stage: 'amp', snapshot: null, param: 'gain', value: 7 }, (p) => findStage(p, 'amp')?.params.gain, 7],
    [{ type: 'setOn', stage: 'hall', snapshot: null, on: false }, (p) => findStage(p, 'hall')?.on, false],
    [{ type: 'removeStage', stage: 'eq' }, (p) => findStage(p, 'eq'), undefined],
    [{ type: 'moveStage', stage: 'hall', lane: null, index: 0 }, (p) => p.chain[0].id, 'hall'],
    [{ type: 'renameSnapshot', snapshot: 'storm', name: 'Gale' }, (p) => p.snapshots[2].name, 'Gale'],
    [{ type: 'moveSnapshot', snapshot: 'storm', index: 0 }, (p) => p.snapshots[0].id, 'storm'],
    [{ type: 'removeSnapshot', snapshot: 'storm' }, (p) => p.snapshots.length, 5],
    [{ type: 'addSnapshot', snapshot: 'n', name: 'N' }, (p) => p.snapshots[6].name, 'N'],
    [
      { type: 'duplicateSnapshot', source: 'storm', snapshot: 'n', name: 'N' },
      (p) => p.snapshots[3].stages.amp,
      pit.snapshots[2].stages.amp,
    ],
    [{ type: 'resetCell', stage: 'amp', snapshot: 'storm' }, (p) => p.snapshots[2].stages.amp, undefined],
    [{ type: 'resetCell', stage: 'amp', snapshot: 'storm', param: 'mid' }, (p) => p.snapshots[2].stages.amp?.params, { gain: 6.2 }],
    [{ type: 'resetCell', stage: 'drive', snapshot: 'chase', param: 'on' }, (p) => p.snapshots[4].stages.drive, undefined],
    [
      { type: 'setLevels', stage: 'out', param: 'level', levels: { storm: -3, strum: 2 } },
      (p) => [p.snapshots[2].stages.out, p.snapshots[1].stages.out],
      [{ params: { level: -3 } }, { params: { level: 2 } }],
    ],
    [{ type: 'baseToSnapshot', snapshot: 'storm' }, (p) => p.snapshots[2].stages, {}],
    [{ type: 'replace', preset: blankPreset('Other') }, (p) => p.name, 'Other'],
  ]
  it.each(edits)('%o does what it says and leaves the old preset alone', (edit, read, value) => {
    const before = plain(pit)
    const next = applyEdit(pit, edit)
    expect(read(next)).toEqual(value)
    expect(plain(pit)).toEqual(before)
    expect(next).not.toBe(pit)
    expect(readPreset(plain(next))).toEqual(next)
  })

  it('of one slider are joined, others are steps of their own', () => {
    const move: Edit = { type: 'setParam', stage: 'amp', snapshot: null, param: 'mid', value: 1 }
    expect(coalescingKey(move)).toBe(coalescingKey({ ...move, value: 2 }))
    expect(coalescingKey(move)).not.toBe(coalescingKey({ ...move, param: 'bass' }))
    expect(coalescingKey(move)).not.toBe(coalescingKey({ ...move, snapshot: 'storm' }))
    expect(coalescingKey({ type: 'removeStage', stage: 'amp' })).toBeNull()
    expect(coalescingKey({ type: 'split', stage: 'amp', split: 's', lanes: ['a', 'b'] })).toBeNull()
  })
})
