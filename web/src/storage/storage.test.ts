import { afterEach, describe, expect, it, vi } from 'vitest'
import { browserStorage } from './storage'

afterEach(() => vi.unstubAllGlobals())

/** A storage of the browser, with room for so many entries. */
function storage(room: number) {
  const held = new Map<string, string>()
  return {
    get length() {
      return held.size
    },
    key: (i: number) => [...held.keys()][i] ?? null,
    getItem: (key: string) => held.get(key) ?? null,
    setItem(key: string, text: string) {
      if (held.size >= room && !held.has(key)) throw new DOMException('full', 'QuotaExceededError')
      held.set(key, text)
    },
    removeItem: (key: string) => held.delete(key),
  }
}

describe('what a browser keeps', () => {
  it('is read, written, listed and removed', () => {
    vi.stubGlobal('localStorage', storage(5))
    expect(browserStorage.write('a', '1')).toBe(true)
    expect(browserStorage.read('a')).toBe('1')
    expect(browserStorage.keys()).toEqual(['a'])
    browserStorage.remove('a')
    expect(browserStorage.read('a')).toBeNull()
  })

  it('says when it has no room, and keeps what was there', () => {
    vi.stubGlobal('localStorage', storage(1))
    browserStorage.write('a', '1')
    expect(browserStorage.write('b', '2')).toBe(false)
    expect(browserStorage.keys()).toEqual(['a'])
  })

  it('is nothing where it is forbidden, without a failure', () => {
    Object.defineProperty(globalThis, 'localStorage', {
      configurable: true,
      get: () => {
        throw new DOMException('forbidden', 'SecurityError')
      },
    })
    expect([browserStorage.read('a'), browserStorage.write('a', '1'), browserStorage.keys()]).toEqual([null, false, []])
    browserStorage.remove('a')
    Reflect.deleteProperty(globalThis, 'localStorage')
  })
})
