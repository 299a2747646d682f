import { describe, expect, it } from 'vitest'
import { catalogue, fromTravel, type StageModel } from '@fulgor/core/catalogue'
import {
  applyEdit,
  blankPreset,
  createLane,
  createStage,
  type ChainNode,
  type ParamMap,
  type Preset,
  type Snapshot,
} from '@fulgor/core/preset'
import { checkPreset, sparing, type Finding } from '.'

let made = 0
const newId = () => `new${++made}`
const wrong = (p: Preset) => new Set(checkPreset(p, newId).flatMap((f) => (f.severity === 'warning' ? [f.rule] : [])))

/** Presets at random, each from its number alone. */
function randomPreset(number: number): Preset {
  let state = 2_654_435_761 * (number + 1)
  const random = () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return state / 2 ** 32
  }
  const one = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]
  const models = catalogue.filter((m) => m.id !== 'output')
  const values = (model: StageModel): ParamMap =>
    Object.fromEntries(
      Object.entries(model.params).flatMap(([key, spec]) => {
        if (random() < 0.6 || key === 'response') return []
        return [[key, spec.kind === 'number' ? fromTravel(spec, random()) : one(spec.options).value]]
      }),
    )
  let count = 0
  const stage = () => {
    const model = one(models)
    return { ...createStage(`n${++count}`, model.id, values(model)), on: random() < 0.8 }
  }
  const row = (most: number): ChainNode[] => Array.from({ length: 1 + Math.floor(random() * most) }, stage)
  const split: ChainNode = { kind: 'parallel', id: 'split', lanes: [createLane('l1', row(2)), createLane('l2', row(2))] }
  const chain = [...row(5), ...(random() < 0.3 ? [split] : []), ...row(2), createStage('out', 'output')]
  const snapshots = Array.from({ length: 2 }, (_, i): Snapshot => {
    const own = chain.flatMap((node) => (node.kind === 'stage' && random() < 0.3 ? [[node.id, { on: random() < 0.5 }] as const] : []))
    return { id: `s${i}`, name: `Sound ${i}`, stages: Object.fromEntries(own) }
  })
  return { ...blankPreset(`Random ${number}`), tempo: 60 + Math.floor(random() * 120), chain, snapshots }
}

describe('mends', () => {
  it('of 200 presets at random: none that is offered makes something else go wrong, and each can be done', () => {
    let tried = 0
    const rules = new Set<string>()
    for (let number = 0; number < 200; number++) {
      const preset = randomPreset(number)
      const before = wrong(preset)
      for (const { rule, mends } of sparing(preset, checkPreset(preset, newId), newId))
        for (const { label, edits } of mends) {
          const raised = [...wrong(applyEdit(preset, { type: 'all', edits }))].filter((r) => !before.has(r))
          expect(raised, `${preset.name}, ${rule}: ${label}`).toEqual([])
          rules.add(rule)
          tried++
        }
    }
    expect(tried).toBeGreaterThan(200)
    expect(rules.size).toBeGreaterThan(5)
  })

  it('that would is left out: a cabinet taken away that leaves the amp without one', () => {
    const preset: Preset = {
      ...blankPreset('x'),
      chain: [createStage('amp', 'amp.pier'), createStage('cab', 'cabinet'), createStage('out', 'output')],
    }
    const finding: Finding = {
      rule: 'any',
      severity: 'note',
      where: ['cab'],
      figure: '',
      reason: '',
      mends: [
        { label: 'Remove it', edits: [{ type: 'removeStage', stage: 'cab' }] },
        { label: 'Nothing there', edits: [{ type: 'removeStage', stage: 'nobody' }] },
        { label: 'Rename', edits: [{ type: 'rename', name: 'y' }] },
      ],
    }
    expect(sparing(preset, [finding], newId)[0].mends.map((m) => m.label)).toEqual(['Rename'])
  })
})
