import Ajv2020 from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { benchOf } from '@fulgor/core/cabinet'
import { createBench, createChannel } from '@fulgor/core/catalogue'
import {
  applyEdit,
  blankPreset,
  cellChanges,
  commit,
  copyCells,
  createHistory,
  createLane,
  createStage,
  findStage,
  pathTo,
  presetSchema,
  readCells,
  readPreset,
  resolveValues,
  snapshotDifference,
  stagesOf,
  undo,
  type Preset,
} from '..'

const bench = {
  ...createBench(),
  channels: [createChannel('a'), createChannel('b', { kind: 'file', file: 'f'.repeat(64), name: 'Ours', side: 'left' })],
}
const blank = blankPreset('Bench')
const touched = applyEdit(blank, { type: 'setBench', stage: 'cab', snapshot: null, bench, touched: 'x' })

describe('a cabinet with a bench', () => {
  it('plays it from the first touch on, and keeps another choice afterwards', () => {
    expect(findStage(touched, 'cab')?.params.response).toBe('bench')
    const other = applyEdit(touched, { type: 'setParam', stage: 'cab', snapshot: null, param: 'response', value: 'open-1x12-coil' })
    const again = applyEdit(other, { type: 'setBench', stage: 'cab', snapshot: null, bench: { ...bench, frames: 9_600 }, touched: 'y' })
    expect(findStage(again, 'cab')?.params.response).toBe('open-1x12-coil')
    expect(findStage(again, 'cab')?.bench?.frames).toBe(9_600)
  })

  it('resolves to a response that says all of it', () => {
    const id = String(resolveValues(touched, 's1').cab.params.response)
    expect(benchOf(id)?.channels.map((c) => c.source.kind)).toEqual(['mic', 'file'])
    // a cabinet that was never at the bench plays its default
    const plain = applyEdit(blank, { type: 'setParam', stage: 'cab', snapshot: null, param: 'response', value: 'bench' })
    expect(benchOf(String(resolveValues(plain, null).cab.params.response))?.channels).toHaveLength(1)
  })

  it('is read back as it was written, and fits the schema', () => {
    expect(readPreset(JSON.parse(JSON.stringify(touched)))).toEqual(touched)
    const validate = new Ajv2020({ strict: false }).compile(presetSchema())
    expect(validate(touched)).toBe(true)
    const spoilt = JSON.parse(JSON.stringify(touched)) as { chain: { bench: { frames: number } }[] }
    spoilt.chain[1].bench.frames = 3
    expect(validate(spoilt)).toBe(false)
  })

  it('a dragged microphone is one step of undo, two things are two', () => {
    const move = (offset: number) => ({ ...bench, channels: [{ ...bench.channels[0], level: offset }] })
    let history = createHistory(touched)
    for (let i = 1; i < 9; i++)
      history = commit(history, { type: 'setBench', stage: 'cab', snapshot: null, bench: move(-i), touched: 'a place' }, 1_000 + i * 20)
    history = commit(history, { type: 'setBench', stage: 'cab', snapshot: null, bench: move(-20), touched: 'a level' }, 1_200)
    expect(history.past).toHaveLength(2)
    expect(undo(undo(history)).present).toBe(touched)
  })

  it('only a cabinet has one, of at most eight channels', () => {
    expect(() => applyEdit(blank, { type: 'setBench', stage: 'amp', snapshot: null, bench, touched: '' })).toThrow('Only a cabinet')
    const nine = { ...bench, channels: Array.from({ length: 9 }, (_, i) => createChannel(`c${i}`)) }
    expect(() => applyEdit(blank, { type: 'setBench', stage: 'cab', snapshot: null, bench: nine, touched: '' })).toThrow('at most 8')
  })
})

describe('a microphone that is moved in one snapshot', () => {
  const two = applyEdit(touched, { type: 'addSnapshot', snapshot: 's2', name: 'Storm lead' })
  const main = bench.channels[0]
  const aside = { ...bench, channels: [{ ...main, source: { ...main.source, offset: 80 } as typeof main.source }] }
  const own = applyEdit(two, { type: 'setBench', stage: 'cab', snapshot: 's2', bench: aside, touched: 'x' })
  const places = (preset: Preset) =>
    preset.snapshots.map((s) => {
      const source = benchOf(String(resolveValues(preset, s.id).cab.params.response))?.channels[0].source
      return source?.kind === 'mic' ? source.offset : null
    })

  it('leaves the other snapshots where they were', () => {
    expect(places(two)[1]).toBe(places(two)[0])
    expect(places(own)).toEqual([places(two)[0], 80])
    const [cab] = stagesOf(own.chain).filter((s) => s.id === 'cab')
    expect(cellChanges(own, cab, 's2').map((c) => c.key)).toEqual(['bench'])
    expect(snapshotDifference(own, 's1', 's2')).toMatchObject([{ stage: 'cab', key: 'bench', b: '1 channel, main 80 mm off, 25 mm away' }])
  })

  it('plays them where another response was played', () => {
    const other = applyEdit(two, { type: 'setParam', stage: 'cab', snapshot: 's2', param: 'response', value: 'open-1x12-coil' })
    expect(places(other)[1]).toBeNull()
    expect(places(applyEdit(other, { type: 'setBench', stage: 'cab', snapshot: 's2', bench: aside, touched: 'x' }))[1]).toBe(80)
  })

  it('is kept, copied, taken into the base and given back', () => {
    expect(readPreset(JSON.parse(JSON.stringify(own)))).toEqual(own)
    expect(new Ajv2020({ strict: false }).compile(presetSchema())(own)).toBe(true)
    const block = readCells(JSON.stringify(copyCells(own, ['cab'], ['s2'])))
    expect(places(applyEdit(own, { type: 'pasteCells', block, stage: 'cab', snapshots: ['s1'] }))).toEqual([80, 80])
    expect(places(applyEdit(own, { type: 'swapCells', stages: ['cab'], a: 's1', b: 's2' }))).toEqual([80, places(two)[0]])
    expect(places(applyEdit(own, { type: 'cellToBase', stage: 'cab', snapshot: 's2' }))).toEqual([80, 80])
    const back = applyEdit(own, { type: 'resetCell', stage: 'cab', snapshot: 's2', param: 'bench' })
    expect(back.snapshots).toEqual(two.snapshots)
  })

  it('belongs to cabinets only', () => {
    const spoilt = JSON.parse(JSON.stringify(own)) as { snapshots: { stages: Record<string, unknown> }[] }
    spoilt.snapshots[1].stages = { amp: { bench } }
    expect(() => readPreset(spoilt)).toThrow('snapshots[1].stages.amp.bench: is not a known field')
  })
})

describe('reading a bench names what is wrong', () => {
  const doc = (change: (bench: Record<string, unknown>) => void): unknown => {
    const copy = JSON.parse(JSON.stringify(touched)) as { chain: { bench: Record<string, unknown> }[] }
    change(copy.chain[1].bench)
    return copy
  }
  type Loose = { channels: { id: string; level: unknown; source: Record<string, unknown>; muted: unknown }[]; cab: Record<string, unknown> }
  it.each<[string, (b: Loose) => void, string]>([
    ['frames', (b) => Object.assign(b, { frames: 1 }), 'chain[1].bench.frames: must be one of 2048'],
    ['a ninth channel', (b) => Object.assign(b, { channels: Array.from({ length: 9 }, () => b.channels[0]) }), 'holds 9 entries'],
    ['a level', (b) => Object.assign(b.channels[0], { level: 90 }), 'chain[1].bench.channels[0].level'],
    ['an unknown field', (b) => Object.assign(b.channels[0], { colour: 1 }), 'has no such parameter'],
    ['an id twice', (b) => Object.assign(b.channels[1], { id: 'a' }), 'used twice'],
    ['a flag', (b) => Object.assign(b.channels[0], { muted: 'no' }), 'must be true or false'],
    ['a microphone', (b) => Object.assign(b.channels[0].source, { type: 'carbon' }), 'source.type: must be one of'],
    ['a distance', (b) => Object.assign(b.channels[0].source, { distance: 1 }), 'Distance runs from'],
    ['a kind', (b) => Object.assign(b.channels[0].source, { kind: 'ear' }), 'must be “mic” or “file”'],
    ['a file', (b) => Object.assign(b.channels[1].source, { file: 'x' }), 'SHA-256'],
    ['a side', (b) => Object.assign(b.channels[1].source, { side: 'top' }), 'source.side'],
    ['a driver', (b) => Object.assign(b.cab, { driver: 'tin' }), 'bench.cab.driver'],
  ])('%s', (_, change, message) => {
    expect(() => readPreset(doc(change as never))).toThrow(message)
  })

  it('and lets no other stage have one', () => {
    const copy = JSON.parse(JSON.stringify(touched)) as { chain: Record<string, unknown>[] }
    copy.chain[0].bench = copy.chain[1].bench
    expect(() => readPreset(copy)).toThrow('chain[0].bench: is not a known field')
  })
})

it('finds what the signal runs through before a stage', () => {
  const preset: Preset = {
    ...blank,
    chain: [
      createStage('gate', 'gate'),
      {
        kind: 'parallel',
        id: 'p',
        lanes: [
          createLane('l', [createStage('a1', 'amp.lantern'), createStage('c1', 'cabinet')]),
          createLane('r', [createStage('c2', 'cabinet')]),
        ],
      },
      createStage('out', 'output'),
    ],
  }
  const ids = (id: string) => pathTo(preset.chain, id).map((n) => n.id)
  expect(ids('c1')).toEqual(['gate', 'a1'])
  expect(ids('c2')).toEqual(['gate'])
  expect(ids('l')).toEqual(['gate', 'a1', 'c1'])
  expect(ids('out')).toEqual(['gate', 'p'])
  expect(ids('gate')).toEqual([])
})
