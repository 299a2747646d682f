import { describe, expect, it } from 'vitest'
import { modelOf, type NumberSpec } from '@fulgor/core/catalogue'
import {
  applyEdit,
  blankPreset,
  createControl,
  curveAt,
  LINEAR,
  movedBy,
  positionOf,
  presetSchema,
  readPreset,
  resolveValues,
  targetValue,
  type ControlTarget,
  type Curve,
  type Preset,
} from '..'

const target = (more: Partial<ControlTarget>): ControlTarget => ({
  id: 't1',
  stage: 'amp',
  param: 'gain',
  from: 2,
  to: 8,
  curve: LINEAR,
  snapshots: null,
  ...more,
})

function withPedal(...targets: ControlTarget[]): Preset {
  const preset = applyEdit(blankPreset('Pedal'), { type: 'addControl', control: createControl('p1', 'pedal', 'Pedal 1') })
  return targets.reduce((p, t) => applyEdit(p, { type: 'addTarget', control: 'p1', target: t }), preset)
}

describe('curves', () => {
  const curve = (shape: Curve['shape'], more: Partial<Curve> = {}): Curve => ({ shape, heel: 0, toe: 0, ...more })
  // by their formulas: (e^(4x) − 1)/(e^4 − 1), ln(1 + x(e^4 − 1))/4, 3x² − 2x³
  it.each([
    [curve('linear'), 0.25, 0.25],
    [curve('exponential'), 0.5, (Math.E ** 2 - 1) / (Math.E ** 4 - 1)],
    [curve('logarithmic'), 0.5, Math.log(1 + 0.5 * (Math.E ** 4 - 1)) / 4],
    [curve('s'), 0.25, 0.15625],
    [curve('s'), 0.5, 0.5],
    [curve('linear', { heel: 0.2, toe: 0.2 }), 0.5, 0.5],
    [curve('linear', { heel: 0.2, toe: 0.2 }), 0.1, 0],
    [curve('linear', { heel: 0.2, toe: 0.2 }), 0.35, 0.25],
    [curve('linear', { heel: 0.2, toe: 0.2 }), 0.9, 1],
    [
      curve('points', {
        points: [
          [0, 0],
          [0.5, 0.8],
          [1, 0.2],
        ],
      }),
      0.25,
      0.4,
    ],
    [
      curve('points', {
        points: [
          [0, 0],
          [0.5, 0.8],
          [1, 0.2],
        ],
      }),
      0.75,
      0.5,
    ],
  ])('%o at %s', (shape, x, y) => expect(curveAt(shape, x)).toBeCloseTo(y, 9))

  it.each(['linear', 'exponential', 'logarithmic', 's'] as const)('%s runs from 0 to 1 and never back', (shape) => {
    const values = Array.from({ length: 101 }, (_, i) => curveAt(curve(shape), i / 100))
    expect([values[0], values[100]]).toEqual([0, 1])
    values.slice(1).forEach((v, i) => expect(v).toBeGreaterThan(values[i]))
  })

  it('exponential and logarithmic undo each other', () => {
    for (const x of [0.1, 0.4, 0.77]) expect(curveAt(curve('logarithmic'), curveAt(curve('exponential'), x))).toBeCloseTo(x, 12)
  })
})

describe('a target', () => {
  const gain = modelOf('amp.lantern').params.gain
  const cut = modelOf('eq.parametric').params.highCut as NumberSpec
  it('travels either way round, in equal ratios on a log taper', () => {
    expect(targetValue(gain, target({ from: 8, to: 2 }), 0.25)).toBe(6.5)
    // half way from 1 to 16 kHz in equal ratios is 4 kHz
    expect(targetValue(cut, target({ from: 1_000, to: 16_000 }), 0.5)).toBeCloseTo(4_000, 6)
  })

  it('runs through the options of a choice, and switches in the middle', () => {
    const note = modelOf('delay.digital').params.note
    const at = (p: number) => targetValue(note, target({ from: 'half', to: 'eighth' }), p)
    expect([at(0), at(0.5), at(1)]).toEqual(['half', 'quarter', 'eighth'])
    const preset = withPedal(target({ stage: 'cab', param: 'on', from: 0, to: 1 }))
    // half way is on: a pedal with two positions at the ends and one in the middle must not be off in two of them
    expect([0.4, 0.499, 0.5, 0.6].map((p) => resolveValues(preset, 's1', { p1: p }).cab.on)).toEqual([false, false, true, true])
  })

  it('tells where its source must stand for a value', () => {
    for (const p of [0.1, 0.5, 0.9]) {
      const t = target({ curve: { shape: 's', heel: 0.05, toe: 0.05 } })
      expect(positionOf(gain, t, targetValue(gain, t, p))).toBeCloseTo(p, 6)
    }
    expect(positionOf(gain, target({}), 9)).toBeNull()
  })
})

describe('sources', () => {
  it('move what they are assigned to, in the snapshots where that is live, and leave the rest', () => {
    const two = applyEdit(withPedal(), { type: 'addSnapshot', snapshot: 'lead', name: 'Lead' })
    const preset = applyEdit(two, { type: 'addTarget', control: 'p1', target: target({ snapshots: ['lead'] }) })
    expect(resolveValues(preset, 'lead', { p1: 1 }).amp.params.gain).toBe(8)
    expect(resolveValues(preset, 's1', { p1: 1 })).toEqual(resolveValues(preset, 's1'))
    expect(resolveValues(preset, 'lead')).toEqual(resolveValues(two, 'lead'))
    expect(movedBy(preset, 's1', { p1: 1 }).size).toBe(0)
    // the snapshot goes, and with it the assignment to it; the stage goes, and with it the target
    expect(applyEdit(preset, { type: 'removeSnapshot', snapshot: 'lead' }).controls?.[0].targets[0].snapshots).toEqual([])
    expect(applyEdit(preset, { type: 'removeStage', stage: 'amp' }).controls?.[0].targets).toEqual([])
  })

  it('move macros, which move parameters', () => {
    let preset = withPedal()
    preset = applyEdit(preset, { type: 'addControl', control: createControl('m1', 'macro', 'Drive and level') })
    preset = applyEdit(preset, { type: 'addTarget', control: 'p1', target: target({ stage: 'm1', param: 'position', from: 1, to: 0 }) })
    preset = applyEdit(preset, { type: 'addTarget', control: 'm1', target: target({ id: 't2' }) })
    expect(resolveValues(preset, 's1', { p1: 0.25 }).amp.params.gain).toBe(6.5)
    expect(applyEdit(preset, { type: 'removeControl', control: 'm1' }).controls?.[0].targets).toEqual([])
  })

  it('are kept with the preset and fit its schema', () => {
    const preset = withPedal(target({}), target({ id: 't2', stage: 'cab', param: 'on', from: 1, to: 0, snapshots: ['s1'] }))
    expect(readPreset(JSON.parse(JSON.stringify(preset)))).toEqual(preset)
    expect(JSON.stringify(presetSchema())).toContain('"control"')
  })

  it.each([
    [{ stage: 'nowhere' }, 'controls[0].targets[0]'],
    [{ param: 'reverb' }, 'controls[0].targets[0]'],
    [{ to: 11 }, 'controls[0].targets[0].to'],
    [{ from: 'half' }, 'controls[0].targets[0].from'],
    [{ curve: { shape: 'wave', heel: 0, toe: 0 } }, 'controls[0].targets[0].curve.shape'],
    [{ curve: { shape: 'linear', heel: 0.6, toe: 0 } }, 'controls[0].targets[0].curve.heel'],
    [{ snapshots: ['x'] }, 'controls[0].targets[0].snapshots'],
  ])('are refused by name when they make no sense: %o', (wrong, path) => {
    const preset = withPedal(target({}))
    const spoilt = { ...preset, controls: [{ ...preset.controls?.[0], targets: [target(wrong as Partial<ControlTarget>)] }] }
    expect(() => readPreset(spoilt)).toThrow(path)
  })
})
