import { describe, expect, it } from 'vitest'
import { modelOf, type Family } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import {
  applyEdit,
  createControl,
  createSwitch,
  DEFAULT_SCALE,
  capacityOf,
  LINEAR,
  stagesOf,
  type BoardSwitch,
  type Control,
  type DeviceCapacity,
  type Edit,
  type Preset,
} from '@fulgor/core/preset'
import { checkPreset, type Finding } from '.'

const pit = demoPresets[0].preset
let ids = 0
const found = (preset: Preset, rule: string): Finding[] => checkPreset(preset, () => `m${++ids}`).filter((f) => f.rule === rule)
const edited = (...edits: readonly Edit[]): Preset => applyEdit(pit, { type: 'all', edits })
const sized = (change: Partial<DeviceCapacity>): Edit => ({
  type: 'setDevice',
  device: { ...DEFAULT_SCALE, name: 'Box', capacity: { ...capacityOf(pit.device), ...change } },
})
const source = (id: string, change: Partial<Control> = {}): Edit => ({
  type: 'addControl',
  control: { ...createControl(id, 'pedal', id), ...change },
})
const onBoard = (change: Partial<BoardSwitch> & Pick<BoardSwitch, 'index'>): Edit => ({
  type: 'addSwitch',
  own: { ...createSwitch(`s${++ids}`, { page: 'singles', bank: 0, index: 4 }), ...change },
})

/** Each mend takes its own finding away. */
function mended(preset: Preset, rule: string): void {
  const before = found(preset, rule)
  expect(before.length, rule).toBeGreaterThan(0)
  for (const finding of before)
    for (const { label, edits } of finding.mends) {
      const after = found(applyEdit(preset, { type: 'all', edits }), rule)
      expect(
        after.map((f) => f.figure),
        label,
      ).not.toContain(finding.figure)
    }
}

it('finds nothing in the demo', () => {
  expect(checkPreset(pit, () => 'x')).toEqual([])
})

describe('what the device holds', () => {
  it('pedals, sources, assignments, snapshots', () => {
    const small = edited(sized({ pedals: 1, sources: 2, assignments: 5, snapshots: 4 }))
    expect(found(small, 'device-capacity').map((f) => f.figure)).toEqual([
      '2 expression pedals are assigned; Box has room for 1.',
      '3 sources stand here; Box has 2.',
      '6 assignments stand here; Box holds 5.',
      'The preset has 6 snapshots; Box holds 4.',
    ])
    const none = edited(sized({ pedals: 0 }))
    expect(found(none, 'device-capacity')[0].mends.map((m) => m.label)).toEqual(['Make Delay in a knob', 'Make Swell a knob'])
    // the second use of a pedal takes no jack of its own
    const two = edited(sized({ pedals: 1 }), onBoard({ index: 4, press: { do: 'pedals', controls: ['pedal1', 'pedal2'] } }))
    expect(found(two, 'device-capacity')).toEqual([])
  })

  it('more processing than the device has, as far as it is told', () => {
    const load = (processing: { family: Family; percent: number }[]) =>
      found(edited(sized({ processing })), 'device-capacity').map((f) => f.figure)
    const counted = stagesOf(demoPresets[0].preset.chain).filter((s) => modelOf(s.model).family === 'delay').length
    expect(counted).toBeGreaterThan(0)
    expect(load([{ family: 'delay', percent: 100 / counted }])).toEqual([])
    const [figure] = load([{ family: 'delay', percent: 101 / counted }])
    expect(figure).toMatch(/^The stages take 101 % \(\d+ stages not counted\) of Box’s processing\.$/)
  })

  it('switches, banks and gestures; what has no room moves to a free switch', () => {
    const six = edited(sized({ switches: 6 }))
    expect(found(six, 'device-capacity').map((f) => f.figure)[0]).toContain('Box has 6 switches in 2 banks')
    mended(six, 'device-capacity')
    const plain = edited(sized({ hold: false }))
    expect(found(plain, 'device-capacity').map((f) => f.figure)).toEqual([
      'Switch 6 of bank 1, page of snapshots, has something on hold; Box knows none.',
    ])
    mended(plain, 'device-capacity')
    const twice = edited(onBoard({ index: 4, double: { do: 'tap' } }))
    expect(found(twice, 'device-capacity')[0].mends.map((m) => m.label)).toEqual(['Take it off', 'Put it on the press'])
    mended(twice, 'device-capacity')
  })
})

describe('what nobody reaches', () => {
  it('a snapshot on no switch, a page that no switch shows', () => {
    const added = edited({ type: 'addSnapshot', snapshot: 'extra', name: 'Extra' })
    expect(found(added, 'out-of-reach').map((f) => f.figure)).toEqual(['No switch loads “Extra”.'])
    mended(added, 'out-of-reach')
    const page = pit.board?.switches.find((s) => s.page === 'snapshots' && s.press?.do === 'page')
    const cut = edited({ type: 'removeSwitch', id: page?.id ?? '' })
    expect(found(cut, 'out-of-reach').map((f) => f.figure)).toEqual([
      'Bank 1, page of singles, cannot be reached from where the board starts.',
    ])
    mended(cut, 'out-of-reach')
  })

  it('a stage that is off everywhere and on no switch', () => {
    const stage: Edit = { type: 'addStage', stage: 'trem', model: 'modulation.tremolo', lane: null, index: 5 }
    const off = edited(stage, { type: 'setOn', stage: 'trem', snapshot: null, on: false })
    expect(found(off, 'out-of-reach')).toMatchObject([{ where: ['trem'], severity: 'note' }])
    mended(off, 'out-of-reach')
    // one snapshot that has it on is enough
    const once = applyEdit(off, { type: 'setOn', stage: 'trem', snapshot: 'finale', on: true })
    expect(found(once, 'out-of-reach')).toEqual([])
  })
})

describe('what does nothing', () => {
  it('a source without a target, a switch without a function, a switched source on no switch', () => {
    expect(found(edited(source('idle')), 'idle-control').map((f) => f.figure)).toEqual(['idle moves nothing.'])
    mended(edited(source('idle')), 'idle-control')
    const empty = edited(onBoard({ index: 4, label: 'Spare' }))
    expect(found(empty, 'idle-control').map((f) => f.figure)).toEqual(['Switch 5 of bank 1, page of singles, has no function.'])
    mended(empty, 'idle-control')
    const target = { id: 't', stage: 'gate', param: 'on', from: 0, to: 1, curve: LINEAR, snapshots: null }
    const loose = edited(source('loose', { kind: 'latching', targets: [target] }))
    expect(found(loose, 'idle-control').map((f) => f.figure)).toEqual(['loose is a switch that stands on no switch of the board.'])
    mended(loose, 'idle-control')
    expect(
      found(
        applyEdit(loose, { type: 'changeControl', control: 'loose', change: { midi: { type: 'note', channel: 1, number: 9 } } }),
        'idle-control',
      ),
    ).toEqual([])
  })

  it('a switch whose source is live in no snapshot', () => {
    const target = { id: 't', stage: 'hall', param: 'on', from: 0, to: 1, curve: LINEAR, snapshots: [] }
    const dead = edited(
      source('dead', { kind: 'latching', targets: [target] }),
      onBoard({ index: 4, press: { do: 'source', control: 'dead' } }),
    )
    expect(found(dead, 'idle-control').map((f) => f.figure)).toEqual([
      'Switch 5 of bank 1, page of singles, does nothing in any snapshot when it is pressed.',
    ])
    mended(dead, 'idle-control')
  })
})

it('a switch for a stage that a source holds is told, and mended either way', () => {
  const both = edited(onBoard({ index: 4, press: { do: 'stages', stages: ['delay', 'hall'], how: 'each' } }))
  expect(found(both, 'held-by-source').map((f) => f.figure)).toEqual([
    'Switch 5 of bank 1, page of singles, switches Delay; in “Pit strum”, “Chase” Echo throw holds it.',
  ])
  mended(both, 'held-by-source')
  const [off, free] = found(both, 'held-by-source')[0].mends.map(({ edits }) => applyEdit(both, { type: 'all', edits }))
  expect(off.board?.switches.at(-1)?.press).toEqual({ do: 'stages', stages: ['hall'], how: 'each' })
  expect(free.controls?.flatMap((c) => c.targets.map((t) => `${t.stage} ${t.param}`))).not.toContain('delay on')
})

describe('what comes late, and what is meant twice', () => {
  it('a snapshot beside a double press, a tap beside a hold', () => {
    const late = edited(
      sized({ double: true }),
      onBoard({ index: 4, press: { do: 'snapshot', snapshot: 'storm' }, double: { do: 'tuner' } }),
    )
    expect(found(late, 'late-press').map((f) => f.figure)).toEqual([
      'Switch 5 of bank 1, page of singles, acts 300 ms late, since it waits for a second press.',
    ])
    mended(late, 'late-press')
    const tap = edited(onBoard({ index: 4, press: { do: 'tap' }, hold: { do: 'tuner' } }))
    expect(found(tap, 'late-press').map((f) => f.figure)[0]).toContain('taps when the foot is lifted')
    mended(tap, 'late-press')
  })

  it('a controller for two sources, and one that every device takes otherwise', () => {
    const cc = (number: number) => ({ midi: { type: 'cc', channel: 1, number } as const })
    const twice = edited(source('other', cc(11)))
    expect(found(twice, 'midi-clash').map((f) => f.figure)).toEqual(['Controller 11 on channel 1 stands for “Delay in” and for “other”.'])
    mended(twice, 'midi-clash')
    const reserved = edited(source('other', cc(121)))
    expect(found(reserved, 'midi-clash').map((f) => f.figure)).toEqual(['other listens to controller 121, which is channel mode.'])
    mended(reserved, 'midi-clash')
  })
})
