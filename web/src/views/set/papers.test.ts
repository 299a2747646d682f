import ICAL from 'ical.js'
import MIDIFile from 'midifile'
import { createRequire } from 'node:module'
import { readFileSync } from 'node:fs'
import { extractText, getDocumentProxy } from 'unpdf'
import { describe, expect, it } from 'vitest'
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import { planPresses } from '@fulgor/core/plan'
import { checkList, gigSheet, type Night } from '@fulgor/core/sheets'
import { presetsOf } from '@fulgor/core/show'
import Papa from 'papaparse'
import { nightCalendar, nightCsv, nightMidi } from './nightFiles'
import { gigPdf, listPdf, type Faces } from './pdf'

const [{ document: show }] = demoShows
const presets = presetsOf(show).flatMap((id) => demoPresets.filter((p) => p.id === id))
const { capacity } = demoDevices[0].document
const nightOf = (of: typeof show, order: string): Night => ({
  show: of,
  order,
  plan: planPresses(of, order, presets, capacity),
  presets,
  capacity,
  guitars: { 'demo-double-cut': 'Double-cut', 'demo-plank': 'Plank' },
})
const night = nightOf(show, 'evening')
const font = (name: string) => new Uint8Array(readFileSync(createRequire(import.meta.url).resolve(`dejavu-fonts-ttf/ttf/${name}.ttf`)))
const faces: Faces = { plain: font('DejaVuSansCondensed'), bold: font('DejaVuSansCondensed-Bold') }

/** Text and page sizes as an independent reader finds them. */
async function read(bytes: Uint8Array) {
  const document = await getDocumentProxy(new Uint8Array(bytes))
  const { text } = await extractText(document, { mergePages: true })
  const { view } = await document.getPage(1)
  return { text: text.replace(/\s+/g, ' '), pages: document.numPages, width: view[2], height: view[3] }
}

describe('papers, read by an independent reader', () => {
  // ISO 216: A4 is 210 by 297 mm; ANSI/ASME Y14.1: letter is 8.5 by 11 inches; a point is 1/72 inch
  it.each([
    ['a4', (210 / 25.4) * 72, (297 / 25.4) * 72],
    ['letter', 612, 792],
  ] as const)('the gig sheet of fourteen songs fits one page of %s', async (paper, width, height) => {
    const made = await gigPdf(gigSheet(night), paper, faces)
    const found = await read(made.bytes)
    expect([found.pages, made.pages]).toEqual([1, 1])
    expect(Math.abs(found.width - width)).toBeLessThan(1)
    expect(Math.abs(found.height - height)).toBeLessThan(1)
    for (const { name } of gigSheet(night).songs) expect(found.text).toContain(name)
    expect(found.text).toContain('Storm lead')
    expect(made.size).toBeGreaterThanOrEqual(8)
  })

  it('fewer songs are written larger; names of other scripts stand as they are', async () => {
    const foreign = { ...show, songs: show.songs.map((s) => (s.id === 'overture' ? { ...s, name: 'Čajka, Соль, Αλάτι' } : s)) }
    const made = await gigPdf(gigSheet(nightOf(foreign, 'school')), 'a4', faces)
    expect(made.size).toBeGreaterThan((await gigPdf(gigSheet(night), 'a4', faces)).size)
    expect((await read(made.bytes)).text).toContain('Čajka, Соль, Αλάτι')
  })

  it('three hundred songs take more pages and lose nothing', async () => {
    const songs = Array.from({ length: 300 }, (_, i) => ({ ...show.songs[0], id: `s${i}`, name: `Song ${i + 1}` }))
    const many = { ...show, songs, orders: [{ ...show.orders[0], items: songs.map((s) => ({ song: s.id, cue: '', gap: 5 })) }] }
    const made = await gigPdf(gigSheet(nightOf(many, 'evening')), 'a4', faces)
    const found = await read(made.bytes)
    expect(found.pages).toBe(made.pages)
    expect(found.pages).toBeGreaterThan(3)
    expect(found.text).toContain('Song 300')
  }, 60_000)

  it('the check list has every line', async () => {
    const list = checkList(night)
    const { text } = await read((await listPdf(list, 'a4', faces, true)).bytes)
    for (const line of list.groups.flatMap((g) => g.lines)) expect(text.replace(/ /g, '')).toContain(line.replace(/ /g, ''))
  })
})

describe('the MIDI file, read back by an independent package', () => {
  const { bytes, missing } = nightMidi(night)
  const file = new MIDIFile(bytes)
  const [head, messages] = [file.getTrackEvents(0), file.getTrackEvents(1)]
  it('is of format 1 with a tempo map of every song', () => {
    expect([file.header.getFormat(), file.header.getTracksCount(), file.header.getTicksPerBeat()]).toEqual([1, 2, 480])
    const tempos = head.flatMap((e) => (e.type === 0xff && e.subtype === 0x51 && e.tempo !== undefined ? [60_000_000 / e.tempo] : []))
    expect(tempos.map(Math.round)).toEqual([96, 112, 138, 104, 66, 168, 90, 72, 84, 120, 92, 60, 104, 120])
  })
  it('holds programs of both presets and the controllers of pedals', () => {
    const programs = messages.filter((e) => e.type === 8 && e.subtype === 0xc)
    expect(new Set(programs.map((e) => e.param1))).toEqual(new Set([11, 0]))
    expect(messages.some((e) => e.subtype === 0xb && e.param1 === 4 && e.param2 === 127)).toBe(true)
    expect(missing.length).toBeGreaterThan(0)
  })
  it('lasts as long as the night by its own tempos: to the end of the last song', () => {
    let [seconds, bpm] = [0, 120]
    for (const e of head) {
      seconds += ((e as unknown as { delta: number }).delta / 480) * (60 / bpm)
      if (e.subtype === 0x51 && e.tempo !== undefined) bpm = 60_000_000 / e.tempo
    }
    // gaps of the running order, then bars times metre over tempo, added up by hand
    const gaps = [0, 40, 55, 30, 60, 25, 5, 10, 45, 50, 35, 20, 40, 15].reduce((a, b) => a + b, 0)
    const beats = [
      [248, 96],
      [336, 112],
      [393, 138],
      [256, 104],
      [196, 66],
      [548, 168],
      [160, 72],
      [252, 84],
      [352, 120],
      [256, 92],
      [168, 60],
      [304, 104],
      [236, 120],
    ].reduce((sum, [n, tempo]) => sum + (60 * n) / tempo, 75)
    expect(seconds).toBeCloseTo(gaps + beats, 0)
  })
})

describe('the calendar file, read by an independent reader of RFC 5545', () => {
  const event = (of: Night) =>
    new ICAL.Event(new ICAL.Component(ICAL.parse(nightCalendar(of)) as unknown[]).getFirstSubcomponent('vevent') ?? undefined)
  it('says when, how long, where and what, by the clock of the place', () => {
    const found = event(night)
    expect(found.summary).toBe('The Salt Road, Evening')
    expect(found.location).toBe('Harbour Hall, Ostmark')
    // form 1 of section 3.3.5: local time without a zone
    expect([found.startDate.toString(), found.startDate.zone.tzid]).toEqual(['2026-12-11T19:30:00', 'floating'])
    expect(found.duration.toSeconds()).toBe(2_650)
    expect(found.description.split('\n')).toHaveLength(14)
  })
  it('a night without a time is a day, and without a day it is none', () => {
    const day = { ...show, orders: show.orders.map((o) => ({ ...o, time: null })) }
    expect(event(nightOf(day, 'evening')).startDate.isDate).toBe(true)
    const none = { ...show, orders: show.orders.map((o) => ({ ...o, day: null })) }
    expect(() => nightCalendar(nightOf(none, 'evening'))).toThrow('no day yet')
  })
})

it('the running order as CSV reads back, and a formula stays text', () => {
  const wild = { ...show, songs: show.songs.map((s) => (s.id === 'overture' ? { ...s, name: '=1+1' } : s)) }
  const { data } = Papa.parse<string[]>(nightCsv(nightOf(wild, 'school')))
  expect(data[0][1]).toBe('song')
  expect(data[1][1]).toBe("'=1+1")
  expect(data.every((row) => row.length === 12)).toBe(true)
})
