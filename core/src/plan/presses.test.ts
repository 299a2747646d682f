import { describe, expect, it } from 'vitest'
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import {
  blankPreset,
  createStage,
  createSwitch,
  EMPTY_BOARD,
  type BoardSwitch,
  type DeviceCapacity,
  type Preset,
  type SwitchFunction,
} from '@fulgor/core/preset'
import { blankShow, blankSong, presetsOf, type Move, type Show, type SongPart } from '@fulgor/core/show'
import {
  auditOf,
  auditProposals,
  changesOf,
  cleanTap,
  ownSnapshots,
  planPresses,
  proposeLayout,
  wayBetween,
  withoutOwnSnapshot,
  type ShownPreset,
} from '.'

const size = (switches: number, banks: number): DeviceCapacity => ({
  switches,
  banks,
  hold: true,
  double: true,
  both: true,
  pedals: 2,
  sources: 8,
  assignments: 8,
  snapshots: 8,
})

const FUNCTIONS: Record<string, SwitchFunction> = {
  '+': { do: 'bank', by: 1 },
  '-': { do: 'bank', by: -1 },
  p: { do: 'page' },
  t: { do: 'tap' },
  '>': { do: 'preset', by: 1 },
  '<': { do: 'preset', by: -1 },
  x: { do: 'stages', stages: ['drive'], how: 'each' },
  y: { do: 'stages', stages: ['wide'], how: 'each' },
  z: { do: 'stages', stages: ['drive', 'wide'], how: 'together' },
}
const functionOf = (letter: string): SwitchFunction | null =>
  letter === '.' ? null : (FUNCTIONS[letter] ?? { do: 'snapshot', snapshot: letter })

/** Faces as words: `ab+ cd+ | xp.` are two banks of snapshots and one of single switches; `a/t` is t behind a, held; `a//t` pressed twice, `a&t` with the next one. */
function preset(faces: string): Preset {
  const switches: BoardSwitch[] = faces.split('|').flatMap((page, pages) =>
    page
      .trim()
      .split(/\s+/)
      .flatMap((face, bank) =>
        [...face.matchAll(/([^/&])(?:(\/\/?|&)([^/&]))?/g)].map((m, index) => ({
          ...createSwitch(`${pages}${bank}${index}`, { page: pages === 0 ? 'snapshots' : 'singles', bank, index }),
          press: functionOf(m[1]),
          ...(m[2] === undefined ? {} : { [m[2] === '/' ? 'hold' : m[2] === '&' ? 'both' : 'double']: functionOf(m[3]) }),
        })),
      ),
  )
  return {
    ...blankPreset('P'),
    chain: [
      { ...createStage('drive', 'drive.mid-hump'), on: false },
      { ...createStage('wide', 'modulation.chorus'), on: false },
      createStage('out', 'output'),
    ],
    snapshots: ['a', 'b', 'c', 'd'].map((id) => ({ id, name: id.toUpperCase(), stages: {} })),
    board: { ...EMPTY_BOARD, switches },
  }
}

interface Row {
  readonly sound?: string | null
  readonly preset?: string
  readonly sung?: boolean
  readonly bars?: number
  readonly moves?: readonly Move[]
}
const on = (...stages: string[]): Move[] => stages.map((stage) => ({ do: 'stage', stage, at: 0, on: true }))

function show(rows: readonly Row[], tempo: number | null = 120): Show {
  let at = 0
  const parts = rows.map(({ sound = 'a', preset: of = 'P', sung = false, bars = 8, moves = [] }, i): SongPart => {
    const part = {
      id: `p${i}`,
      name: `Part ${i + 1}`,
      at,
      length: 4 * bars,
      sound: sound === null ? null : { preset: of, snapshot: sound },
      sung,
      handsFull: false,
      moves,
    }
    at += 4 * bars
    return part
  })
  return {
    ...blankShow('Show'),
    songs: [{ ...blankSong('s', 'Song'), tempo, parts }],
    orders: [{ ...blankShow('').orders[0], items: [{ song: 's', cue: '1', gap: 0 }] }],
  }
}

const plan = (faces: string | readonly ShownPreset[], rows: readonly Row[], capacity: DeviceCapacity, tempo: number | null = 120) =>
  planPresses(show(rows, tempo), 'o1', typeof faces === 'string' ? [{ id: 'P', preset: preset(faces) }] : faces, capacity)

const letters = (text: string): Row[] => text.split('').map((sound) => ({ sound }))

describe('presses, counted by hand', () => {
  // name, board, sounds, switches, banks, presses of every change; the first sound is there when the preset is loaded
  it.each([
    ['all on one face', 'abcd', 'abcd', 4, 1, [0, 1, 1, 1]],
    ['the same again takes none', 'abcd', 'aaba', 4, 1, [0, 1, 1]],
    ['the next bank', 'ab+ cd+', 'ac', 3, 2, [0, 2]],
    ['and there it is one', 'ab+ cd+', 'acd', 3, 2, [0, 2, 1]],
    ['there and back', 'ab+ cd+', 'aca', 3, 2, [0, 2, 2]],
    ['what stands in both banks keeps the foot there', 'ab+ ac+', 'bcac', 3, 2, [1, 2, 1, 1]],
    ['banks go round: three of them, one back is two on', 'a+ b+ c+', 'acb', 2, 3, [0, 3, 3]],
    ['with a way back it is one', 'a+- b+- c+-', 'acb', 3, 3, [0, 2, 2]],
    ['a hold is one press', 'a/bc', 'ab', 2, 1, [0, 1]],
    ['a double press is two', 'a//bc', 'ab', 2, 1, [0, 2]],
    ['one further off is better than a double one', 'a//bcb', 'ab', 3, 1, [0, 1]],
    ['two at once are one press of one foot', 'a&bc', 'ab', 2, 1, [0, 1]],
    ['the last of a row has none beside it', 'ac&b', 'ab', 2, 1, [0, 0]],
    ['the far row has pairs of its own', 'a...b&c...', 'ac', 8, 1, [0, 1]],
    ['none goes from the near row into the far one', 'a..b&c....', 'ac', 8, 1, [0, 0]],
    ['two at once come before a double press', 'a//b..&b.', 'ab', 4, 1, [0, 1]],
    ['a bank is better left than twice gone to', 'abc+ dbc+', 'adbd', 4, 2, [0, 2, 1, 1]],
    ['where it begins counts: the last sounds are beside it', 'a+ b+', 'abab', 2, 2, [0, 2, 2, 2]],
  ] as const)('%s', (_, faces, sounds, switches, banks, presses) => {
    expect(plan(faces, letters(sounds), size(switches, banks)).changes.map((c) => c.presses)).toEqual(presses)
  })

  it.each([
    ['a stage beside the snapshots', 'abx', [{ sound: 'a', moves: on('drive') }], 3, [1]],
    ['a stage on the other page', 'abp | x.p', [{ sound: 'a' }, { sound: 'a', moves: on('drive') }], 3, [0, 2]],
    [
      'off again is one where the page still stands',
      'abp | x.p',
      [{ sound: 'a' }, { sound: 'a', moves: on('drive') }, { sound: 'a' }],
      3,
      [0, 2, 1],
    ],
    ['a snapshot and a stage', 'abx', [{ sound: 'a' }, { sound: 'b', moves: on('drive') }], 3, [0, 2]],
    ['two stages by two switches', 'axy', [{ sound: 'a', moves: on('drive', 'wide') }], 3, [2]],
    ['two stages by one switch', 'axyz', [{ sound: 'a', moves: on('drive', 'wide') }], 4, [1]],
    ['two stages off: the snapshot afresh', 'axy', [{ sound: 'a', moves: on('drive', 'wide') }, { sound: 'a' }], 3, [2, 1]],
    ['a new snapshot forgets what was switched', 'abx', [{ sound: 'a', moves: on('drive') }, { sound: 'b' }], 3, [1, 1]],
    ['a part without a sound leaves it', 'abx', [{ sound: 'a' }, { sound: null }, { sound: 'b' }], 3, [0, 1]],
    ['a tap', 'abt', [{ sound: 'a', moves: [{ do: 'tap', at: 0 } as const] }], 3, [0, 1]],
  ] as const)('%s', (_, faces, rows, switches, presses) => {
    expect(plan(faces, rows, size(switches, 1)).changes.map((c) => c.presses)).toEqual(presses)
  })

  it('another preset is loaded, begins with its first snapshot and on its first face', () => {
    const two = [
      { id: 'P', preset: preset('ab>') },
      { id: 'Q', preset: preset('ab<') },
    ]
    const rows = [{ sound: 'a' }, { sound: 'a', preset: 'Q' }, { sound: 'b', preset: 'Q' }, { sound: 'b' }]
    const found = plan(two, rows, size(3, 1))
    expect(found.changes.map((c) => [c.presses, c.loads])).toEqual([
      [0, false],
      [1, true],
      [1, false],
      [2, true],
    ])
  })
})

describe('what is told of a change', () => {
  const kinds = (faces: string, rows: readonly Row[], capacity: DeviceCapacity, tempo?: number | null) =>
    plan(faces, rows, capacity, tempo).changes.map((c) => c.troubles.map((t) => t.kind))

  it('a press on the breath between two sung parts is no press while singing', () =>
    expect(kinds('ab', [{ sung: true }, { sound: 'b', sung: true }], size(2, 1))).toEqual([[], []]))
  it('but what leads there is, where all the time before is sung', () => {
    const rows = [{ sung: true }, { sound: 'c', sung: true }]
    expect(kinds('ab+ cd+', rows, size(3, 2))).toEqual([[], ['sung']])
    expect(plan('ab+ cd+', rows, size(3, 2)).sung).toBe(1)
    // a bar without the voice is enough
    expect(kinds('ab+ cd+', [{ sung: true }, { sung: false }, { sound: 'c', sung: true }], size(3, 2))).toEqual([[], []])
  })
  it('the second press of a sound falls into the line', () =>
    expect(kinds('abx', [{}, { sound: 'b', sung: true, moves: on('drive') }], size(3, 1))).toEqual([[], ['sung']]))
  it('a stage in the middle of a sung part is pressed while singing', () => {
    const moves: Move[] = [{ do: 'stage', stage: 'drive', at: 8, on: true }]
    expect(kinds('abx', [{ sung: true, moves }], size(3, 1))).toEqual([[], ['sung']])
  })

  it('too little time: two presses 1.11 s apart in half a second', () => {
    // the third switch and the first of the next bank: 350 ms and two switches of 80 ms; a bar of four at 480 would be half a second
    const rows = [{ bars: 1 }, { sound: 'c', bars: 1 }]
    const [, change] = plan('ab+ cd+', rows, size(3, 2), 400).changes
    expect(change.needS).toBeCloseTo(0.51, 9)
    expect(change.change.windowS).toBeCloseTo(0.6, 9)
    expect(change.troubles).toEqual([])
    const slow = { ...show(rows, 400), feet: { pressMs: 500, stepMs: 100, tapMs: 400 } }
    const [, late] = planPresses(slow, 'o1', [{ id: 'P', preset: preset('ab+ cd+') }], size(3, 2)).changes
    expect(late.troubles[0]).toMatchObject({ kind: 'tight', presses: 2, needS: 0.7, words: '2 presses need 0.7 s, there are 0.6 s' })
  })
  it('a hold takes its time, a double press half of its own', () => {
    expect(plan('a/bc', letters('ab'), size(2, 1)).changes[1].needS).toBeCloseTo(0.4, 9)
    expect(plan('a//bc', letters('ab'), size(2, 1)).changes[1].needS).toBeCloseTo(0.15, 9)
  })
  it('a change that takes longer than a beat', () =>
    expect(kinds('abx', [{}, { sound: 'b', moves: on('drive') }], size(3, 1), 168)).toEqual([[], ['smeared']]))
  it('a pedal and a switch at once need both feet', () => {
    const moves: Move[] = [{ do: 'pedal', control: 'p', at: 0, length: 8, from: 0, to: 1 }]
    expect(kinds('ab', [{}, { sound: 'b', moves }], size(2, 1))).toEqual([[], ['feet']])
    expect(kinds('ab', [{}, { sound: 'b', moves: moves.map((m) => ({ ...m, at: 4 })) }], size(2, 1))).toEqual([[], []])
  })
  it('without a tempo presses are counted, and nothing is said of the time', () => {
    const found = plan('ab+ cd+', letters('ac'), size(3, 2), null)
    expect(found.presses).toBe(2)
    expect(found.changes[1].change.windowS).toBeNull()
    expect(found.troubles).toBe(0)
  })
  it('a snapshot that no switch leads to, or that is gone; the plan goes on', () => {
    const found = plan('ab', letters('acba'), size(2, 1))
    expect(found.changes.map((c) => [c.presses, c.troubles.map((t) => t.words).join()])).toEqual([
      [0, ''],
      [0, 'no switch leads to C'],
      [1, ''],
      [1, ''],
    ])
    const gone = plan('ab', letters('aqb'), size(2, 1))
    expect(gone.changes.map((c) => c.troubles.map((t) => t.kind).join())).toEqual(['', 'gone', ''])
    expect(plan([], letters('ab'), size(2, 1)).changes.every((c) => c.troubles[0].kind === 'gone')).toBe(true)
  })
  it('two switches are a board, too', () => expect(plan('a/b c/d', letters('ab'), size(2, 1)).presses).toBe(1))
  it('a later part counts where two overlap', () => {
    const one = show(letters('ab'))
    const song = one.songs[0]
    const over = { ...one, songs: [{ ...song, parts: [{ ...song.parts[0], length: 60 }, song.parts[1]] }] }
    expect(changesOf(over, 'o1').map((c) => c.at)).toEqual([0, 32])
  })
})

describe('taps', () => {
  // at 168 a quarter is 357 ms, a half 714; a bar of three at 138 is 1,304 ms, its quarter 435
  it.each([
    [96, 4, 400, 'quarter'],
    [168, 4, 400, 'half'],
    [138, 3, 450, 'half-dotted'],
    [138, 3, 400, 'quarter'],
    [320, 4, 500, 'whole'],
  ])('%d bpm in %d, not faster than %d ms: %s', (tempo, beats, tapMs, note) => expect(cleanTap(tempo, beats, { tapMs }).note).toBe(note))

  it('is told with what to tap instead', () => {
    const found = plan('at', [{ moves: [{ do: 'tap', at: 0 }] }], size(2, 1), 168)
    expect(found.changes[1].troubles).toMatchObject([{ kind: 'tap', everyMs: 357, note: 'half' }])
    expect(plan('at', [{ moves: [{ do: 'tap', at: 0 }] }], size(2, 1), 120).troubles).toBe(0)
  })
})

describe('the way of a foot', () => {
  it.each([
    [0, 3, 4, 3],
    [0, 4, 4, 1],
    [1, 6, 4, 2],
    [5, 5, 4, 0],
  ])('from switch %d to %d in rows of %d it passes %d', (a, b, columns, way) => expect(wayBetween(a, b, columns)).toBe(way))
})

describe('the demo’s show', () => {
  const [{ document: salt }] = demoShows
  const presets = presetsOf(salt).flatMap((id) => demoPresets.filter((p) => p.id === id))
  const { capacity } = demoDevices[0].document
  const ids = () => {
    let n = 0
    return () => `new-${++n}`
  }
  const propose = (locked: Readonly<Record<string, readonly string[]>> = {}, ordered = false) => {
    const search = proposeLayout({ show: salt, order: 'evening', presets, locked, snapshots: true, ordered, capacity }, ids())
    for (;;) {
      const { value, done } = search.next()
      if (done) return value
      expect(value).toBeGreaterThanOrEqual(0)
      expect(value).toBeLessThanOrEqual(1)
    }
  }

  it('has real trouble, which the layout mends', () => {
    const proposal = propose()
    expect(proposal.before.sung).toBeGreaterThan(0)
    expect(proposal.after.sung).toBe(0)
    expect(proposal.after.troubles).toBeLessThan(proposal.before.troubles / 3)
    expect(proposal.snapshots.map((s) => [s.preset, s.snapshot, s.on])).toEqual([['demo-pit-main', 'strum', { drive: true }]])
    // the show plays the new snapshot where it switched a stage before
    expect(JSON.stringify(proposal.show.songs)).not.toContain('"do":"stage"')
    expect(proposal.changes.some((c) => c.words.includes('becomes a snapshot of its own'))).toBe(true)
  })

  it('what a layout did to the songs is taken out of them, and nothing else', () => {
    const { show: after, snapshots } = propose()
    expect(snapshots.reduce(withoutOwnSnapshot, after)).toEqual(salt)
    const edited = { ...after, songs: after.songs.map((s, i) => (i === 0 ? { ...s, key: 'F' } : s)) }
    expect(snapshots.reduce(withoutOwnSnapshot, edited).songs[0].key).toBe('F')
  })

  it('numbers snapshots as their switches, where that is wished', () => {
    const proposal = propose({}, true)
    const { preset } = proposal.presets[0]
    preset.snapshots.forEach((s, i) => {
      const own = preset.board?.switches.find((w) => w.page === 'snapshots' && w.press?.do === 'snapshot' && w.press.snapshot === s.id)
      const before = preset.board?.switches.filter(
        (w) => w.page === 'snapshots' && w.press?.do === 'snapshot' && 100 * w.bank + w.index < 100 * (own?.bank ?? 0) + (own?.index ?? 0),
      )
      expect(before).toHaveLength(i)
    })
    expect(proposal.after.presses).toBe(propose().after.presses)
  })

  it('leaves a locked switch as it is', () => {
    const own = presets[0].preset.board?.switches.find((s) => s.page === 'snapshots' && s.index === 3)
    const proposal = propose({ 'demo-pit-main': [own?.id ?? ''] })
    expect(proposal.boards[0].board.switches.find((s) => s.page === 'snapshots' && s.bank === 0 && s.index === 3)).toEqual(own)
  })

  it('knows what the night never uses, and what it could make room for', () => {
    const plan = planPresses(salt, 'school', presets, capacity)
    const usage = auditOf(plan, presets, capacity)
    const of = (kind: string, id: string) => usage.find((u) => u.preset === 'demo-pit-main' && u.kind === kind && u.id === id)?.times
    expect([of('snapshot', 'lullaby'), of('source', 'pedal2'), of('source', 'throw')]).toEqual([1, 0, 0])
    // overture, twice strum, the solo, the chase twice … as the running order has them
    expect(of('snapshot', 'storm')).toBe(2)
    const [own] = ownSnapshots(plan, presets, capacity)
    expect(own.times).toBe(5)
    const told = auditOf(plan, presets, { ...capacity, processing: [{ family: 'delay', percent: 12.5 }] })
    expect(new Set(told.filter((u) => u.kind === 'stage').map((u) => u.costs))).toEqual(
      new Set(['one stage of the chain', 'one stage, 12.5 % of the processing']),
    )
    expect(auditProposals(usage, [own], presets).join(' ')).toMatch(/Free .*Echo throw.* for Pit strum with Mid-hump drive: 5 uses/)
  })
})
