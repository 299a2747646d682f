import { describe, expect, it } from 'vitest'
import { catalogue } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import {
  applyEdit,
  blankPreset,
  canSplit,
  commit,
  createHistory,
  createLane,
  createStage,
  findLane,
  findStage,
  frozen,
  judgedDry,
  laneAround,
  partsOf,
  placeAt,
  placeOf,
  readPreset,
  redo,
  resolveValues,
  rowsOf,
  splitsOf,
  stagesOf,
  undo,
  withStage,
  type Edit,
  type Preset,
} from '..'

const wall = demoPresets.find((d) => d.id === 'demo-tide-wall')?.preset ?? blankPreset('none')
const ids = (preset: Preset) => rowsOf(preset.chain).map((r) => r.id)

describe('rows', () => {
  it('list a chain with lanes top to bottom', () => {
    expect(ids(wall)).toEqual([
      'gate',
      'boost',
      'left',
      'chime',
      'cab1',
      'right',
      'crunch',
      'cab2',
      'below',
      'octave',
      'bass',
      'amps',
      'eq',
      'dry',
      'plate',
      'plate1',
      'space',
      'out',
    ])
    expect(splitsOf(wall.chain).map((s) => s.id)).toEqual(['amps', 'space'])
    expect(stagesOf(wall.chain)).toHaveLength(11)
    expect(partsOf(wall.chain)).toHaveLength(16)
  })

  it('know the place, the lane and the depth of everything', () => {
    expect(placeOf(wall, 'cab2')).toEqual({ lane: 'right', index: 1 })
    expect(placeOf(wall, 'amps')).toEqual({ lane: null, index: 2 })
    expect(placeOf(wall, 'left')).toBeUndefined()
    expect(laneAround(wall, 'bass')?.id).toBe('below')
    expect(laneAround(wall, 'gate')).toBeUndefined()
    expect(findLane(wall, 'below')?.split.id).toBe('amps')
    expect(findStage(wall, 'plate')?.model).toBe('lane')
    expect(canSplit(wall, 'gate')).toBe(true)
    expect(canSplit(wall, 'chime')).toBe(true)
  })

  it('say where a dragged stage lands', () => {
    expect(placeAt(wall, 'gate', 'boost')).toEqual({ lane: null, index: 1 })
    expect(placeAt(wall, 'gate', 'chime')).toEqual({ lane: 'left', index: 1 })
    expect(placeAt(wall, 'gate', 'left')).toEqual({ lane: 'left', index: 0 })
    expect(placeAt(wall, 'gate', 'amps')).toEqual({ lane: null, index: 3 })
    expect(placeAt(wall, 'eq', 'amps')).toEqual({ lane: 'below', index: 2 })
    expect(placeAt(wall, 'crunch', 'right')).toEqual({ lane: 'left', index: 2 })
    expect(placeAt(wall, 'eq', 'eq')).toBeNull()
    expect(placeAt(wall, 'eq', 'nowhere')).toBeNull()
  })
})

describe('any edits in any order', () => {
  /** A sequence of edits that a player could make, seeded. */
  function wander(seed: number, steps: number): { start: Preset; presets: Preset[] } {
    let state = seed
    const random = (below: number) => (state = (state * 16807) % 2147483647) % below
    const pick = <T>(list: readonly T[]): T => list[random(list.length)]
    let made = 0
    const id = () => `n${seed}x${made++}`
    const start = seed % 2 ? wall : demoPresets[0].preset
    let history = createHistory(start)
    const presets = [start]
    for (let k = 0; k < steps; k++) {
      const { present } = history
      const rows = rowsOf(present.chain)
      const stages = stagesOf(present.chain)
      const splits = splitsOf(present.chain)
      const lanes = rows.flatMap((r) => (r.kind === 'lane' ? [r.id] : []))
      const place = () => {
        const lane = random(2) && lanes.length > 0 ? pick(lanes) : null
        return { lane, index: random(6) }
      }
      const edits: (() => Edit | null)[] = [
        () => ({ type: 'addStage', stage: id(), model: pick(catalogue).id, ...place() }),
        () => (stages.length > 1 ? { type: 'removeStage', stage: pick(stages).id } : null),
        () => (stages.length > 0 ? { type: 'moveStage', stage: pick(stages).id, ...place() } : null),
        () => (stages.length > 0 ? { type: 'split', stage: pick(stages).id, split: id(), lanes: [id(), id()] } : null),
        () => (splits.length > 0 ? { type: 'addLane', split: pick(splits).id, lane: id() } : null),
        () => (lanes.length > 0 ? { type: 'removeLane', lane: pick(lanes) } : null),
        () => (lanes.length > 0 ? { type: 'moveLane', lane: pick(lanes), index: random(4) } : null),
        () => (splits.length > 0 ? { type: 'dissolve', split: pick(splits).id } : null),
        () => ({ type: 'setOn', stage: pick(partsOf(present.chain)).id, snapshot: pick(present.snapshots).id, on: random(2) === 0 }),
        () => ({
          type: 'setParam',
          stage: pick(partsOf(present.chain)).id,
          snapshot: random(2) ? null : pick(present.snapshots).id,
          param: 'level',
          value: 0 - random(9),
        }),
        () => ({ type: 'cellToBase', stage: pick(partsOf(present.chain)).id, snapshot: pick(present.snapshots).id }),
      ]
      const edit = pick(edits)()
      if (!edit) continue
      try {
        history = commit(history, edit, k * 5_000)
      } catch (error) {
        // the only refusals are those of the limits, in a sentence
        expect(error).toBeInstanceOf(RangeError)
        expect((error as Error).message).toMatch(/\.$/)
      }
      presets.push(history.present)
    }
    while (history.past.length > 0) history = undo(history)
    expect(history.present).toBe(start)
    while (history.future.length > 0) history = redo(history)
    expect(history.present).toBe(presets.at(-1))
    return { start, presets }
  }

  it.each(Array.from({ length: 24 }, (_, i) => i + 1))('keep the preset whole, and undo to the start (walk %s)', (seed) => {
    const { presets } = wander(seed, 60)
    for (const preset of presets) {
      // what a player can make is what can be read back
      expect(readPreset(JSON.parse(JSON.stringify(preset)))).toEqual(preset)
      const rows = ids(preset)
      expect(new Set(rows).size).toBe(rows.length)
      for (const split of splitsOf(preset.chain)) expect(split.lanes.length).toBeGreaterThanOrEqual(2)
      expect(Object.keys(resolveValues(preset, preset.snapshots[0].id)).sort()).toEqual(
        partsOf(preset.chain)
          .map((s) => s.id)
          .sort(),
      )
    }
  })
})

describe('edits of lanes', () => {
  it('put a dragged stage beside another one', () => {
    const next = applyEdit(wall, { type: 'split', stage: 'eq', split: 's', lanes: ['a', 'b'], beside: 'gate' })
    expect(ids(next).slice(0, 2)).toEqual(['boost', 'left'])
    expect(findLane(next, 'a')?.lane.nodes.map((n) => n.id)).toEqual(['eq'])
    expect(findLane(next, 'b')?.lane.nodes.map((n) => n.id)).toEqual(['gate'])
  })

  it('refuse what is not there, by name', () => {
    const refused = (edit: Edit) => () => applyEdit(wall, edit)
    expect(refused({ type: 'removeLane', lane: 'nope' })).toThrow('There is no lane “nope”')
    expect(refused({ type: 'split', stage: 'nope', split: 's', lanes: ['a', 'b'] })).toThrow('There is no stage “nope”')
    expect(refused({ type: 'moveStage', stage: 'nope', lane: null, index: 0 })).toThrow('There is no stage “nope”')
    expect(refused({ type: 'addStage', stage: 'x', model: 'trim', lane: 'nope', index: 0 })).toThrow('There is no lane “nope”')
    expect(refused({ type: 'addStage', stage: stagesOf(wall.chain)[0].id, model: 'trim', lane: null, index: 0 })).toThrow(
      'There is a stage with this id already',
    )
  })

  it('set all lanes’ levels at once, as one step', () => {
    const level = (stage: string, value: number): Edit => ({ type: 'setParam', stage, snapshot: null, param: 'level', value })
    const history = commit(createHistory(wall), { type: 'all', edits: [level('left', -5), level('right', -7)] }, 0)
    expect(findStage(history.present, 'left')?.params.level).toBe(-5)
    expect(findStage(history.present, 'right')?.params.level).toBe(-7)
    expect(undo(history).present).toBe(wall)
  })

  it('remove a lane by its row, and the split with its last but one', () => {
    const two = applyEdit(wall, { type: 'removeStage', stage: 'below' })
    expect(findLane(two, 'left')?.split.lanes).toHaveLength(2)
    const none = applyEdit(two, { type: 'removeStage', stage: 'right' })
    expect(splitsOf(none.chain).map((s) => s.id)).toEqual(['space'])
    expect(placeOf(none, 'chime')).toEqual({ lane: null, index: 2 })
  })
})

describe('listening', () => {
  it('judges dry: effects silent, their own lanes muted, the rest as it was', () => {
    const values = resolveValues(wall, 'full')
    const dry = judgedDry(wall.chain, values)
    expect(dry.plate1.params.mix).toBe(0)
    expect(dry.plate1.on).toBe(false)
    expect(dry.plate.on).toBe(false)
    expect(dry.dry).toEqual(values.dry)
    expect(dry.chime).toEqual(values.chime)
    // pitch belongs to the tone
    expect(dry.octave).toEqual(values.octave)
  })

  it('switches one stage over', () => {
    const values = resolveValues(wall, 'full')
    expect(withStage(values, 'boost', false).boost).toEqual({ ...values.boost, on: false })
    expect(withStage(values, 'boost', false).eq).toBe(values.eq)
  })

  it('freezes values into a preset that says just these', () => {
    const values = judgedDry(wall.chain, resolveValues(wall, 'thin'))
    const preset = frozen(wall, 'thin', values)
    expect(resolveValues(preset, 'thin')).toEqual(values)
    expect(preset.snapshots).toHaveLength(1)
    expect(readPreset(JSON.parse(JSON.stringify(preset))).chain).toEqual(preset.chain)
  })

  it('makes lanes and stages with the catalogue’s defaults', () => {
    expect(createLane('l').params).toEqual({ level: 0, pan: 0, polarity: 'normal', delay: 0 })
    expect(createStage('s', 'reverb.plate', { mix: 30 }).params.mix).toBe(30)
  })
})
