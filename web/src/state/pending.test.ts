import { describe, expect, it, vi } from 'vitest'
import { blankPreset, type Preset } from '@fulgor/core/preset'
import { keepPending, standing } from './pending'

const named = (name: string): Preset => ({ ...blankPreset('P'), name })

describe('edits that were kept in the browser', () => {
  it('leave nothing out of date, and nothing broken, where storage is full', () => {
    const removeItem = vi.fn()
    const setItem = () => {
      throw new DOMException('full', 'QuotaExceededError')
    }
    vi.stubGlobal('localStorage', { setItem, removeItem })
    keepPending('p', { document: named('mine'), baseRevision: 1, sent: null })
    expect(removeItem).toHaveBeenCalledWith('fulgor.pending.p')
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
