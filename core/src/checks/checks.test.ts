import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import {
  applyEdit,
  blankPreset,
  createLane,
  createStage,
  readPreset,
  type ChainNode,
  type Preset,
  type Snapshot,
} from '@fulgor/core/preset'
import { checkPreset } from '.'

let made = 0
const newId = () => `new${++made}`
const amp = (id = 'amp') => createStage(id, 'amp.lantern')
const cab = (id = 'cab') => createStage(id, 'cabinet')
const out = (into: 'full' | 'cabinet' = 'full') => createStage('out', 'output', { into })
const preset = (chain: readonly ChainNode[], snapshots?: readonly Snapshot[]): Preset => ({
  ...blankPreset('x'),
  chain,
  ...(snapshots ? { snapshots } : {}),
})
const rules = (p: Preset) => checkPreset(p, newId).map((f) => f.rule)
/** Every mend of every finding must leave nothing of its rule, and a preset that can be read. */
function mendAll(p: Preset): void {
  for (const finding of checkPreset(p, newId))
    for (const { label, edits } of finding.mends) {
      const mended = applyEdit(p, { type: 'all', edits })
      expect(rules(mended), `${finding.rule}: ${label}`).not.toContain(finding.rule)
      expect(readPreset(JSON.parse(JSON.stringify(mended)))).toEqual(mended)
    }
}

describe('cabinets in the chain', () => {
  it('finds nothing in a plain one, nor in the demo but for the bass lane without a cabinet', () => {
    expect(rules(preset([amp(), cab(), out()]))).toEqual([])
    const wrong = demoPresets.flatMap(({ preset: p }) =>
      checkPreset(p, newId)
        .filter((f) => f.severity === 'warning')
        .map((f) => `${p.name}: ${f.where.join()}`),
    )
    expect(wrong).toEqual(['Low Tide Signals, wall: bass'])
  })

  it('tells two in a row, with the reason, and mends it by one edit', () => {
    const double = preset([amp(), cab('c1'), createStage('eq', 'eq.parametric'), cab('c2'), out()])
    const [finding] = checkPreset(double, newId)
    expect(finding).toMatchObject({ rule: 'two-cabinets', severity: 'warning', where: ['c1', 'c2'] })
    expect(finding.figure).toContain('2 cabinets in a row')
    expect(finding.reason.length).toBeGreaterThan(30)
    mendAll(double)
  })

  it('names the snapshots where only some have it, and mends only those', () => {
    const snapshots: Snapshot[] = [
      { id: 'a', name: 'Alone', stages: { c2: { on: false } } },
      { id: 'b', name: 'Both', stages: {} },
    ]
    const some = preset([amp(), cab('c1'), cab('c2'), out()], snapshots)
    const [finding] = checkPreset(some, newId)
    expect(finding.figure).toContain('in “Both”')
    mendAll(some)
    const mended = applyEdit(some, { type: 'all', edits: finding.mends[0].edits })
    expect(mended.chain).toBe(some.chain)
  })

  it('a split does not put cabinets in a row, a cabinet after it does', () => {
    const split: ChainNode = {
      kind: 'parallel',
      id: 'p',
      lanes: [createLane('l', [amp('a1'), cab('c1')]), createLane('r', [amp('a2'), cab('c2')])],
    }
    expect(rules(preset([split, out()]))).toEqual([])
    const after = preset([split, cab('c3'), out()])
    expect(rules(after)).toEqual(['two-cabinets', 'two-cabinets'])
    // a muted lane carries nothing, and nothing unmutes it
    const muted = { ...split, lanes: [split.lanes[0], { ...split.lanes[1], on: false }] }
    expect(rules(preset([muted, cab('c3'), out()]))).toEqual(['two-cabinets', 'out-of-reach'])
  })

  it('two amps, each with its cabinet, in a row are no two cabinets in a row', () => {
    expect(rules(preset([amp('a1'), cab('c1'), amp('a2'), cab('c2'), out()]))).toEqual([])
  })

  it('tells an amp without a cabinet before a full-range output; with a guitar cabinet behind, it is right so', () => {
    const bare = preset([amp(), createStage('eq', 'eq.parametric'), out()])
    expect(rules(bare)).toEqual(['missing-cabinet'])
    mendAll(bare)
    expect(rules(preset([amp(), out('cabinet')]))).toEqual([])
    // a dry lane without an amp wants none
    expect(rules(preset([createStage('eq', 'eq.parametric'), out()]))).toEqual([])
  })

  it('switches a sleeping cabinet on instead of adding one', () => {
    const asleep = preset([amp(), { ...cab(), on: false }, out()])
    const [finding] = checkPreset(asleep, newId)
    expect(finding.mends[0].label).toBe('Switch its cabinet on')
    mendAll(asleep)
  })

  it('tells a cabinet into a guitar cabinet', () => {
    const twice = preset([amp(), cab(), out('cabinet')])
    expect(rules(twice)).toEqual(['cabinet-into-cabinet'])
    mendAll(twice)
  })
})
