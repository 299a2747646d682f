import { DocumentError } from '@fulgor/core/document'
import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import {
  applyEdit,
  blankPreset,
  cellChanges,
  commit,
  createHistory,
  findStage,
  presetSchema,
  readPreset,
  redo,
  resolveStage,
  resolveValues,
  rowsOf,
  stepPlace,
  undo,
  type Edit,
  type Preset,
} from '.'

const pit = demoPresets[0].preset
const edit = (...edits: Edit[]): Preset => edits.reduce(applyEdit, pit)
const stage = (preset: Preset, id: string) => {
  const found = findStage(preset, id)
  if (!found) throw new Error(id)
  return found
}
const value = (preset: Preset, id: string, snapshot: string | null, param: string) =>
  resolveStage(preset, stage(preset, id), snapshot).params[param]

describe('edits', () => {
  it('lay a snapshot’s value over the base and show only what differs', () => {
    const next = edit({ type: 'setParam', stage: 'amp', snapshot: 'strum', param: 'mid', value: 8 })
    expect(value(next, 'amp', 'strum', 'mid')).toBe(8)
    expect(value(next, 'amp', 'overture', 'mid')).toBe(5.5)
    expect(cellChanges(next, stage(next, 'amp'), 'strum')).toEqual([{ kind: 'param', key: 'mid', value: 8 }])
    const back = applyEdit(next, { type: 'setParam', stage: 'amp', snapshot: 'strum', param: 'mid', value: 5.5 })
    // a drag that passes the base's value stays in the snapshot
    expect(cellChanges(back, stage(back, 'amp'), 'strum')).toEqual([{ kind: 'param', key: 'mid', value: 5.5 }])
    expect(applyEdit(back, { type: 'resetCell', stage: 'amp', snapshot: 'strum', param: 'mid' }).snapshots).toEqual(pit.snapshots)
  })

  it('copy a cell to the base, where snapshots without a value of their own follow', () => {
    const next = edit({ type: 'cellToBase', stage: 'amp', snapshot: 'storm' })
    expect(value(next, 'amp', null, 'gain')).toBe(6.2)
    expect(value(next, 'amp', 'strum', 'gain')).toBe(6.2)
    expect(value(next, 'amp', 'chase', 'gain')).toBe(5.4)
    expect(cellChanges(next, stage(next, 'amp'), 'storm')).toEqual([])
  })

  it('copy base to snapshot and snapshot to base', () => {
    const plain = edit({ type: 'baseToSnapshot', snapshot: 'storm' })
    expect(resolveValues(plain, 'storm')).toEqual(resolveValues(pit, null))
    const based = edit({ type: 'snapshotToBase', snapshot: 'storm' })
    expect(resolveValues(based, null)).toEqual(resolveValues(pit, 'storm'))
  })

  it('add, move and remove stages, and forget what snapshots said of a removed one', () => {
    const next = edit(
      { type: 'addStage', stage: 'boost', model: 'trim', lane: null, index: 2 },
      { type: 'moveStage', stage: 'boost', lane: null, index: 0 },
    )
    expect(next.chain.map((n) => n.id)).toEqual(['boost', 'gate', 'drive', 'amp', 'cab', 'eq', 'delay', 'hall', 'out'])
    const without = applyEdit(next, { type: 'removeStage', stage: 'amp' })
    expect(without.snapshots.some((s) => 'amp' in s.stages)).toBe(false)
  })

  const laned = edit({ type: 'split', stage: 'amp', split: 'p', lanes: ['l1', 'l2'] })

  it('split a stage off into lanes, fill them, and dissolve them again', () => {
    expect(rowsOf(laned.chain).map((r) => r.id)).toEqual(['gate', 'drive', 'l1', 'amp', 'l2', 'p', 'cab', 'eq', 'delay', 'hall', 'out'])
    const filled = applyEdit(laned, { type: 'addStage', stage: 'plate', model: 'reverb.plate', lane: 'l2', index: 0 })
    expect(value(filled, 'plate', null, 'mix')).toBe(100)
    const two = applyEdit(filled, { type: 'addStage', stage: 'amp2', model: 'amp.pier', lane: 'l2', index: 0 })
    expect(value(applyEdit(two, { type: 'addStage', stage: 'x', model: 'delay.tape', lane: 'l2', index: 1 }), 'x', null, 'mix')).toBe(22)
    const flat = applyEdit(two, { type: 'dissolve', split: 'p' })
    expect(flat.chain.map((n) => n.id)).toEqual(['gate', 'drive', 'amp', 'amp2', 'plate', 'cab', 'eq', 'delay', 'hall', 'out'])
    expect(applyEdit(two, { type: 'removeLane', lane: 'l2' }).chain.map((n) => n.id)).toEqual(pit.chain.map((n) => n.id))
  })

  it('give a lane’s strip a value of its own in a snapshot, and forget it with the lane', () => {
    const next = applyEdit(laned, { type: 'setParam', stage: 'l2', snapshot: 'storm', param: 'level', value: -9 })
    expect(value(next, 'l2', 'storm', 'level')).toBe(-9)
    expect(value(next, 'l2', 'strum', 'level')).toBe(0)
    expect(applyEdit(next, { type: 'removeLane', lane: 'l2' }).snapshots).toEqual(pit.snapshots)
  })

  it('walk a stage line by line into lanes and out of them', () => {
    let preset = laned
    const seen = []
    for (;;) {
      const to = stepPlace(preset, 'gate', 1)
      if (!to) break
      preset = applyEdit(preset, { type: 'moveStage', stage: 'gate', ...to })
      seen.push(
        rowsOf(preset.chain)
          .map((r) => r.id)
          .join(' '),
      )
    }
    expect(seen[1]).toMatch(/^drive l1 gate amp l2 p/)
    expect(seen[3]).toMatch(/^drive l1 amp l2 gate p cab/)
    expect(seen[4]).toMatch(/^drive l1 amp l2 p gate cab/)
    expect(seen.at(-1)).toMatch(/out gate$/)
    for (let steps = 0; steps < 20; steps++) {
      const to = stepPlace(preset, 'gate', -1)
      if (to) preset = applyEdit(preset, { type: 'moveStage', stage: 'gate', ...to })
    }
    expect(preset).toEqual(laned)
  })

  it('let lanes lie two deep and refuse a third, and hold four lanes in a split', () => {
    const deep = applyEdit(laned, { type: 'split', stage: 'amp', split: 'q', lanes: ['l3', 'l4'] })
    expect(() => applyEdit(deep, { type: 'split', stage: 'amp', split: 'r', lanes: ['l5', 'l6'] })).toThrow('two deep')
    const four = ['l3', 'l4'].reduce((p, lane) => applyEdit(p, { type: 'addLane', split: 'p', lane }), laned)
    expect(() => applyEdit(four, { type: 'addLane', split: 'p', lane: 'l5' })).toThrow('at most 4 lanes')
    expect(readPreset(JSON.parse(JSON.stringify(deep)))).toEqual(deep)
  })

  it('keep between one and eight snapshots', () => {
    const full = edit(
      { type: 'addSnapshot', snapshot: 'n1', name: 'A' },
      { type: 'duplicateSnapshot', source: 'storm', snapshot: 'n2', name: 'B' },
    )
    expect(full.snapshots.map((s) => s.id)).toEqual(['overture', 'strum', 'storm', 'n2', 'lullaby', 'chase', 'finale', 'n1'])
    expect(() => applyEdit(full, { type: 'addSnapshot', snapshot: 'n3', name: 'C' })).toThrow('at most 8')
    expect(() => applyEdit(blankPreset('x'), { type: 'removeSnapshot', snapshot: 's1' })).toThrow('at least one')
  })

  it('resolve note values at the tempo', () => {
    expect(resolveValues(pit, null).delay.params.time).toBeCloseTo(468.75, 2)
    expect(resolveValues(applyEdit(pit, { type: 'setTempo', tempo: 120 }), 'lullaby').delay.params.time).toBe(500)
  })
})

describe('undo and redo', () => {
  it('take every edit back and bring it again', () => {
    const edits: Edit[] = [
      { type: 'rename', name: 'Other' },
      { type: 'setParam', stage: 'amp', snapshot: null, param: 'mid', value: 9 },
      { type: 'removeStage', stage: 'eq' },
      { type: 'moveSnapshot', snapshot: 'chase', index: 0 },
      { type: 'setLevels', stage: 'out', param: 'level', levels: { storm: -3, chase: -2 } },
    ]
    const done = edits.reduce((h, e, i) => commit(h, e, i * 2000), createHistory(pit))
    const undone = edits.reduce((h) => undo(h), done)
    expect(undone.present).toBe(pit)
    expect(edits.reduce((h) => redo(h), undone).present).toEqual(done.present)
  })

  it('join the steps of one slider move', () => {
    const move = (v: number): Edit => ({ type: 'setParam', stage: 'amp', snapshot: null, param: 'mid', value: v })
    const history = [6, 7, 8].reduce((h, v, i) => commit(h, move(v), 1000 + i * 100), createHistory(pit))
    expect(undo(history).present).toBe(pit)
    const later = commit(history, move(9), 9000)
    expect(value(undo(later).present, 'amp', null, 'mid')).toBe(8)
  })
})

type Keys = readonly (string | number)[]

/** The pit preset with one place overwritten. */
function broken(keys: Keys, value: unknown): unknown {
  const copy = structuredClone(pit) as unknown
  const holder = keys.slice(0, -1).reduce((o, key) => (o as Record<string | number, unknown>)[key], copy)
  ;(holder as Record<string | number, unknown>)[keys[keys.length - 1]] = value
  return copy
}

const lane = (id: string, nodes: unknown[]) => ({ id, on: true, params: { pan: 0 }, nodes })
const split = (id: string, nodes: unknown[]) => ({ kind: 'parallel', id, lanes: [lane(`${id}a`, nodes), lane(`${id}b`, [])] })

const breaks: readonly (readonly [name: string, path: string, keys: Keys, value: unknown])[] = [
  ['a foreign format', 'format', ['format'], 'other'],
  ['a newer version', 'version', ['version'], 99],
  ['no name', 'name', ['name'], ''],
  ['an unknown field', 'colour', ['colour'], 'red'],
  ['a value out of range', 'chain[2].params.gain', ['chain', 2, 'params', 'gain'], 11],
  ['a text as a value', 'chain[2].params.gain', ['chain', 2, 'params', 'gain'], '5'],
  ['an unknown parameter', 'chain[2].params.depth', ['chain', 2, 'params', 'depth'], 1],
  ['an unknown model', 'chain[1].model', ['chain', 1, 'model'], 'drive.nope'],
  ['an unknown choice', 'chain[3].params.response', ['chain', 3, 'params', 'response'], 'nope'],
  ['an id twice', 'chain[1].id', ['chain', 1, 'id'], 'gate'],
  ['a snapshot of a stage that is not there', 'snapshots[0].stages.ghost', ['snapshots', 0, 'stages', 'ghost'], { on: true }],
  ['no snapshot', 'snapshots', ['snapshots'], []],
  ['nine snapshots', 'snapshots', ['snapshots'], Array.from({ length: 9 }, (_, i) => ({ id: `x${i}`, name: 'x', stages: {} }))],
  ['a tempo of zero', 'tempo', ['tempo'], 0],
  ['lanes three deep', 'chain[0].lanes[0].nodes[0].lanes[0].nodes[0]', ['chain'], [split('p1', [split('p2', [split('p3', [])])])]],
]

describe('reading', () => {
  it('takes every demo preset unchanged', () => {
    for (const { preset } of demoPresets) expect(readPreset(JSON.parse(JSON.stringify(preset)))).toEqual(preset)
  })

  it.each(breaks)('names the field for %s', (_, path, keys, value) => {
    try {
      readPreset(broken(keys, value))
      expect.unreachable()
    } catch (error) {
      expect(error).toBeInstanceOf(DocumentError)
      expect((error as DocumentError).path).toBe(path)
      expect((error as DocumentError).reason.length).toBeGreaterThan(8)
    }
  })

  it.each([null, 3, 'x', [], {}])('refuses %j', (value) => {
    expect(() => readPreset(value)).toThrow(DocumentError)
  })

  it('fills a missing parameter with the catalogue’s default', () => {
    const copy = JSON.parse(JSON.stringify(pit)) as { chain: { params: Record<string, unknown> }[] }
    delete copy.chain[2].params.sag
    expect(value(readPreset(copy), 'amp', null, 'sag')).toBe(40)
  })
})

describe('the published JSON Schema', () => {
  const ajv = new Ajv2020({ strict: false })
  const valid = ajv.compile(presetSchema())

  it('agrees with the reader on the demo presets and on broken ones (checked by Ajv)', () => {
    for (const { preset } of demoPresets) expect(valid(JSON.parse(JSON.stringify(preset)))).toBe(true)
    // what a schema cannot say: ids twice, references, depth
    const beyond = new Set(['an id twice', 'a snapshot of a stage that is not there', 'lanes three deep'])
    for (const [name, , keys, value] of breaks) if (!beyond.has(name)) expect([name, valid(broken(keys, value))]).toEqual([name, false])
  })
})
