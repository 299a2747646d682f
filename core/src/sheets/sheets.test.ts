import { describe, expect, it } from 'vitest'
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import { planPresses } from '@fulgor/core/plan'
import { presetsOf } from '@fulgor/core/show'
import { checkList, deskSheet, gigRows, gigSheet, NIGHT_TICKS, nightFile, type Night } from '.'

const [{ document: show }] = demoShows
const presets = presetsOf(show).flatMap((id) => demoPresets.filter((p) => p.id === id))
const { capacity } = demoDevices[0].document
const night = (order: string): Night => ({
  show,
  order,
  plan: planPresses(show, order, presets, capacity),
  presets,
  capacity,
  guitars: { 'demo-double-cut': 'Double-cut', 'demo-plank': 'Plank' },
})

describe('the gig sheet', () => {
  const sheet = gigSheet(night('school'))
  it('has every song in its order, with what to press', () => {
    expect(sheet.songs.map((s) => s.name)).toEqual([
      'Overture',
      'Brine and Bread',
      'The Chase',
      'Storm over the Pans',
      'The Salt Road',
      'Bows',
    ])
    expect(sheet.title).toBe('The Salt Road, School matinée')
    expect(sheet.about).toBe('2026-12-12, 11:00, Harbour Hall, Ostmark')
    expect(sheet.songs[0].about).toBe('96 bpm · 4/4 · E minor · 2:35')
    expect(sheet.songs[0].parts.map((p) => [p.press, p.number, p.sound, p.bars])).toEqual([
      ['', '1', 'Overture clean', '16 bars'],
      ['2', '2', 'Pit strum', '24 bars'],
      ['6', '6', 'Finale', '22 bars'],
    ])
    expect(sheet.songs[0].parts[2].also).toEqual(['Delay in heel to toe over 8 bars after 10 bars'])
    expect(sheet.songs[1].parts[1]).toMatchObject({ press: '8, 2', sung: true, also: ['Mid-hump drive on'] })
  })
  it('as rows has one for each part, and a head', () => {
    const rows = gigRows(night('school'))
    expect(rows).toHaveLength(1 + sheet.songs.reduce((n, s) => n + s.parts.length, 0))
    expect(rows[2]).toEqual(['1', 'Overture', '96', '4/4', 'E minor', 'Road theme', '17.1', '24 bars', '2 Pit strum', '2', '', ''])
    expect(new Set(rows.map((r) => r.length))).toEqual(new Set([12]))
  })
  it('names what is gone', () => {
    const gone = { ...night('school'), presets: [] }
    expect(gigSheet({ ...gone, plan: planPresses(show, 'school', [], capacity) }).songs[0].parts[0]).toMatchObject({
      sound: 'gone',
      number: '',
    })
  })
})

describe('the other sheets', () => {
  it('the engineer is told levels, guitars, ears and cautions', () => {
    const lines = deskSheet(night('evening'), { softestLufs: -19.94, loudestLufs: -15.2, peakDbtp: -2 }).groups.flatMap((g) => g.lines)
    expect(lines).toContain('One line, mono')
    expect(lines).toContain('Sounds from −19.9 to −15.2 LUFS, as rendered on the dry riffs')
    expect(lines).toEqual(expect.arrayContaining(['Double-cut', 'Plank', 'Band without the guitar, singers on top, click left']))
    expect(lines.join(' ')).toMatch(/never the protective earth.*local codes.*licensed technician/)
    expect(deskSheet(night('evening'), null).groups[0].lines).toContain('Level: not measured yet')
  })
  it('the check list begins with the player’s own', () => {
    const { groups } = checkList(night('evening'))
    expect(groups[0].lines).toEqual(show.checks.map((c) => c.words))
    expect(groups.flatMap((g) => g.lines).join(' ')).toMatch(/Firmware.*gain.*Output type.*Cabinet on.*Global EQ.*cable/s)
  })
})

describe('the night as a sequence', () => {
  const file = nightFile(night('school'))
  const at = (kind: string) => file.events.filter((e) => e.is === kind)
  it('begins each song where its gap ends, on its own tempo', () => {
    // 62 bars of four quarters, then 30 s at 112 are 56 quarters, then 84 bars
    const songs = file.events.filter((e) => e.is === 'marker' && /^\d/.test(e.text)).map((e) => e.tick / NIGHT_TICKS)
    expect(songs.slice(0, 2)).toEqual([0, 62 * 4 + 56])
    expect(at('tempo').map((e) => (e.is === 'tempo' ? e.bpm : 0))).toEqual([96, 112, 168, 84, 104, 120])
    expect(at('metre')).toHaveLength(6)
  })
  it('loads the preset by its program once, and every sound at its bar', () => {
    const messages = file.events.flatMap((e) => (e.is === 'message' ? [{ tick: e.tick, ...e.message }] : []))
    expect(messages.filter((m) => m.type === 'program')).toEqual([{ tick: 0, type: 'program', channel: 1, number: 11, value: 0 }])
    const sounds = messages.filter((m) => m.type === 'cc' && m.number === 80)
    // overture, strum at bar 17, finale at bar 41: values 0, 1 and 5 of the controller for snapshots
    expect(sounds.slice(0, 3).map((m) => [m.tick, m.value])).toEqual([
      [1, 0],
      [16 * 4 * NIGHT_TICKS, 1],
      [40 * 4 * NIGHT_TICKS, 5],
    ])
  })
  it('moves a pedal from one end to the other over its bars', () => {
    const swell = file.events.flatMap((e) =>
      e.is === 'message' && e.message.type === 'cc' && e.message.number === 11 ? [{ tick: e.tick, value: e.message.value }] : [],
    )
    expect(swell[0]).toEqual({ tick: 50 * 4 * NIGHT_TICKS, value: 0 })
    expect(swell[32]).toEqual({ tick: 58 * 4 * NIGHT_TICKS, value: 127 })
  })
  it('says what it had to leave out', () => expect(file.missing.join(' ')).toMatch(/turns drive in Brine and Bread: it is left out/))
})
