import { describe, expect, it, vi } from 'vitest'
import { takeNumber } from './takeNumber'

describe('typed numbers', () => {
  it.each([
    ['12', 12],
    ['12 ms', 12],
    [' 12,5 MS ', 12.5],
    ['\u221220', -20],
    ['40%', 40],
  ])('“%s” is taken', (text, value) => {
    const take = vi.fn()
    expect(takeNumber(text, 'It', 'ms', [-50, 50], take)).toBeNull()
    expect(take).toHaveBeenCalledWith(value)
  })

  it.each(['', '  ', 'many', '51', '-51', 'NaN', 'Infinity', '1e9'])('“%s” is refused with its range, and nothing is taken', (text) => {
    const take = vi.fn()
    expect(takeNumber(text, 'The time', 'ms', [-50, 50], take)).toBe('The time runs from −50 to 50 ms.')
    expect(take).not.toHaveBeenCalled()
  })

  it('may have to be whole', () => {
    expect(takeNumber('2.5', 'The number', '', [2, 12], vi.fn(), true)).toBe('The number runs from 2 to 12, in whole numbers.')
    expect(takeNumber('2.5', 'The number', '', [2, 12], vi.fn())).toBeNull()
  })
})
