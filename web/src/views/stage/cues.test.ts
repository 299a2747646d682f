import { expect, it } from 'vitest'
import { demoDevices, demoPresets, demoShows } from '@fulgor/core/demo'
import { planPresses } from '@fulgor/core/plan'
import { presetsOf } from '@fulgor/core/show'
import { cuesOf } from './cues'

const [{ document: show }] = demoShows
const presets = presetsOf(show).flatMap((id) => demoPresets.filter((p) => p.id === id))
const { capacity } = demoDevices[0].document
const cues = cuesOf(show, 'school', planPresses(show, 'school', presets, capacity), presets)

it('every part of the night is a cue, with what to press to get there', () => {
  expect(cues).toHaveLength(show.orders[1].items.reduce((n, i) => n + (show.songs.find((s) => s.id === i.song)?.parts.length ?? 0), 0))
  expect(cues.slice(0, 2).map((c) => [c.first, c.number, c.name, c.press, c.bars])).toEqual([
    [true, '1', 'Overture clean', '', 16],
    [false, '2', 'Pit strum', '2', 24],
  ])
  expect(cues[2].pedals).toEqual([{ control: 'pedal1', name: 'Delay in', words: 'heel to toe over 8 bars' }])
  expect(cues[4]).toMatchObject({ part: 'Refrain, sung', sung: true, stages: '+ Mid-hump drive', press: '8, 2' })
})

it('what is gone is told, and nothing fails', () => {
  const gone = cuesOf(show, 'school', planPresses(show, 'school', [], capacity), [])
  expect(gone).toHaveLength(cues.length)
  expect(gone[0]).toMatchObject({ number: '–', name: 'gone', press: '' })
})
