import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { GUITARS } from '@fulgor/core/guitar'
import { readPreset, stagesOf, strokeDbfs } from '@fulgor/core/preset'
import { playedRiff, readingSignals, readSnapshot, soundOf, thdAt, voiceIn, type Reading } from '@fulgor/core/reading'
import { Renderer } from '@fulgor/core/render'
import { blankSound, SOUND_ROLES, type SoundRole } from '@fulgor/core/show'
import { figureOf, progressOf, startOf, STARTS, STEP_IDS, stepsOf } from '.'

const RATE = 48_000

function read(role: SoundRole): { preset: ReturnType<typeof startOf>; reading: Reading } {
  const preset = startOf(role, role, 100)
  const renderer = new Renderer({ quality: 'live', responses: responseLibrary(RATE) })
  const played = (strength?: 'soft' | 'hard') => {
    const riff = playedRiff(preset, 's1', strength)
    if (!riff) throw new Error('a start plays a shipped riff')
    return { key: JSON.stringify(riff), samples: soundOf(riff, RATE) }
  }
  const signals = readingSignals(played(), { soft: played('soft'), hard: played('hard') }, voiceIn(preset, 's1'), RATE)
  const search = readSnapshot({ preset, snapshot: 's1', ...signals, sampleRate: RATE }, (of, snapshot, from) =>
    renderer.render({ preset: of, snapshot, dryKey: from.key, dry: from.samples, sampleRate: RATE }),
  )
  for (;;) {
    const { value, done } = search.next()
    if (done) return { preset, reading: value }
  }
}

describe('starts', () => {
  it.each(SOUND_ROLES)('%s is a whole preset on any guitar and tempo', (role) => {
    const preset = startOf(role, 'New', 84, { profile: GUITARS[1], kit: 'mine', position: 1 })
    expect(JSON.parse(JSON.stringify(readPreset(JSON.parse(JSON.stringify(preset)))))).toEqual(JSON.parse(JSON.stringify(preset)))
    expect([preset.tempo, preset.hand.position, preset.madeOn, preset.guitars[0].kit]).toEqual([84, 1, 1, 'mine'])
    // what comes in time waits until the dry sound is judged
    for (const stage of stagesOf(preset.chain)) if (/^(delay|reverb)/.test(stage.model) && role !== 'acoustic') expect(stage.on).toBe(false)
    expect(STARTS[role].about.length).toBeGreaterThan(20)
  })

  // what a role means under the hand; limits of clean and driven are common practice, no source
  it('clean stays clean, the edge is where the hand decides, crunch breaks up, high gain is driven from soft on', () => {
    const at = (role: SoundRole, stroke: 'soft' | 'normal' | 'hard') => {
      const { preset, reading } = read(role)
      return thdAt(reading.feel, strokeDbfs(preset, 's1', stroke))
    }
    expect(at('clean', 'hard')).toBeLessThan(1)
    expect(at('edge', 'soft')).toBeLessThan(at('edge', 'hard') / 2)
    expect(at('edge', 'hard')).toBeGreaterThan(1)
    expect(at('crunch', 'normal')).toBeGreaterThan(1)
    expect(at('high-gain', 'normal')).toBeGreaterThan(10)
    expect(at('acoustic', 'hard')).toBeLessThan(1)
  }, 120_000)
})

describe('steps', () => {
  it('both schools have all of them; one begins at the cabinet, the other at the amp', () => {
    for (const school of ['cabinet', 'amp'] as const)
      expect(
        stepsOf(school)
          .map((s) => s.id)
          .sort(),
      ).toEqual([...STEP_IDS].sort())
    expect(
      stepsOf('cabinet')
        .map((s) => s.id)
        .slice(0, 3),
    ).toEqual(['guitar', 'cabinet', 'amp'])
    expect(
      stepsOf('amp')
        .map((s) => s.id)
        .slice(0, 3),
    ).toEqual(['guitar', 'amp', 'cabinet'])
  })

  it('are done by measurement where it can tell, or by the player, or skipped', () => {
    const { preset, reading } = read('clean')
    const sound = { ...blankSound('s', 'S'), guitar: { kit: 'mine', position: 0 } }
    const steps = stepsOf('cabinet')
    const of = (id: string, change = {}, read: Reading | null = reading) => {
      const step = steps.find((s) => s.id === id)
      return step ? figureOf(step, { ...sound, ...change }, preset, 's1', read) : null
    }
    expect(of('guitar')?.done).toBe(false)
    expect(of('guitar', { guitar: null })?.done).toBeNull()
    expect(of('amp')?.done).toBe(true)
    expect(of('amp', { role: 'high-gain' })?.done).toBe(false)
    expect(of('amp')?.words).toMatch(/^soft [\d.]+ %, normal [\d.]+ %, hard [\d.]+ % distortion$/)
    expect(of('cabinet', { role: 'acoustic' })?.done).toBe(false)
    expect(of('amp', {}, null)).toBeNull()
    const lufs = reading.output.integratedLufs ?? 0
    expect(of('level')?.done).toBe(Math.abs(lufs + 18) <= 0.5)
    const figures = { amp: of('amp'), level: { words: '', done: true } }
    expect(progressOf(steps, { steps: {}, answer: null }, figures)).toEqual({ done: 2, of: 11, next: 'guitar' })
    expect(progressOf(steps, { steps: { guitar: 'done', cabinet: 'skipped' }, answer: null }, figures)).toEqual({
      done: 4,
      of: 11,
      next: 'drive',
    })
  }, 60_000)
})
