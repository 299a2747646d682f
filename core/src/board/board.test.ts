import { describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import {
  applyEdit,
  CAPACITIES,
  capacityFields,
  createControl,
  createSwitch,
  EMPTY_BOARD,
  functionsOf,
  hasRoom,
  LINEAR,
  readPreset,
  samePlace,
  switchAt,
  type Board,
  type BoardPage,
  type BoardSwitch,
  type Control,
  type DeviceCapacity,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import {
  effectOf,
  faceAfter,
  functionLabel,
  isOn,
  layOut,
  reachOf,
  restingSources,
  silentStages,
  switchedStages,
  unreachableSnapshots,
  usableFunctions,
} from '.'

const bare: Preset = { ...demoPresets[0].preset, controls: [], board: undefined }
const floor = CAPACITIES[1].capacity
let ids = 0
const at = (page: BoardPage, bank: number, index: number, what: Partial<BoardSwitch>): BoardSwitch => ({
  ...createSwitch(`s${++ids}`, { page, bank, index }),
  ...what,
})
const board = (...switches: readonly BoardSwitch[]): Board => ({ ...EMPTY_BOARD, switches })
const load = (snapshot: string): SwitchFunction => ({ do: 'snapshot', snapshot })
const newId = () => `n${++ids}`

describe('what a switch does', () => {
  const fn = (how: 'each' | 'together', ...stages: readonly string[]) => ({ do: 'stages', stages, how }) as const

  it('switches single stages, swaps several, or takes them together', () => {
    // in Overture clean drive and delay are off, the hall is on
    expect(switchedStages(bare, fn('each', 'delay'), 'overture', {})).toEqual({ delay: true })
    expect(switchedStages(bare, fn('each', 'delay', 'hall'), 'overture', {})).toEqual({ delay: true, hall: false })
    expect(switchedStages(bare, fn('together', 'delay', 'hall'), 'overture', {})).toEqual({ delay: true, hall: true })
    expect(switchedStages(bare, fn('together', 'delay', 'hall'), 'overture', { delay: true })).toEqual({ delay: false, hall: false })
    expect(isOn(bare, 'delay', 'overture', { delay: true })).toBe(true)
    // twice is as before
    const once = switchedStages(bare, fn('each', 'delay', 'hall'), 'storm', {})
    expect(switchedStages(bare, fn('each', 'delay', 'hall'), 'storm', once)).toEqual({ delay: true, hall: true })
  })

  it('says so for each snapshot as it is stored', () => {
    const words = (what: SwitchFunction, snapshot: string) => effectOf(demoPresets[0].preset, what, snapshot).words
    expect(words(fn('each', 'drive'), 'overture')).toBe('Mid-hump drive on')
    expect(words(fn('each', 'drive'), 'storm')).toBe('Mid-hump drive off')
    // the echo throw turns the delay on and off there
    expect(effectOf(demoPresets[0].preset, fn('each', 'delay'), 'strum')).toEqual({ words: 'Delay held by Echo throw', idle: true })
    expect(words(fn('each', 'delay', 'hall'), 'strum')).toBe('Delay held by Echo throw, Hall off')
    expect(words(fn('each', 'delay'), 'storm')).toBe('Delay off')
    expect(words(load('storm'), 'storm')).toBe('loads it afresh')
    // gate threshold, drive, its gain and level, amp gain and mid, two EQ values, delay, its mix and feedback, hall’s mix: counted by hand
    expect(words(load('storm'), 'overture')).toBe('changes 12 values')
    expect(words({ do: 'source', control: 'throw' }, 'strum')).toBe('Delay off → on, Delay mix 14 % → 45 %')
    expect(effectOf(demoPresets[0].preset, { do: 'source', control: 'throw' }, 'storm')).toEqual({ words: 'nothing here', idle: true })
    expect(words({ do: 'pedals', controls: ['pedal2'] }, 'overture')).toBe('Swell lets go')
    expect(words({ do: 'pedals', controls: ['pedal1'] }, 'storm')).toBe('Delay in takes over')
    expect(words({ do: 'tap' }, 'strum')).toBe('quarter at 96 bpm')
  })

  it('is named by it', () => {
    expect(functionLabel(demoPresets[0].preset, fn('each', 'drive', 'delay'))).toBe('Mid-hump drive + Delay')
    expect(functionLabel(demoPresets[0].preset, { do: 'pedals', controls: ['pedal1', 'pedal2'] })).toBe('Delay in / Swell')
    expect(functionLabel(bare, { do: 'bank', by: -1 })).toBe('Bank down')
  })

  it('lets the second use of a pedal rest until it is called', () => {
    const two: Preset = {
      ...demoPresets[0].preset,
      board: board(at('singles', 0, 0, { press: { do: 'pedals', controls: ['pedal1', 'pedal2'] } })),
    }
    expect(restingSources(two)).toEqual(['pedal2'])
    expect(restingSources(demoPresets[0].preset)).toEqual([])
  })
})

describe('what a foot can reach', () => {
  it('goes from face to face, round the banks and back', () => {
    const start = { page: 'snapshots', bank: 0 } as const
    expect(faceAfter(start, { do: 'page' }, 4)).toEqual({ page: 'singles', bank: 0 })
    expect(faceAfter(start, { do: 'bank', by: -1 }, 4)).toEqual({ page: 'snapshots', bank: 3 })
    expect(faceAfter({ page: 'singles', bank: 3 }, { do: 'bank', by: 1 }, 4)).toEqual({ page: 'singles', bank: 0 })
    expect(faceAfter(start, { do: 'tap' }, 4)).toBeNull()
  })

  it('ends where no switch leads on', () => {
    const lost = board(
      at('snapshots', 0, 0, { press: load('overture') }),
      at('snapshots', 1, 0, { press: load('strum') }),
      at('singles', 0, 0, { press: { do: 'stages', stages: ['drive'], how: 'each' } }),
    )
    expect(reachOf(lost, floor).faces).toEqual([{ page: 'snapshots', bank: 0 }])
    expect(unreachableSnapshots(bare, reachOf(lost, floor))).toEqual(['strum', 'storm', 'lullaby', 'chase', 'finale'])
    const led = { ...lost, switches: [...lost.switches, at('snapshots', 0, 7, { press: { do: 'page' }, hold: { do: 'bank', by: 1 } })] }
    expect(reachOf(led, floor).faces).toHaveLength(3)
    // a device that knows no hold does not get to the second bank
    expect(reachOf(led, { ...floor, hold: false }).faces).toHaveLength(2)
    // nor to a switch that it has not
    expect(reachOf(led, { ...floor, switches: 7 }).faces).toHaveLength(1)
  })

  it('leaves stages silent that are off everywhere and that nothing turns on', () => {
    const off = applyEdit(bare, {
      type: 'all',
      edits: bare.snapshots.map((s) => ({ type: 'setOn', stage: 'hall', snapshot: s.id, on: false })),
    })
    expect(silentStages(off, [])).toEqual(['hall'])
    const single = board(at('snapshots', 0, 0, { press: { do: 'stages', stages: ['hall'], how: 'each' } }))
    expect(silentStages(off, reachOf(single, floor).functions)).toEqual([])
    const target = { id: 't', stage: 'hall', param: 'on', from: 0, to: 1, curve: LINEAR, snapshots: null }
    const control: Control = { ...createControl('c', 'latching', 'Hall'), targets: [target] }
    expect(silentStages(applyEdit(off, { type: 'addControl', control }), [])).toEqual([])
  })
})

describe('a layout that is proposed', () => {
  const sizes: DeviceCapacity[] = Array.from({ length: capacityFields.switches.range[1] - 1 }, (_, i) =>
    [1, 2, 4, 8].flatMap((banks) => [true, false].map((hold) => ({ ...floor, switches: i + 2, banks, hold }))),
  ).flat()

  it.each(sizes)('stands on $switches switches, $banks banks, hold $hold', (capacity) => {
    for (const { preset } of demoPresets) {
      const made = layOut(preset, capacity, EMPTY_BOARD, newId)
      const whole = { ...preset, device: undefined, board: made }
      // it reads, nothing stands twice or outside, and nothing needs what the device has not
      expect(readPreset(JSON.parse(JSON.stringify(whole))).board).toEqual(made)
      made.switches.forEach((own, i) => {
        expect(hasRoom(capacity, own)).toBe(true)
        expect(made.switches.slice(0, i).some((other) => samePlace(own, other))).toBe(false)
        expect(usableFunctions(own, capacity)).toHaveLength(functionsOf(own).length)
      })
      // with a hold, or where there is room, a foot gets to every snapshot and to every stage that it switches
      const reach = reachOf(made, capacity)
      const room = capacity.switches * capacity.banks
      if (capacity.hold && preset.snapshots.length <= room) expect(unreachableSnapshots(preset, reach)).toEqual([])
      if (capacity.switches >= preset.snapshots.length + 3 && capacity.banks > 1) {
        expect(unreachableSnapshots(preset, reach)).toEqual([])
        expect(reach.faces.map((f) => f.page)).toContain('singles')
      }
    }
  })

  it('keeps the order of the snapshots, and the same helpers in each bank', () => {
    const small = CAPACITIES[0].capacity
    const made = layOut(bare, small, EMPTY_BOARD, newId)
    const presses = made.switches.filter((s) => s.page === 'snapshots').map((s) => (s.press?.do === 'snapshot' ? s.press.snapshot : ''))
    expect(presses).toEqual(['overture', 'strum', 'storm', 'lullaby', 'chase', 'finale'])
    const holds = (bank: number) => [0, 1, 2].map((index) => switchAt(made, { page: 'snapshots', bank, index })?.hold)
    expect(holds(0)).toEqual([{ do: 'tap' }, { do: 'page' }, { do: 'bank', by: 1 }])
    expect(holds(1)).toEqual(holds(0))
  })
})

describe('edits of the board', () => {
  const placed = applyEdit(bare, { type: 'addSwitch', own: at('snapshots', 0, 0, { id: 'a', press: load('storm') }) })

  it('exchanges switches, refuses a taken place, and undoes to the same object', () => {
    const two = applyEdit(placed, { type: 'addSwitch', own: at('snapshots', 0, 3, { id: 'b', press: load('chase') }) })
    const moved = applyEdit(two, { type: 'moveSwitch', id: 'b', to: { page: 'snapshots', bank: 0, index: 0 } })
    expect(moved.board?.switches.map((s) => [s.id, s.index])).toEqual([
      ['a', 3],
      ['b', 0],
    ])
    expect(applyEdit(two, { type: 'moveSwitch', id: 'b', to: { page: 'snapshots', bank: 0, index: 3 } })).toBe(two)
    expect(() => applyEdit(two, { type: 'addSwitch', own: at('snapshots', 0, 3, {}) })).toThrow('There is a switch at this place already.')
    expect(() => applyEdit(two, { type: 'moveSwitch', id: 'x', to: { page: 'singles', bank: 0, index: 3 } })).toThrow('no such switch')
  })

  it('forgets what is taken out of the preset', () => {
    expect(applyEdit(placed, { type: 'removeSnapshot', snapshot: 'storm' }).board?.switches[0].press).toBeNull()
    const single = applyEdit(bare, {
      type: 'addSwitch',
      own: at('singles', 0, 0, { press: { do: 'stages', stages: ['drive', 'delay'], how: 'each' } }),
    })
    const left = applyEdit(single, { type: 'removeStage', stage: 'delay' })
    expect(left.board?.switches[0].press).toEqual({ do: 'stages', stages: ['drive'], how: 'each' })
    expect(applyEdit(left, { type: 'removeStage', stage: 'drive' }).board?.switches[0].press).toBeNull()
    expect(applyEdit(placed, { type: 'removeStage', stage: 'drive' }).board).toBe(placed.board)
    const pedal = applyEdit(bare, { type: 'addControl', control: createControl('p', 'pedal', 'Pedal') })
    const used = applyEdit(pedal, {
      type: 'addSwitch',
      own: at('singles', 0, 1, { hold: { do: 'source', control: 'p' }, double: { do: 'pedals', controls: ['p'] } }),
    })
    expect(functionsOf(applyEdit(used, { type: 'removeControl', control: 'p' }).board?.switches[0] ?? at('singles', 0, 1, {}))).toEqual([])
  })
})
