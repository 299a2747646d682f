import { DocumentError } from '@fulgor/core/document'
import { Ajv2020 } from 'ajv/dist/2020'
import { describe, expect, it } from 'vitest'
import { demoShows } from '@fulgor/core/demo'
import {
  barBeat,
  beatS,
  blankShow,
  blankSong,
  clock,
  lengthWords,
  moved,
  moveStart,
  nextPart,
  parseLength,
  parsePlace,
  playedSongs,
  readShow,
  removePart,
  resize,
  showSchema,
  songProblems,
  songSeconds,
  soundsOf,
  splitPart,
  stepPart,
  withoutSong,
  type Song,
} from '.'

const plain = (value: unknown): Record<string, unknown> => JSON.parse(JSON.stringify(value)) as Record<string, unknown>
const schema = new Ajv2020({ strict: false }).compile(showSchema())
const salt = plain(demoShows[0].document)
const songs = salt.songs as Record<string, unknown>[]
const orders = salt.orders as Record<string, unknown>[]
const withSongField = (change: object) => ({ ...salt, songs: [{ ...songs[0], ...change }, ...songs.slice(1)] })

describe('the document', () => {
  it.each(demoShows.map((s) => [s.id, s.document] as const))('%s reads back as it is, and its schema takes it', (_, document) => {
    expect(plain(readShow(plain(document)))).toEqual(plain(document))
    expect(schema(plain(document)), JSON.stringify(schema.errors)).toBe(true)
  })

  it.each([
    ['another format', { ...salt, format: 'fulgor.place' }, 'format', 'fulgor.show'],
    ['a tempo of 1,000', withSongField({ tempo: 1_000 }), 'songs[0].tempo', '20 to 400'],
    ['a bar of nothing', withSongField({ metre: { beats: 0, unit: 4 } }), 'songs[0].metre.beats', '1 to 24'],
    ['a metre in thirds', withSongField({ metre: { beats: 4, unit: 3 } }), 'songs[0].metre.unit', 'one of'],
    ['two songs of one id', { ...salt, songs: [songs[0], songs[0]], orders: [{ ...orders[0], items: [] }] }, 'songs[1].id', 'used twice'],
    [
      'a song that is not there',
      { ...salt, orders: [{ ...orders[0], items: [{ song: 'gone', cue: '', gap: 0 }] }] },
      'orders[0].items[0].song',
      'no song',
    ],
    ['a day that is none', { ...salt, orders: [{ ...orders[0], day: '2026-02-30' }] }, 'orders[0].day', 'YYYY-MM-DD'],
    ['a time that is none', { ...salt, orders: [{ ...orders[0], time: '25:00' }] }, 'orders[0].time', 'HH:MM'],
    ['no running order', { ...salt, orders: [] }, 'orders', 'at least one'],
    ['a field that is not known', { ...salt, colour: 'red' }, 'colour', 'not a known field'],
    [
      'a part of no length',
      withSongField({ parts: [{ ...(songs[0].parts as object[])[0], length: 0 }] }),
      'songs[0].parts[0].length',
      '0.01',
    ],
  ])('refuses %s by name', (_, document, path, reason) => {
    let error: unknown
    try {
      readShow(document)
    } catch (thrown) {
      error = thrown
    }
    expect(error).toBeInstanceOf(DocumentError)
    expect((error as DocumentError).path).toBe(path)
    expect((error as DocumentError).reason).toContain(reason)
  })

  it('holds 300 songs', () => {
    const many = Array.from({ length: 300 }, (_, i) => ({ ...songs[0], id: `s${i}` }))
    const items = many.map(({ id }) => ({ song: id, cue: '', gap: 0 }))
    expect(readShow({ ...salt, songs: many, orders: [{ ...orders[0], items }] }).songs).toHaveLength(300)
  })
})

describe('time', () => {
  // a minute holds as many quarters as the tempo says; an eighth is half of one (common practice, no source)
  it.each([
    [60, 4, 1],
    [120, 4, 0.5],
    [120, 8, 0.25],
    [90, 2, 4 / 3],
  ])('a beat at %d in a metre of %d lasts %f s', (tempo, unit, s) => {
    expect(beatS(tempo, { beats: 4, unit: unit as 4 })).toBeCloseTo(s, 9)
  })

  const waltz: Song = { ...blankSong('w', 'Waltz'), tempo: 180, metre: { beats: 3, unit: 4 } }
  it('thirty-two bars of three at 180 last 32 s', () => {
    const song = { ...waltz, parts: [{ ...nextPart(waltz, 'p', 'A'), length: 96 }] }
    expect(songSeconds(song)).toBeCloseTo(32, 9)
    expect(songSeconds({ ...song, tempo: null })).toBeNull()
    expect(songSeconds({ ...song, tempo: null, counted: 'time' })).toBe(96)
  })

  it.each([
    ['1', 0],
    ['17', 48],
    ['17.3', 50],
    ['bar 2', 3],
    ['2.3.5', 5.5],
    ['0', null],
    ['1.4', null],
    ['two', null],
  ])('bar “%s” of a waltz is beat %s', (typed, beats) => expect(parsePlace(waltz, typed)).toBe(beats))

  it.each([
    ['1:30', 90],
    ['90', 90],
    ['90 s', 90],
    ['1:61', null],
    ['-4', null],
  ])('by time “%s” is %s s', (typed, s) => expect(parsePlace({ ...waltz, counted: 'time' }, typed)).toBe(s))

  it.each([
    ['8', 24],
    ['8 bars', 24],
    ['1 bar', 3],
    ['5 beats', 5],
    ['0', null],
  ])('“%s” of a waltz are %s beats', (typed, beats) => expect(parseLength(waltz, typed)).toBe(beats))

  it('says places and lengths as they are typed', () => {
    expect([
      barBeat(waltz.metre, 50),
      barBeat(waltz.metre, 0.5),
      lengthWords(waltz, 25),
      lengthWords(waltz, 2),
      lengthWords({ ...waltz, counted: 'time' }, 75),
    ]).toEqual(['17.3', '1.1.5', '8 bars 1 beat', '2 beats', '1:15'])
    expect([clock(158), clock(3_661)]).toEqual(['2:38', '1:01:01'])
  })

  it('lays songs one behind the other with their gaps, until one has no tempo', () => {
    const show = readShow(salt)
    const played = playedSongs(show, 'school')
    // 62 bars of four at 96 are 155 s; 30 s of talk; 84 bars at 112 are 180 s
    expect(played[0].to).toBeCloseTo(155, 6)
    expect(played[1].from).toBeCloseTo(185, 6)
    expect(played[1].to).toBeCloseTo(365, 6)
    const blind = { ...show, songs: show.songs.map((s) => (s.id === 'brine' ? { ...s, tempo: null } : s)) }
    expect(playedSongs(blind, 'school').map((p) => p.from === null)).toEqual([false, false, true, true, true, true])
    expect(() => playedSongs(show, 'gone')).toThrow('no running order')
  })

  it('tells what overlaps, has no tempo or is empty', () => {
    const song = { ...blankSong('x', 'X'), tempo: 100 }
    const parts = [
      { ...nextPart(song, 'a', 'A'), length: 10 },
      { ...nextPart(song, 'b', 'B'), at: 8 },
    ]
    expect(songProblems({ ...song, parts })).toEqual(['“A” still goes on where “B” begins; from there on B counts.'])
    expect(songProblems({ ...song, tempo: null })).toEqual(['It has no tempo: how long it takes is not known.', 'It has no parts yet.'])
  })
})

describe('editing', () => {
  const empty = { ...blankSong('s', 'Song'), tempo: 120 }
  const one = { ...empty, parts: [nextPart(empty, 'a', 'A')] }
  const two = { ...one, parts: [...one.parts, nextPart(one, 'b', 'B')] }
  const song = { ...two, parts: [...two.parts, nextPart(two, 'c', 'C')] }
  const spans = (s: Song) => s.parts.map((p) => [p.id, p.at, p.length])

  it('new parts follow each other, eight bars each', () =>
    expect(spans(song)).toEqual([
      ['a', 0, 32],
      ['b', 32, 32],
      ['c', 64, 32],
    ]))
  it('a border that is moved takes from the one and gives to the other', () =>
    expect(spans(moveStart(song, 'b', 40, 4)).slice(0, 2)).toEqual([
      ['a', 0, 40],
      ['b', 40, 24],
    ]))
  it('a border stays a beat away from the ends', () => {
    expect(moveStart(song, 'b', -10, 4).parts[0].length).toBe(4)
    expect(moveStart(song, 'b', 999, 4).parts[1].length).toBe(4)
  })
  it('a longer part pushes what follows', () =>
    expect(spans(resize(song, 'a', 48))).toEqual([
      ['a', 0, 48],
      ['b', 48, 32],
      ['c', 80, 32],
    ]))
  it('what follows a part that goes moves up', () =>
    expect(spans(removePart(song, 'b'))).toEqual([
      ['a', 0, 32],
      ['c', 32, 32],
    ]))
  it('neighbours change places, with their lengths', () =>
    expect(spans(stepPart(resize(song, 'a', 8), 'a', 1)).slice(0, 2)).toEqual([
      ['a', 32, 8],
      ['b', 0, 32],
    ]))
  it('a part is cut in two', () =>
    expect(spans(splitPart(song, 'b', 40, 'n'))).toEqual([
      ['a', 0, 32],
      ['b', 32, 8],
      ['c', 64, 32],
      ['n', 40, 24],
    ]))
  it('a row is moved inside itself', () => {
    expect(moved(['a', 'b', 'c'], 0, 2)).toEqual(['b', 'c', 'a'])
    expect(moved(['a', 'b', 'c'], 2, -4)).toEqual(['c', 'a', 'b'])
    expect(moved(['a'], 4, 0)).toEqual(['a'])
  })
  it('a song that goes leaves every night', () => {
    const show = withoutSong(readShow(salt), 'chase')
    expect(show.orders.some((o) => o.items.some((i) => i.song === 'chase'))).toBe(false)
    expect(readShow(plain(show)).songs).toHaveLength(songs.length - 1)
  })
  it('a blank show can be stored', () => expect(schema(plain(blankShow('New'))), JSON.stringify(schema.errors)).toBe(true))
})

describe('a list that is pasted', () => {
  const ids = () => {
    let n = 0
    return () => `n${++n}`
  }
  it('with a head takes columns by their names, in any order', () => {
    const { sounds, problems } = soundsOf(
      [
        ['BPM', 'Sound', 'Role', 'Notes'],
        ['112 bpm', 'Strum', 'edge', 'dry'],
        ['', 'Lead', 'high-gain', ''],
      ],
      ids(),
    )
    expect(problems).toEqual([])
    expect(sounds.map((s) => [s.name, s.tempo, s.role, s.words])).toEqual([
      ['Strum', 112, 'edge', 'dry'],
      ['Lead', null, 'high-gain', ''],
    ])
  })
  it('without one takes them in the order that is told, and the role from the words', () => {
    const { sounds } = soundsOf([['Funk clean', 'Market', 'Verse', '', '104', 'dry funk']], ids())
    expect(sounds.map((s) => [s.name, s.song, s.part, s.role, s.tempo, s.words])).toEqual([
      ['Funk clean', 'Market', 'Verse', 'clean', 104, 'dry funk'],
    ])
  })
  it('tells broken lines by number and takes the others', () => {
    const { sounds, problems } = soundsOf(
      [
        ['name', 'tempo', 'role', 'priority'],
        ['', '90', '', ''],
        ['Lead', 'fast', 'trumpet', 'perhaps'],
        [' '],
        ['x'.repeat(90), '', '', ''],
      ],
      ids(),
    )
    expect(sounds.map((s) => [s.name.length, s.tempo, s.role, s.priority])).toEqual(
      [
        [4, null, 'clean', 'must'],
        [60, null, 'clean', 'must'],
      ].map((row, i) => (i === 0 ? [4, null, 'high-gain', 'must'] : row)),
    )
    expect(problems.map((p) => [p.line, p.taken])).toEqual([
      [2, false],
      [3, true],
      [3, true],
      [3, true],
      [5, true],
    ])
  })
})
