import { describe, expect, it } from 'vitest'
import type { SwitchFunction } from '@fulgor/core/preset'
import { bestLayout, layoutBound, layoutCost, TAKEN, type LayoutProblem, type Slot, type Token } from './layout'

/** A device without holds: so many switches and banks; a night as letters. */
const night = (switches: number, banks: number, letters: string): LayoutProblem => {
  const names = [...new Set(letters.split(''))]
  const functions = names.map((name): SwitchFunction => ({ do: 'snapshot', snapshot: name }))
  const tokens = letters.split('').map((name, i): Token => ({ fn: names.indexOf(name), weight: 1, leads: i === 0 ? null : 1 }))
  const slots = Array.from({ length: switches * banks }, (_, s): Slot => ({
    bank: Math.floor(s / switches),
    index: s % switches,
    gesture: 'press',
  }))
  return {
    functions,
    wanted: names.length,
    tokens,
    slots,
    fixed: slots.map(() => null),
    today: slots.map(() => -3),
    banks,
    columns: switches,
  }
}

const done = <T>(search: Generator<number, T>): T => {
  for (;;) {
    const { value, done: ended } = search.next()
    if (ended) return value
  }
}

/**
 * The same cost, worked out another way: Bellman's relaxation over (bank, foot) for every press of the night, with no shortest path
 * kept and no copy of the code that it checks.
 */
function counted(at: readonly number[], switches: number, banks: number, tokens: readonly number[]): number {
  const size = banks * switches
  let open = new Float64Array(size).fill(Infinity)
  let first = true
  const lead = (from: Float64Array): Float64Array => {
    const now = Float64Array.from(from)
    for (let again = 0; again < banks; again++)
      for (let place = 0; place < size; place++) {
        if (now[place] === Infinity) continue
        const bank = Math.floor(place / switches)
        for (let index = 0; index < switches; index++) {
          const fn = at[bank * switches + index]
          if (fn !== -1 && fn !== -2) continue
          const to = ((bank + (fn === -1 ? 1 : -1) + banks) % banks) * switches + index
          const cost = now[place] + 1 + 0.02 * Math.abs((place % switches) - index)
          if (cost < now[to] - 1e-12) now[to] = cost
        }
      }
    return now
  }
  for (const token of tokens) {
    const next = new Float64Array(size).fill(Infinity)
    if (first) {
      // bank 1 is open and the foot may stand on any switch to begin with; its way does not count
      const presses = new Float64Array(banks).fill(Infinity)
      presses[0] = 0
      for (let again = 0; again < banks; again++)
        for (let bank = 0; bank < banks; bank++)
          for (let index = 0; index < switches; index++) {
            const fn = at[bank * switches + index]
            const to = (bank + (fn === -1 ? 1 : -1) + banks) % banks
            if (fn === -1 || fn === -2) presses[to] = Math.min(presses[to], presses[bank] + 1)
          }
      at.forEach((fn, s) => {
        if (fn === token) next[s] = presses[Math.floor(s / switches)] + 1
      })
      first = false
    } else {
      const led = lead(open)
      at.forEach((fn, s) => {
        if (fn !== token) return
        const bank = Math.floor(s / switches)
        for (let foot = 0; foot < switches; foot++)
          next[s] = Math.min(next[s], led[bank * switches + foot] + 1 + 0.02 * Math.abs(foot - (s % switches)))
      })
    }
    open = next
  }
  return Math.min(...open) + 0.01 * at.filter((fn) => fn !== -3).length
}

/** The least cost of all layouts that there are. */
function leastOfAll(problem: LayoutProblem, switches: number): number {
  const { slots, banks, functions, tokens } = problem
  const choices = [-3, ...(banks > 1 ? [-1] : []), ...(banks > 2 ? [-2] : []), ...functions.map((_, i) => i)]
  const sequence = tokens.map((t) => t.fn)
  const at = slots.map(() => -3)
  let least = Infinity
  const fill = (s: number) => {
    if (s === slots.length) {
      least = Math.min(least, counted(at, switches, banks, sequence))
      return
    }
    for (const choice of choices) {
      at[s] = choice
      fill(s + 1)
    }
  }
  fill(0)
  return least
}

const CASES: readonly (readonly [switches: number, banks: number, letters: string])[] = [
  [2, 1, 'aba'],
  [2, 1, 'aabb'],
  [3, 1, 'abcacab'],
  [3, 1, 'abababac'],
  [4, 1, 'abcdabcd'],
  [4, 1, 'acbdacbdaa'],
  [4, 1, 'adadbcbc'],
  [5, 1, 'abcdeabcde'],
  [5, 1, 'aebdcaebdc'],
  [2, 2, 'abab'],
  [2, 2, 'aabab'],
  [2, 2, 'abbaab'],
  [2, 3, 'abcabc'],
  [2, 3, 'aabbcc'],
  [2, 3, 'abacaba'],
  [3, 2, 'abcabc'],
  [3, 2, 'aabcba'],
  [3, 2, 'abcdabdc'],
  [3, 2, 'aabbccdd'],
  [3, 2, 'adbcadbc'],
]

describe('the best layout of small boards', () => {
  it.each(CASES)(
    '%d switches, %d banks, “%s”: no layout of all costs less',
    (switches, banks, letters) => {
      const problem = night(switches, banks, letters)
      const least = leastOfAll(problem, switches)
      // however it is sought
      for (const found of [done(bestLayout(problem)), done(bestLayout(problem, 1, 0))]) {
        expect(found.cost).toBeCloseTo(least, 6)
        expect(
          counted(
            found.at,
            switches,
            banks,
            problem.tokens.map((t) => t.fn),
          ),
        ).toBeCloseTo(least, 6)
        expect(found.bound).toBeLessThanOrEqual(found.cost + 1e-9)
      }
    },
    60_000,
  )

  it('says whether it looked at all', () => {
    expect(done(bestLayout(night(3, 1, 'abc'))).exact).toBe(true)
    expect(done(bestLayout(night(8, 1, 'abcdefgh'))).exact).toBe(false)
  })
})

describe('a large board', () => {
  it('12 switches: 200 changes lie within 5 % of a bound of their own', () => {
    let seed = 5
    const random = () => (seed = (seed * 48_271) % 2_147_483_647) / 2_147_483_647
    // eight sounds and four single stages, the first ones more often
    const letters = Array.from({ length: 200 }, () => String.fromCharCode(97 + Math.floor(12 * random() ** 1.7))).join('')
    const problem = night(12, 4, letters)
    const found = done(bestLayout({ ...problem, columns: 6 }))
    // every change is one press, and the foot stays where it is only when the same comes twice: else it passes one switch at least
    const steps = letters.split('').filter((l, i) => i > 0 && l !== letters[i - 1]).length
    const bound = letters.length + 0.02 * steps + 0.01 * new Set(letters).size
    expect(found.cost).toBeGreaterThanOrEqual(bound - 1e-9)
    expect(found.cost).toBeLessThanOrEqual(1.05 * bound)
  }, 60_000)
})

describe('what is locked, gone or moved', () => {
  it('a locked switch keeps what stands on it', () => {
    const problem = night(3, 1, 'abcabc')
    const locked = { ...problem, fixed: [2, null, null] }
    const found = done(bestLayout(locked))
    expect(found.at[0]).toBe(2)
    expect(found.at).toContain(0)
    expect(found.at).toContain(1)
  })
  it('a layout that lacks a sound costs everything', () => expect(layoutCost(night(2, 1, 'ab'), [0, -3])).toBe(Infinity))
  it('what stands somewhere today stays there where it costs no press', () => {
    const problem = { ...night(3, 1, 'abcabc'), today: [2, 1, 0] }
    expect(done(bestLayout(problem)).at).toEqual([2, 1, 0])
  })
  it('a place that is taken weighs a little: nothing is put down twice for nothing', () => {
    const at = done(bestLayout(night(4, 1, 'ab'))).at
    expect(at.filter((fn) => fn >= 0)).toHaveLength(2)
    expect(TAKEN).toBeGreaterThan(0)
  })
  it('the bound is a press a change', () => expect(layoutBound(night(3, 1, 'abcab'))).toBe(5))
})
