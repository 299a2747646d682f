import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { ChannelSource } from '@fulgor/core/cabinet'
import { createBench, createChannel, defaultMic } from '@fulgor/core/catalogue'
import { writeWav } from '@fulgor/core/formats'
import { PLACES, placeWords } from '@fulgor/core/match'
import { applyEdit, blankPreset, createStage, type Preset } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-match-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const at = (name: string) => join(folder, name)

/** An amp into a cabinet with one microphone. */
function presetWith(source: ChannelSource): Preset {
  const chain = [createStage('amp', 'amp.pier', { gain: 5 }), createStage('cab', 'cabinet'), createStage('out', 'output', { level: -8 })]
  const bench = { ...createBench(), channels: [createChannel('c1', source)] }
  return applyEdit({ ...blankPreset('Match'), chain }, { type: 'setBench', stage: 'cab', snapshot: null, bench, touched: '' })
}
const place = (k: number) => ({ ...defaultMic(PLACES[k].type), ...PLACES[k] }) as ChannelSource
/** A ribbon some way off, and a moving coil near the middle. */
const ribbon = PLACES.findIndex((p) => p.type === 'ribbon' && p.offset === 40 && p.distance === 60)

describe('match', () => {
  beforeAll(() => {
    // it ends softly: a cut would be a click in the recording
    const di = synthesiseRiff('open-chords', 'hard', 110, 48_000)
      .slice(0, 240_000)
      .map((v, n) => v * Math.min(1, (240_000 - n) / 24_000))
    writeFileSync(at('di.wav'), writeWav([di], 48_000, 24))
    writeFileSync(at('mine.json'), JSON.stringify(presetWith(place(1))))
    writeFileSync(at('theirs.json'), JSON.stringify(presetWith(place(ribbon))))
    expect(fulgor('render', '--preset', at('theirs.json'), '--di', at('di.wav'), '--out', at('recording.wav')).stderr).toBe('')
  })

  it('finds the microphone that a recording was made with, and how far the preset is without it', () => {
    const { status, stderr, json } = fulgor(
      'match',
      '--preset',
      at('mine.json'),
      '--di',
      at('di.wav'),
      '--reference',
      at('recording.wav'),
      '--json',
    )
    expect([status, stderr]).toEqual([0, ''])
    const told = json() as unknown as {
      distanceDb: number
      looked: number
      responses: { words: string; db: number }[]
      blends: { db: number }[]
      eq: { creative: { bands: unknown[]; db: number } }
    }
    expect(told.distanceDb).toBeGreaterThan(2)
    expect(told.responses[0].words).toBe(placeWords(PLACES[ribbon]))
    expect(told.responses[0].db).toBeLessThan(0.5)
    expect(told.looked).toBeGreaterThan(1_000_000)
    expect(told.eq.creative.db).toBeLessThan(told.distanceDb)
    expect(told.eq.creative.bands.length).toBeGreaterThan(0)
  }, 120_000)

  it('is nothing against itself, and says in one line what it cannot do', () => {
    const same = fulgor('match', '--preset', at('theirs.json'), '--di', at('di.wav'), '--reference', at('recording.wav'))
    expect(same.stdout).toMatch(/is 0\.0 dB from the recording/)
    for (const [more, words] of [
      [['--snapshot', 'none'], '“none” is not in this preset'],
      [['--irs', at('nowhere')], 'cannot be read'],
    ] as const) {
      const { status, stderr } = fulgor(
        'match',
        ...['--preset', at('mine.json'), '--di', at('di.wav'), '--reference', at('recording.wav')],
        ...more,
      )
      expect([status, stderr.trim().split('\n').length]).toEqual([2, 1])
      expect(stderr).toContain(words)
    }
  }, 120_000)
})
