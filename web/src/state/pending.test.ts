import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { blankPreset, type Preset } from '@fulgor/core/preset'
import { clearPending, keepDue, keepPending, keepSoon, readAllKept, readKept, standing } from './pending'
import { thisTab } from './tab'

const named = (name: string): Preset => ({ ...blankPreset('P'), name })

/** A storage like the browser's. */
function storage(held: Map<string, string>) {
  return {
    get length() {
      return held.size
    },
    key: (i: number) => [...held.keys()][i] ?? null,
    getItem: (key: string) => held.get(key) ?? null,
    setItem: (key: string, value: string) => held.set(key, value),
    removeItem: (key: string) => held.delete(key),
  }
}
const text = (name: string, at: number) => JSON.stringify({ document: named(name), baseRevision: 1, sent: null, at })

describe('edits that were kept in the browser', () => {
  it('are each tab’s own: this tab’s first, then those of closed tabs, newest first; open tabs keep theirs', () => {
    const held = new Map(
      Object.entries({
        'fulgor.pending.p.old': text('old', 5),
        'fulgor.pending.p.newer': text('newer', 9),
        'fulgor.pending.p.open': text('open', 20),
        'fulgor.pending.p': text('of an older build', 2),
        'fulgor.pending.px.other': text('of another preset', 30),
        'fulgor.pending.p.broken': 'not JSON',
      }),
    )
    vi.stubGlobal('localStorage', storage(held))
    keepPending('p', { document: named('mine'), baseRevision: 1, sent: null })
    const kept = readKept('p', new Set(['open', thisTab()]))
    expect(kept.map((k) => k.pending.document.name)).toEqual(['mine', 'newer', 'old', 'of an older build'])
    expect(
      readAllKept(new Set(['open']))
        .map((k) => [k.id, k.tab, k.pending.document.name])
        .slice(1),
    ).toEqual([
      ['px', 'other', 'of another preset'],
      ['p', 'newer', 'newer'],
      ['p', 'old', 'old'],
      ['p', '', 'of an older build'],
    ])
    clearPending('p')
    clearPending('p', 'newer')
    clearPending('p', '')
    expect(readKept('p', new Set()).map((k) => k.tab)).toEqual(['open', 'old'])
    vi.unstubAllGlobals()
  })

  it('are none where storage is forbidden, and nothing breaks', () => {
    vi.stubGlobal('localStorage', undefined)
    keepPending('p', { document: named('mine'), baseRevision: 1, sent: null })
    expect(readKept('p', new Set())).toEqual([])
    vi.unstubAllGlobals()
  })

  it('leave nothing out of date, and nothing broken, where storage is full', () => {
    const removeItem = vi.fn()
    const setItem = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
    vi.stubGlobal('localStorage', { setItem, removeItem })
    keepPending('p', { document: named('mine'), baseRevision: 1, sent: null })
    expect(removeItem).toHaveBeenCalledWith(`fulgor.pending.p.${thisTab()}`)
    vi.unstubAllGlobals()
  })

  const pending = { document: named('mine'), baseRevision: 4, sent: named('sent') }
  it('are done with when the server has them', () => {
    expect(standing(pending, { revision: 5, document: named('mine') })).toBe('there')
  })
  it('go on top of what they were made on, or of this browser’s own write whose answer was lost', () => {
    expect(standing(pending, { revision: 4, document: named('old') })).toBe('ahead')
    expect(standing(pending, { revision: 5, document: named('sent') })).toBe('ahead')
  })
  it('are a question when somebody else has written meanwhile', () => {
    expect(standing(pending, { revision: 5, document: named('theirs') })).toBe('conflict')
    expect(standing({ ...pending, sent: null }, { revision: 5, document: named('sent') })).toBe('conflict')
  })
})

describe('edits that follow each other fast', () => {
  const held = new Map<string, string>()
  let id = 'p'
  const kept = () => readKept(id, new Set()).map((k) => k.pending.document.name)
  const soon = (name: string) => keepSoon(id, { document: named(name), baseRevision: 1, sent: null })
  beforeEach(() => {
    // each test has a preset of its own: nothing that waits in one is left to the next
    id += 'p'
    vi.useFakeTimers()
    vi.stubGlobal('localStorage', storage(held))
  })
  afterEach(() => {
    clearPending(id)
    vi.useRealTimers()
  })

  it('are kept at once and by the quarter second, the last one too', () => {
    soon('first')
    expect(kept()).toEqual(['first'])
    soon('second')
    vi.advanceTimersByTime(200)
    soon('third')
    expect(kept()).toEqual(['first'])
    vi.advanceTimersByTime(60)
    expect(kept()).toEqual(['third'])
    soon('fourth')
    expect(kept()).toEqual(['third'])
    vi.advanceTimersByTime(250)
    expect(kept()).toEqual(['fourth'])
    vi.advanceTimersByTime(250)
    soon('after a rest')
    expect(kept()).toEqual(['after a rest'])
  })

  it('are kept before the page goes', () => {
    soon('first')
    soon('second')
    keepDue()
    expect(kept()).toEqual(['second'])
  })

  it('never come back over what was kept or cleared since', () => {
    soon('first')
    soon('second')
    keepPending(id, { document: named('sent'), baseRevision: 1, sent: null })
    vi.advanceTimersByTime(1_000)
    expect(kept()).toEqual(['sent'])
    soon('third')
    soon('fourth')
    clearPending(id)
    vi.advanceTimersByTime(1_000)
    expect(kept()).toEqual([])
  })
})
