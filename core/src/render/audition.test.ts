import { describe, expect, it } from 'vitest'
import { blendId, loudnessGainDb, pinkWeights, responseLibrary, spectrumOf, weightsBehind } from '@fulgor/core/cabinet'
import { createBench, createChannel } from '@fulgor/core/catalogue'
import { demoPresets, demoResponses } from '@fulgor/core/demo'
import { readWav } from '@fulgor/core/formats'
import { loudness } from '@fulgor/core/measure'
import { applyEdit, resolveStage, stagesOf, type Preset } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { renderPreset } from '.'

const rate = 48_000
const files = [...demoResponses()].map((f) => readWav(f.bytes))
const responses = responseLibrary(rate, (file) => files[Number(file)] ?? null)
const context = { quality: 'live' as const, responses }

const candidateId = (i: number) =>
  blendId({ ...createBench(), channels: [createChannel('x', { kind: 'file', file: String(i), name: 'x', side: 'sum' })] })

function lufs(preset: Preset, snapshot: string, dry: Float32Array): number {
  const { left, right } = renderPreset({ preset, snapshot, dry, sampleRate: rate }, context)
  return loudness([left, right], rate).integratedLufs ?? NaN
}

/** The stage's response and level in one snapshot, by name of the response: what an audition plays. */
function auditioned(preset: Preset, stage: string, index: number, levelDb: number): Preset {
  const bench = { ...createBench(), channels: [createChannel('x', { kind: 'file', file: String(index), name: 'x', side: 'sum' } as const)] }
  return applyEdit(applyEdit(preset, { type: 'setBench', stage, snapshot: null, bench, touched: '' }), {
    type: 'setParam',
    stage,
    snapshot: null,
    param: 'level',
    value: levelDb,
  })
}

// The match is computed from spectra; here it is rendered and metered. The page measures once more and trims the rest.
describe('a candidate is as loud as what it stands for', () => {
  it.each([
    ['storm', 'open-chords'],
    ['overture', 'sixteenth-strum'],
    ['lullaby', 'lead-line'],
  ])('in %s, on %s', (snapshot, riff) => {
    const preset = demoPresets[0].preset
    const cab = stagesOf(preset.chain).find((s) => s.model === 'cabinet')
    if (!cab) throw new Error('no cabinet')
    const dry = synthesiseRiff(riff, 'hard', 96, rate).slice(0, rate * 6)
    const playing = String(resolveStage(preset, cab, snapshot).params.response)
    const out = renderPreset({ preset, snapshot, dry, sampleRate: rate }, context)
    const weights = weightsBehind([out.left, out.right], responses(playing).left, rate)
    const gain = (id: string) => {
      const s = spectrumOf(responses(id).left, 65_536, rate)
      return loudnessGainDb(s.re, s.im, s.binHz, weights)
    }
    const wanted = lufs(preset, snapshot, dry)
    for (const i of [0, 7, 13, 22, 31, 38]) {
      const level = gain(playing) - gain(candidateId(i))
      const found = lufs(auditioned(preset, cab.id, i, level), snapshot, dry)
      expect(Math.abs(found - wanted)).toBeLessThan(0.15)
    }
  })

  it('is 0 dB louder than itself, for pink noise as for anything', () => {
    const s = spectrumOf([1], 8_192, rate)
    expect(loudnessGainDb(s.re, s.im, s.binHz, pinkWeights(s.re.length, s.binHz))).toBeCloseTo(0, 9)
  })
})
