import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import {
  applyEdit,
  blankPreset,
  createLane,
  createStage,
  readPreset,
  type ChainNode,
  type ParamMap,
  type Preset,
} from '@fulgor/core/preset'
import { mergeable, NET_HZ, netCurve, oneEqFor, responseMeter } from '.'

const RATE = 48_000
const context = {
  quality: 'live' as const,
  responses: responseLibrary(RATE, () => {
    throw new Error('no files')
  }),
}
const meter = responseMeter(context, RATE)
const preset = (...chain: ChainNode[]): Preset => ({ ...blankPreset('One'), chain: [...chain, createStage('out', 'output')] })
const eq = (id: string, params: ParamMap) => createStage(id, 'eq.parametric', params)
const sectionOf = (p: Preset) => netCurve(p, p.snapshots[0].id, 120, true, meter)[0].sections[0]
function replaced(p: Preset) {
  const section = sectionOf(p)
  const [group] = mergeable(p, section)
  const one = oneEqFor(p, p.snapshots[0].id, group, section, meter, 120, RATE, () => 'new')
  const next = applyEdit(p, { type: 'all', edits: one.edits })
  const after = sectionOf(next)
  const apart = NET_HZ.map((hz, k) => (hz < 50 || hz > 10_000 || section.sum[k] < -30 ? 0 : Math.abs(after.sum[k] - section.sum[k])))
  return { one, next, worst: Math.max(...apart), contributors: after.contributors }
}

describe('one equaliser in the place of several', () => {
  it('is the same within 0.1 dB where one can be: bells, shelf and cut of two are five bands of one', () => {
    const { one, worst, contributors, next } = replaced(
      preset(
        eq('a', { lowSlope: '12', lowCut: 90, bell1: 300, gain1: -4, q1: 1.2 }),
        eq('b', { bell2: 2_200, gain2: 5, q2: 1.5, highShelf: 5_000, highGain: -3 }),
      ),
    )
    expect(one.stages).toEqual(['a', 'b'])
    expect(one.errorDb).toBeLessThan(0.1)
    expect(worst).toBeLessThan(0.1)
    expect(contributors.map((c) => c.stage)).toEqual(['a'])
    expect(readPreset(JSON.parse(JSON.stringify(next)))).toEqual(next)
    expect(next.snapshots[0].stages.b).toEqual({ on: false })
  })

  it('tells the error that it leaves, as it is measured after the replacement', () => {
    // a generator of these tests' own; three equalisers with seven bells have more than one has
    let state = 7
    const random = (from: number, to: number) => {
      state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
      return from + ((to - from) * state) / 2 ** 32
    }
    let largest = 0
    for (let n = 0; n < 12; n++) {
      const any = (id: string) =>
        eq(id, {
          bell1: random(80, 400),
          gain1: random(-6, 6),
          bell2: random(500, 2_000),
          gain2: random(-6, 6),
          bell3: random(2_500, 7_000),
          gain3: random(-6, 6),
        })
      const { one, worst } = replaced(preset(any('a'), any('b')))
      expect(Math.abs(worst - one.errorDb)).toBeLessThan(0.02)
      largest = Math.max(largest, one.errorDb)
    }
    expect(largest).toBeGreaterThan(0.2)
    expect(largest).toBeLessThan(3)
  }, 120_000)

  it('takes a new one where none of them is parametric, and keeps cascaded cuts', () => {
    const graphic = (id: string) => createStage(id, 'eq.graphic-7', { g800: -3 })
    const { next, worst } = replaced(preset(graphic('a'), graphic('b')))
    expect(next.chain.map((node) => (node.kind === 'stage' ? node.model : ''))[0]).toBe('eq.parametric')
    expect(worst).toBeLessThan(1)
  })

  it('is not offered over what is not linear, out of a lane, or for one that a source moves', () => {
    const [a, b] = [eq('a', { gain1: -3 }), eq('b', { gain2: 3 })]
    const groups = (p: Preset) => mergeable(p, sectionOf(p)).map((g) => g.map((s) => s.id))
    expect(groups(preset(a, b))).toEqual([['a', 'b']])
    expect(groups(preset(a, createStage('c', 'compressor.vca'), b))).toEqual([])
    expect(groups(preset({ kind: 'parallel', id: 'p', lanes: [createLane('l', [a]), createLane('m', [])] }, b))).toEqual([])
    expect(groups(preset(a))).toEqual([])
  })
})
