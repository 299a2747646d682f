import { describe, expect, it } from 'vitest'
import { GUITARS } from '@fulgor/core/guitar'
import {
  applyEdit,
  asPlayed,
  blankPreset,
  createControl,
  createStage,
  findStage,
  GUITAR_STAGE,
  handOf,
  madeHandOf,
  readPreset,
  resolveValues,
  usedGuitar,
  type Edit,
  type Fit,
  type Preset,
} from '..'

const after = (preset: Preset, ...edits: Edit[]): Preset => edits.reduce(applyEdit, preset)
const blank = after(blankPreset('x'), { type: 'addSnapshot', snapshot: 's2', name: 'Two' })
const other = usedGuitar('other', GUITARS[3], 'kit-1')
const fit: Fit = { position: 1, trim: 6, low: { hz: 200, db: 2 }, gates: { gate: { s1: 5 } }, trims: { s1: -1.5 } }
const two = after(
  blank,
  { type: 'addStage', stage: 'gate', model: 'gate', lane: null, index: 0 },
  { type: 'putGuitar', guitar: other },
  { type: 'setFit', guitar: 'other', position: 1, fit },
)
const there = (preset: Preset) => readPreset(JSON.parse(JSON.stringify(preset)))

describe('what plays', () => {
  it('is what the preset was made on, and sounds as it stands there', () => {
    expect(handOf(blank, 's1')).toMatchObject({ guitar: 'made-on', position: 0, volume: 10, tone: 10, fit: null })
    expect(asPlayed(blank)).toBe(blank)
    expect(there(two)).toEqual(two)
  })

  it('has the knobs before the chain, a snapshot’s own among them, and in no document', () => {
    const turned = after(
      blank,
      { type: 'setHand', snapshot: null, hand: { volume: 7 } },
      { type: 'setHand', snapshot: 's2', hand: { volume: 4, tone: 5 } },
    )
    const played = asPlayed(turned)
    expect(played.chain[0].id).toBe(GUITAR_STAGE)
    expect(resolveValues(played, 's1')[GUITAR_STAGE].params).toMatchObject({ volume: 7, tone: 10, volumeOhm: 500e3 })
    expect(resolveValues(played, 's2')[GUITAR_STAGE].params).toMatchObject({ volume: 4, tone: 5 })
    expect(asPlayed(played).chain).toHaveLength(played.chain.length)
    expect(turned.chain.some((n) => n.id === GUITAR_STAGE)).toBe(false)
    // a real guitar's knobs have done their work
    expect(asPlayed(turned, true)).toBe(turned)
  })

  it('takes what is kept for a guitar only while that one plays, beside the base', () => {
    const on = after(two, { type: 'setHand', snapshot: null, hand: { guitar: 'other', position: 1 } })
    const gate = Number(findStage(two, 'gate')?.params.threshold)
    expect(asPlayed(two)).toBe(two)
    const played = resolveValues(asPlayed(on), 's1')
    expect(played[GUITAR_STAGE].params).toMatchObject({ level: 6, lowHz: 200, lowDb: 2 })
    expect(played.gate.params.threshold).toBe(gate + 5)
    expect(Number(played.out.params.level)).toBeCloseTo(Number(resolveValues(two, 's1').out.params.level) - 1.5, 10)
    expect(resolveValues(asPlayed(on), 's2').gate.params.threshold).toBe(gate)
    expect(resolveValues(asPlayed(on), 's2').out.params.level).toBe(resolveValues(two, 's2').out.params.level)
    expect(findStage(on, 'gate')?.params.threshold).toBe(gate)
    // in the other position nothing is kept
    const elsewhere = after(on, { type: 'setHand', snapshot: null, hand: { position: 0 } })
    expect(asPlayed(elsewhere)).toBe(elsewhere)
    // and played twice it is fitted once
    expect(resolveValues(asPlayed(asPlayed(on)), 's1').gate.params.threshold).toBe(gate + 5)
  })

  it('may be another guitar in one snapshot', () => {
    const on = after(two, { type: 'setHand', snapshot: 's2', hand: { guitar: 'other', position: 1 } })
    expect([handOf(on, 's1').profile.name, handOf(on, 's2').profile.name]).toEqual(['Hot humbucker', 'Mild single coil'])
    expect(resolveValues(asPlayed(on), 's1')[GUITAR_STAGE].params.level).toBe(0)
    expect(resolveValues(asPlayed(on), 's2')[GUITAR_STAGE].params.level).toBe(6)
    expect(madeHandOf(on, 's2')).toMatchObject({ guitar: 'made-on', position: 0 })
  })

  it('can be moved by a source', () => {
    const control = {
      ...createControl('k', 'pedal', 'Pedal'),
      targets: [
        {
          id: 't',
          stage: GUITAR_STAGE,
          param: 'volume',
          from: 3,
          to: 10,
          curve: { shape: 'linear', heel: 0, toe: 0 },
          snapshots: null,
        } as const,
      ],
    }
    const on = there(after(blank, { type: 'addControl', control }))
    expect(resolveValues(asPlayed(on), 's1', { k: 0 })[GUITAR_STAGE].params.volume).toBe(3)
    expect(resolveValues(asPlayed(on), 's1')[GUITAR_STAGE].params.volume).toBe(10)
    expect(() => there({ ...on, controls: [{ ...control, targets: [{ ...control.targets[0], param: 'nope' }] }] })).toThrow(
      'controls[0].targets[0]',
    )
  })
})

describe('the guitars of a preset', () => {
  it('lose nothing when one is taken as what it was made on, and the measure needs no fit', () => {
    const made = after(two, { type: 'setGuitar', guitar: two.guitars[1], position: 1 })
    expect(made.guitars.map((g) => g.id)).toEqual(['other'])
    expect([made.madeOn, made.hand.guitar, made.guitars[0].fits]).toEqual([1, 'other', undefined])
    expect(there(made)).toEqual(made)
  })

  it('keep their fits when their figures are taken anew', () => {
    const anew = after(two, { type: 'putGuitar', guitar: { ...other, name: 'Other, measured' } })
    expect(anew.guitars[1]).toMatchObject({ name: 'Other, measured', fits: [fit] })
  })

  it('that go leave no snapshot without one', () => {
    const on = after(
      two,
      { type: 'setHand', snapshot: 's2', hand: { guitar: 'other', position: 3, volume: 8 } },
      { type: 'setHand', snapshot: null, hand: { guitar: 'other', position: 3 } },
      { type: 'removeGuitar', guitar: 'other' },
    )
    expect([on.hand.guitar, on.hand.position, on.snapshots[1].hand]).toEqual(['made-on', 0, { volume: 8 }])
    expect(there(on)).toEqual(on)
    expect(() => after(on, { type: 'removeGuitar', guitar: 'made-on' })).toThrow('made on')
  })

  it('forget what they said of stages and snapshots that are gone', () => {
    const gone = after(two, { type: 'removeStage', stage: 'gate' }, { type: 'removeSnapshot', snapshot: 's1' })
    expect(gone.guitars[1].fits).toEqual([{ ...fit, gates: {}, trims: {} }])
  })

  it.each([
    ['hand.guitar', { hand: { ...blank.hand, guitar: 'gone' } }],
    ['madeOn', { madeOn: 9 }],
    ['snapshots[0].hand.position', { snapshots: [{ ...blank.snapshots[0], hand: { guitar: 'made-on', position: 9 } }] }],
    ['guitars', { guitars: [] }],
    ['chain[0].model', { chain: [{ ...createStage('x', 'trim'), model: 'guitar' }] }],
  ])('are refused by %s', (path, wrong) => {
    expect(() => there({ ...blank, ...wrong })).toThrow(path)
  })
})

it('a declared guitar’s volume turns the guitar’s own knob, and a heard one does not', () => {
  const source = (declared: boolean) =>
    after(blank, { type: 'addControl', control: { ...createControl('v', 'volume', 'Volume'), declared } })
  const played = asPlayed(source(true))
  expect(resolveValues(played, 's1', { v: 0.7 })[GUITAR_STAGE].params.volume).toBeCloseTo(7, 10)
  expect(resolveValues(played, 's1')[GUITAR_STAGE].params.volume).toBe(10)
  expect(asPlayed(source(false))).toEqual(source(false))
  expect(asPlayed(source(true), true)).toEqual(source(true))
})

it('a target at the guitar outlives what goes elsewhere', () => {
  const target = {
    id: 't',
    stage: GUITAR_STAGE,
    param: 'tone',
    from: 0,
    to: 10,
    curve: { shape: 'linear', heel: 0, toe: 0 },
    snapshots: null,
  } as const
  const on = after(
    blank,
    { type: 'addControl', control: { ...createControl('k', 'pedal', 'Pedal'), targets: [target] } },
    { type: 'removeStage', stage: 'cab' },
  )
  expect(on.controls?.[0].targets).toEqual([target])
})

it('a fit of gates and trims alone puts no stage before the chain, and is added once', () => {
  const alone = after(two, {
    type: 'setFit',
    guitar: 'other',
    position: 1,
    fit: { position: 1, trim: 0, gates: { gate: { s1: 5 } }, trims: { s1: 2 } },
  })
  const on = after(alone, { type: 'setHand', snapshot: null, hand: { guitar: 'other', position: 1 } })
  const threshold = Number(findStage(two, 'gate')?.params.threshold) + 5
  const once = asPlayed(on)
  expect(once.chain).toBe(on.chain)
  expect(resolveValues(once, 's1').gate.params.threshold).toBe(threshold)
  expect(resolveValues(asPlayed(once), 's1').gate.params.threshold).toBe(threshold)
  expect(resolveValues(asPlayed(once), 's1').out.params.level).toBe(resolveValues(once, 's1').out.params.level)
})

it('no source turns the knobs of a real guitar, though a fit stands before the chain', () => {
  const target = {
    id: 't',
    stage: GUITAR_STAGE,
    param: 'volume',
    from: 0,
    to: 10,
    curve: { shape: 'linear', heel: 0, toe: 0 },
    snapshots: null,
  } as const
  const on = after(
    two,
    { type: 'setHand', snapshot: null, hand: { guitar: 'other', position: 1 } },
    { type: 'addControl', control: { ...createControl('k', 'pedal', 'Pedal'), targets: [target] } },
  )
  expect(resolveValues(asPlayed(on), 's1', { k: 0.5 })[GUITAR_STAGE].params.volume).toBe(5)
  expect(resolveValues(asPlayed(on, true), 's1', { k: 0.5 })[GUITAR_STAGE].params).toMatchObject({ volume: 10, level: 6 })
})
