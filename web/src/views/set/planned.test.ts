import { expect, it } from 'vitest'
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import { planPresses } from '@fulgor/core/plan'
import { blankSong, nextPart, presetsOf } from '@fulgor/core/show'
import { bySong, pressesOf, shortTrouble, soundOf, troubleOf } from './planned'
import { drawnSeconds, drawnUnit, ticks } from './scale'

const [{ document: show }] = demoShows
const presets = presetsOf(show).flatMap((id) => demoPresets.filter((p) => p.id === id))
const plan = planPresses(show, 'evening', presets, demoDevices[0].document.capacity)

it('changes of a night lie with their songs, and their presses add up to the whole', () => {
  const songs = bySong(plan)
  expect([...songs.values()].reduce((n, changes) => n + pressesOf(changes), 0)).toBe(plan.presses)
  expect(songs.get(0)?.every((c) => c.change.song.id === 'overture')).toBe(true)
  expect(bySong(null).size).toBe(0)
})

it('the gravest trouble stands on the line, in few words', () => {
  const all = plan.changes.filter((c) => c.troubles.length > 0)
  expect(troubleOf(all)?.kind).toBe('unreachable')
  expect(troubleOf([])).toBeNull()
  for (const { troubles } of all) for (const t of troubles) expect(shortTrouble(t).length).toBeLessThan(24)
  expect(shortTrouble({ kind: 'tight', presses: 3, needS: 2, haveS: 1.44, words: '' })).toBe('3 presses in 1.4 s')
})

it('a sound has its number, its name and its lift; one that is gone says so', () => {
  const part = show.songs.flatMap((s) => s.parts).find((p) => p.sound?.snapshot === 'storm')
  if (!part) throw new Error('the demo has no solo')
  expect(soundOf(part, presets)).toMatchObject({ number: '3', name: 'Storm lead', preset: 'Salt Road, pit main' })
  expect(soundOf(part, [])).toMatchObject({ number: '?', name: 'gone' })
  expect(soundOf({ ...part, sound: null }, presets)).toBeNull()
})

it('a song without a tempo is drawn at 120; the axis has at most nine marks', () => {
  const song = { ...blankSong('x', 'X'), parts: [nextPart(blankSong('x', 'X'), 'p', 'P')] }
  // eight bars of four at 120 are 16 s, at 60 twice as long
  expect([drawnSeconds(song), drawnSeconds({ ...song, tempo: 60 })]).toEqual([16, 32])
  expect(drawnUnit(song)).toBeCloseTo(0.5, 9)
  expect(drawnUnit(blankSong('y', 'Y'))).toBe(1)
  expect(ticks(200)).toEqual([0, 30, 60, 90, 120, 150, 180])
  for (const s of [61, 500, 4_000, 20_000, 90_000]) expect(ticks(s).length).toBeLessThan(14)
})
