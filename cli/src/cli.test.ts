import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { demoPresets } from '@fulgor/core/demo'
import { readWav, writeWav } from '@fulgor/core/formats'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { fulgor } from './testing'

const folder = mkdtempSync(join(tmpdir(), 'fulgor-cli-'))
const at = (name: string) => join(folder, name)
afterAll(() => rmSync(folder, { recursive: true, force: true }))

writeFileSync(at('di.wav'), writeWav([synthesiseRiff('lead-line', 'hard', 120, 48_000).slice(0, 144_000)], 48_000, 24))
writeFileSync(at('preset.json'), JSON.stringify(demoPresets[1].preset))
writeFileSync(at('broken.json'), JSON.stringify({ ...demoPresets[1].preset, tempo: 0 }))
writeFileSync(at('text.wav'), 'not a sound')

describe('command line', () => {
  it('measures a known tone (BS.1770-4: a −23 dBFS sine at 1 kHz on both sides is −23 LUFS)', () => {
    const x = Float32Array.from({ length: 480_000 }, (_, n) => Math.pow(10, -23 / 20) * Math.sin((2 * Math.PI * 1000 * n) / 48_000))
    writeFileSync(at('tone.wav'), writeWav([x, x], 48_000, 24))
    const m = fulgor('measure', at('tone.wav'), '--json').json()
    expect(m.integratedLufs).toBeCloseTo(-23, 1)
    expect(m).toMatchObject({ sampleRate: 48_000, channels: 2, durationS: 10 })
    expect(Object.keys(m)).toEqual(
      expect.arrayContaining([
        'loudnessRangeLu',
        'momentaryMaxLufs',
        'shortTermMaxLufs',
        'truePeakDbtp',
        'rmsDbfs',
        'peakDbfs',
        'crestDb',
        'centroidHz',
        'thirdOctave',
      ]),
    )
  })

  it('renders, and levels so that a second render meets the target within 0.1 LU', () => {
    const { snapshots } = fulgor(
      'level',
      '--preset',
      at('preset.json'),
      '--di',
      at('di.wav'),
      '--target',
      '-20',
      '--json',
    ).json() as unknown as { snapshots: { snapshot: string; outputLevelDb: number }[] }
    const preset = structuredClone(demoPresets[1].preset) as unknown as { snapshots: { name: string; stages: Record<string, unknown> }[] }
    for (const s of preset.snapshots) s.stages.out = { params: { level: snapshots.find((l) => l.snapshot === s.name)?.outputLevelDb } }
    writeFileSync(at('levelled.json'), JSON.stringify(preset))
    const { stdout, status } = fulgor(
      'render',
      '--preset',
      at('levelled.json'),
      '--di',
      at('di.wav'),
      '--out',
      at('out.wav'),
      '--all-snapshots',
      '--json',
    )
    expect(status).toBe(0)
    const all = JSON.parse(stdout) as { out: string; integratedLufs: number }[]
    expect(all).toHaveLength(3)
    for (const one of all) {
      expect(Math.abs(one.integratedLufs + 20)).toBeLessThan(0.1)
      expect(readWav(readFileSync(one.out)).channels).toHaveLength(2)
    }
  })

  it('tells the taps of one snapshot', () => {
    const one = fulgor(
      'render',
      '--preset',
      at('preset.json'),
      '--di',
      at('di.wav'),
      '--out',
      at('o.wav'),
      '--snapshot',
      'answer',
      '--taps',
      '--json',
    ).json() as unknown as { snapshot: string; taps: { stage: string }[] }
    expect(one.snapshot).toBe('Answer')
    expect(one.taps.map((t) => t.stage)).toEqual(['gate', 'drive', 'amp', 'cab', 'eq', 'delay', 'hall', 'out'])
  })

  it('tells response, tone stack, time, catalogue and schema', () => {
    writeFileSync(
      at('stages.json'),
      JSON.stringify([
        { model: 'eq.parametric', params: { lowSlope: 'off', highCut: 1000, highSlope: '6' } },
        { model: 'trim', params: { level: -6 } },
      ]),
    )
    const r = fulgor('response', '--stages', at('stages.json'), '--points', '4', '--json').json() as unknown as {
      hz: number[]
      db: number[]
      stages: { db: number[] }[]
    }
    expect(r.db[0]).toBeCloseTo(-6, 1)
    expect(r.stages).toHaveLength(2)
    const t = fulgor('tonestack', '--r4', '100k', '--treble', '1', '--rate', '48000', '--json').json() as unknown as {
      hz: number[]
      db: number[]
      digitalDb: number[]
    }
    expect(t.hz.length).toBeGreaterThanOrEqual(200)
    t.hz.forEach((_, i) => expect(Math.abs(t.db[i] - t.digitalDb[i])).toBeLessThan(0.1))
    const time = fulgor('time', '--bpm', '123', '--json').json() as unknown as { notes: { id: string; ms: number }[] }
    expect(time.notes.find((n) => n.id === 'quarter')?.ms).toBeCloseTo(487.8, 1)
    expect((JSON.parse(fulgor('catalogue', '--json').stdout) as unknown[]).length).toBeGreaterThan(7)
    expect(fulgor('schema', '--json').json().title).toBe('Fulgor preset')
  })

  it.each([
    ['a file that is not there', ['measure', 'nowhere.wav'], 'nowhere.wav: there is no such file'],
    ['a text as WAV', ['measure', at('text.wav')], 'text.wav: this is not a WAV file'],
    [
      'a broken preset',
      ['level', '--preset', at('broken.json'), '--di', at('di.wav')],
      'broken.json: tempo: must be a number from 20 to 400',
    ],
    [
      'an unknown snapshot',
      ['render', '--preset', at('preset.json'), '--di', at('di.wav'), '--out', at('never.wav'), '--snapshot', 'Nope'],
      'it has Theme, Answer, Close, dry',
    ],
    ['a tempo of zero', ['time', '--bpm', '0'], '--bpm: must be a number from 20 to 400'],
    ['a component without value', ['tonestack', '--c1', 'x'], '--c1: must be a value above zero'],
    ['a missing option', ['time'], "required option '--bpm <n>' not specified"],
  ])('answers %s with one line and status 2', (_, args, message) => {
    const { status, stdout, stderr } = fulgor(...args)
    expect(status).toBe(2)
    expect(stdout).toBe('')
    expect(stderr.trim().split('\n')).toHaveLength(1)
    expect(stderr).toContain(message)
    expect(existsSync(at('never.wav'))).toBe(false)
  })
})
