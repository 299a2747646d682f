import { describe, expect, it } from 'vitest'
import { applyEdit, blankPreset, copyStages, findStage, freshBlock, readPreset, readStages, rowsOf, stagesOf, type Preset } from '..'

const counter = () => {
  let n = 0
  return () => `new-${++n}`
}
const order = (preset: Preset) => rowsOf(preset.chain).map((row) => row.id)

/** Drive, amp ∥ (chorus), cabinet, output; the lead turns amp, chorus and the chorus's lane. */
function withLane(): Preset {
  let preset = blankPreset('Blocks')
  preset = applyEdit(preset, { type: 'addStage', stage: 'drive', model: 'drive.clean-boost', lane: null, index: 0 })
  preset = applyEdit(preset, { type: 'addStage', stage: 'chorus', model: 'modulation.chorus', lane: null, index: 2 })
  preset = applyEdit(preset, { type: 'split', stage: 'amp', split: 'split', lanes: ['left', 'right'], beside: 'chorus' })
  preset = applyEdit(preset, { type: 'addSnapshot', snapshot: 'lead', name: 'Lead' })
  preset = applyEdit(preset, { type: 'setParam', stage: 'amp', snapshot: 'lead', param: 'gain', value: 8 })
  preset = applyEdit(preset, { type: 'setOn', stage: 'chorus', snapshot: 'lead', on: false })
  return applyEdit(preset, { type: 'setParam', stage: 'right', snapshot: 'lead', param: 'level', value: -6 })
}

describe('a block of stages', () => {
  it('stands beside what it was copied from, with what snapshots change on it', () => {
    const preset = withLane()
    const { nodes, cells } = freshBlock(copyStages(preset, ['drive', 'amp']), counter())
    const next = readPreset(applyEdit(preset, { type: 'insertNodes', nodes, cells, lane: null, index: 1 }))
    expect(order(next).slice(0, 4)).toEqual(['drive', 'new-1', 'new-2', 'left'])
    expect(findStage(next, 'new-2')?.model).toBe('amp.lantern')
    expect(next.snapshots[1].stages['new-2'].params).toEqual({ gain: 8 })
    expect(next.snapshots[0].stages).toEqual(preset.snapshots[0].stages)
  })

  it('brings a whole lane with its strip, a whole split, or the stages out of it', () => {
    const preset = withLane()
    const lane = copyStages(preset, ['right'])
    expect(lane.lane?.id).toBe('right')
    expect(copyStages(preset, ['right', 'chorus'])).toEqual(lane)
    expect(copyStages(preset, ['left', 'amp', 'right', 'chorus']).nodes.map((n) => n.kind)).toEqual(['parallel'])
    expect(copyStages(preset, ['amp', 'right', 'chorus']).nodes.map((n) => n.id)).toEqual(['amp', 'chorus'])
    const fresh = freshBlock(lane, counter())
    if (!fresh.lane) throw new Error('the lane is lost')
    const next = readPreset(applyEdit(preset, { type: 'insertLane', split: 'split', index: 2, lane: fresh.lane, cells: fresh.cells }))
    expect(order(next)).toEqual(['drive', 'left', 'amp', 'right', 'chorus', 'new-1', 'new-2', 'split', 'cab', 'out'])
    expect(next.snapshots[1].stages['new-1'].params).toEqual({ level: -6 })
    expect(next.snapshots[1].stages['new-2'].on).toBe(false)
  })

  it('goes into another preset, where its snapshots mean nothing', () => {
    const fresh = freshBlock(copyStages(withLane(), ['amp']), counter())
    const next = applyEdit(blankPreset('Other'), { type: 'insertNodes', ...fresh, lane: null, index: 0 })
    expect(order(next)[0]).toBe('new-1')
    expect(next.snapshots.map((s) => s.stages)).toEqual([{}])
  })

  it('goes through the clipboard as text, and is refused with the place', () => {
    const block = copyStages(withLane(), ['amp', 'right', 'chorus', 'left'])
    const read = (change: (o: Record<string, unknown>) => void) => {
      const copy = JSON.parse(JSON.stringify(block)) as Record<string, unknown>
      change(copy)
      return readStages(copy)
    }
    expect(read(() => undefined)).toEqual(block)
    expect(() => read((o) => (o.format = 'x'))).toThrow('no block of stages')
    expect(() => read((o) => (o.nodes = []))).toThrow('holds no stage')
    expect(() => read((o) => (o.cells = { lead: { other: { on: true } } }))).toThrow('cells.lead.other')
    expect(() => read((o) => (o.cells = { lead: { amp: { on: 3 } } }))).toThrow('cells.lead.amp.on')
  })

  it('does not make more stages or deeper lanes than a preset holds', () => {
    const preset = withLane()
    const whole = copyStages(preset, ['left', 'amp', 'right', 'chorus'])
    const nodes = Array.from({ length: 20 }, (_, i) => freshBlock(whole, () => `n${i}-${Math.random()}`).nodes).flat()
    expect(() => applyEdit(preset, { type: 'insertNodes', nodes, cells: {}, lane: null, index: 0 })).toThrow('at most 40 stages')
    const once = applyEdit(preset, { type: 'insertNodes', ...freshBlock(whole, counter()), lane: 'left', index: 0 })
    const again = freshBlock(whole, () => `deep-${Math.random()}`)
    const inner = rowsOf(once.chain).find((row) => row.kind === 'lane' && row.depth === 2)
    expect(() => applyEdit(once, { type: 'insertNodes', ...again, lane: inner?.id ?? null, index: 0 })).toThrow('2 deep')
  })
})

describe('several stages', () => {
  it('move together within a lane and out of it, and not out of different ones', () => {
    const preset = withLane()
    const next = applyEdit(preset, { type: 'moveStages', stages: ['cab', 'out'], lane: null, index: 0 })
    expect(order(next).slice(0, 3)).toEqual(['cab', 'out', 'drive'])
    const inside = applyEdit(preset, { type: 'moveStages', stages: ['cab', 'out'], lane: 'right', index: 1 })
    expect(order(inside)).toEqual(['drive', 'left', 'amp', 'right', 'chorus', 'cab', 'out', 'split'])
    expect(() => applyEdit(preset, { type: 'moveStages', stages: ['drive', 'amp'], lane: null, index: 0 })).toThrow('same lane')
  })

  it('are removed together, lanes with what is in them', () => {
    const next = applyEdit(withLane(), { type: 'removeStages', stages: ['drive', 'right', 'chorus'] })
    expect(stagesOf(next.chain).map((s) => s.id)).toEqual(['amp', 'cab', 'out'])
    expect(next.snapshots[1].stages).toEqual({ amp: { params: { gain: 8 } } })
  })
})
