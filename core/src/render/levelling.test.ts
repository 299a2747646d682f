import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { loudness } from '@fulgor/core/measure'
import {
  applyEdit,
  blankPreset,
  createLane,
  createStage,
  readPreset,
  resolveStage,
  riffOf,
  targetOf,
  trimOf,
  trimsExactly,
  trimsOf,
  type Preset,
} from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { renderPreset, solveLoudness } from '.'

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }
const dry = synthesiseRiff('open-chords', 'hard', 96, rate).slice(0, rate * 2)
const pit = demoPresets[0].preset
const lufs = (preset: Preset, snapshot: string): number | null => {
  const { left, right } = renderPreset({ preset, snapshot, dry, sampleRate: rate }, context)
  return loudness([left, right], rate).integratedLufs
}

function random(seed: number): () => number {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}

describe('the loudness plan', () => {
  it('a lead is 3 LU over the target unless the player says otherwise', () => {
    const preset = blankPreset('x')
    expect(targetOf(preset, {})).toBe(-18)
    expect(targetOf(preset, { role: 'lead' })).toBe(-15)
    expect(targetOf(preset, { role: 'lead', offset: 1.5 })).toBe(-16.5)
    // nought is an offset that the player has chosen
    expect(targetOf(preset, { role: 'lead', offset: 0 })).toBe(-18)
    expect(targetOf(preset, { role: 'clean', offset: -2 })).toBe(-20)
  })

  it('keeps role, offset, riff and being left alone in the document, and forgets what is taken back', () => {
    const planned = applyEdit(pit, {
      type: 'setPlan',
      snapshot: 'storm',
      plan: { role: 'lead', offset: 2, riff: { id: 'lead-line', strength: 'soft' }, ignored: true },
    })
    expect(readPreset(JSON.parse(JSON.stringify(planned)))).toEqual(planned)
    expect(riffOf(planned, 'storm')).toEqual({ id: 'lead-line', strength: 'soft' })
    expect(riffOf(planned, 'strum')).toEqual(pit.riff)
    const back = applyEdit(planned, { type: 'setPlan', snapshot: 'storm', plan: { role: null, offset: null, riff: null, ignored: false } })
    expect(back).toEqual(pit)
  })

  it.each<[string, (doc: Record<string, unknown> & { snapshots: Record<string, unknown>[] }) => void, string]>([
    ['a role', (d) => Object.assign(d.snapshots[0], { role: 'drummer' }), 'snapshots[0].role'],
    ['an offset', (d) => Object.assign(d.snapshots[0], { offset: 40 }), 'snapshots[0].offset'],
    ['a riff', (d) => Object.assign(d.snapshots[0], { riff: { id: 'x', strength: 'loud' } }), 'snapshots[0].riff.strength'],
    ['a trim', (d) => Object.assign(d, { trim: 'nowhere' }), 'trim'],
  ])('refuses %s that makes no sense', (_, spoil, path) => {
    const doc = JSON.parse(JSON.stringify(pit)) as Record<string, unknown> & { snapshots: Record<string, unknown>[] }
    spoil(doc)
    expect(() => readPreset(doc)).toThrow(path)
  })

  it('turns the last Output by itself, or the amp, lane or Output that was chosen', () => {
    expect(trimOf(pit)?.stage.id).toBe('out')
    expect(trimsOf(pit).map((t) => [t.stage.id, t.param])).toEqual([
      ['amp', 'master'],
      ['out', 'level'],
    ])
    const byAmp = applyEdit(pit, { type: 'setTrim', stage: 'amp' })
    expect(trimOf(byAmp)).toMatchObject({ param: 'master' })
    expect(trimsExactly(pit, trimOf(pit) as never)).toBe(true)
    expect(trimsExactly(byAmp, trimOf(byAmp) as never)).toBe(false)
    // a trim that is removed gives the Output back its place
    const gone = applyEdit(byAmp, { type: 'removeStage', stage: 'amp' })
    expect(gone.trim).toBeUndefined()
    expect(trimOf(gone)?.stage.id).toBe('out')
    const lanes: Preset = {
      ...pit,
      chain: [{ kind: 'parallel', id: 'p', lanes: [createLane('l', [createStage('a', 'amp.lantern')]), createLane('r')] }],
    }
    expect(trimsOf(lanes).map((t) => t.stage.id)).toEqual(['l', 'a', 'r'])
    expect(trimOf(lanes)).toBeNull()
  })
})

describe('levelling', () => {
  // rendered again and metered: the trim really gives the target
  it.each([1, 2, 3, 4, 5, 6])('meets the target within 0.1 LU by Output and by master, random preset %s', (seed) => {
    const next = random(seed * 7_919)
    const value = (min: number, max: number) => Math.round((min + (max - min) * next()) * 10) / 10
    const preset = [
      ['amp', 'gain', value(1, 9)],
      ['amp', 'master', value(2, 8)],
      ['amp', 'bass', value(1, 9)],
      ['drive', 'gain', value(0, 8)],
      ['hall', 'mix', Math.round(value(0, 40))],
    ].reduce<Preset>(
      (p, [stage, param, v]) => applyEdit(p, { type: 'setParam', stage: String(stage), snapshot: null, param: String(param), value: v }),
      pit,
    )
    for (const { stage, param, spec } of trimsOf(preset)) {
      const at = (v: number) => applyEdit(preset, { type: 'setParam', stage: stage.id, snapshot: 'strum', param, value: v })
      const start = Number(resolveStage(preset, stage, 'strum').params[param])
      const target = param === 'level' ? -18 : (lufs(preset, 'strum') ?? 0) + 1.5 * (next() - 0.5)
      const { value: found, limited } = solveLoudness(start, spec, target, (v) => lufs(at(v), 'strum'), {
        slope: param === 'master' ? 2 : 1,
      })
      expect(limited).toBe(false)
      expect(Math.abs((lufs(at(found), 'strum') ?? 0) - target)).toBeLessThan(0.1)
    }
  })

  it('finds its way where the rest of the chain saturates, and where it is silent at the end of the range', () => {
    const saturated = (v: number) => (v === 0 ? null : -23.6 - 3 * Math.exp(-(v - 2)))
    const found = solveLoudness(5, { min: 0, max: 10 }, -24.62, saturated, { slope: 2 })
    expect(Math.abs((saturated(found.value) ?? 0) + 24.62)).toBeLessThan(0.1)
  })

  it('says when the range ends before the target, and when there is nothing to hear', () => {
    expect(solveLoudness(0, { min: -10, max: 10 }, -18, (v) => -40 + v)).toMatchObject({ value: 10, limited: true, residual: -12 })
    expect(solveLoudness(0, { min: -10, max: 10 }, -18, (v) => -20 + v)).toMatchObject({ value: 2, limited: false })
    expect(() => solveLoudness(0, { min: 0, max: 1 }, -18, () => null)).toThrow('silent')
  })
})
