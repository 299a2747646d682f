import { describe, expect, it } from 'vitest'
import { applyEdit, blankPreset, createStage, type Preset } from '@fulgor/core/preset'
import { checkPreset, sparing, type Finding } from '.'
import { randomPreset } from './testing'

let made = 0
const newId = () => `new${++made}`
const wrong = (p: Preset) => new Set(checkPreset(p, newId).flatMap((f) => (f.severity === 'warning' ? [f.rule] : [])))

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
