import { describe, expect, it } from 'vitest'
import { blankPreset, commit, createHistory, redo, resumed, undo, type History } from '.'

const named = (names: readonly string[]): History =>
  names.reduce((h, name, i) => commit(h, { type: 'setTags', tags: [name] }, i * 10_000), createHistory(blankPreset('H')))

describe('a history that goes on after a reload', () => {
  it('has the same steps before and after where the document is what it was', () => {
    const before = undo(named(['a', 'b', 'c']))
    const after = resumed(structuredClone(before), structuredClone(before.present))
    expect(undo(after).present.tags).toEqual(['a'])
    expect(redo(after).present.tags).toEqual(['c'])
  })

  it('goes back to what was kept last where the document has changed since', () => {
    const before = undo(named(['a', 'b']))
    const after = resumed(before, { ...before.present, name: 'Changed elsewhere' })
    expect(after.present.name).toBe('Changed elsewhere')
    expect(undo(after).present).toEqual(before.present)
    expect(after.future).toEqual([])
  })

  it('never joins an edit to one before the reload', () => {
    const first = commit(createHistory(blankPreset('H')), { type: 'setTempo', tempo: 90 }, 1000)
    const next = commit(resumed(first, first.present), { type: 'setTempo', tempo: 95 }, 1100)
    expect(undo(next).present.tempo).toBe(90)
  })
})
