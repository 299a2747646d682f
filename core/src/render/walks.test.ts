import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { modelOf } from '@fulgor/core/catalogue'
import { dearestChain, demoPresets } from '@fulgor/core/demo'
import { applyEdit, asPlayed, resolveValues, stagesOf, type Edit, type Preset } from '@fulgor/core/preset'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { CHUNK } from '@fulgor/core/signal'
import { Engine, renderPreset } from '.'

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }
const riff = synthesiseRiff('open-chords', 'hard', 110, rate)
/** s in which all else forgets. */
const REST = 4.6
const PLAYED = 0.7

const walked: readonly Preset[] = [
  ...demoPresets.map((d) => d.preset),
  { ...demoPresets[0].preset, chain: dearestChain, snapshots: [], controls: [] },
]

function generator(seed: number): () => number {
  let state = seed
  return () => (state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0) / 2 ** 32
}

/** Swings stand where they stand and tails go on for minutes: these are off where what was walked to is compared with a fresh rendering. */
const LASTING = new Set(['modulation', 'delay', 'reverb', 'pitch'])

/** A value, a choice or a switch of any stage, in the base or in a snapshot. */
function anyEdit(preset: Preset, random: () => number): Edit {
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]
  const stage = pick(stagesOf(preset.chain))
  const snapshot = random() < 0.5 ? null : (pick([null, ...preset.snapshots.map((s) => s.id)]) ?? null)
  if (random() < 0.15) return { type: 'setOn', stage: stage.id, snapshot, on: random() < 0.7 }
  const [param, spec] = pick(Object.entries(modelOf(stage.model).params))
  const value =
    spec.kind === 'choice' ? pick(spec.options.filter((o) => o.value !== 'bench')).value : spec.min + random() * (spec.max - spec.min)
  return { type: 'setParam', stage: stage.id, snapshot, param, value }
}

describe('edits while it plays', () => {
  it.each(Array.from({ length: 24 }, (_, k) => k))('walk %s: pieces of any size, and after a rest what is rendered offline', (walk) => {
    const random = generator(walk * 7_919 + 3)
    let preset = walked[walk % walked.length]
    let snapshot = preset.snapshots.at(0)?.id ?? null
    const values = () => resolveValues(asPlayed(preset), snapshot)
    const start = { chain: asPlayed(preset).chain, values: values() }
    // one engine is played as a browser plays it, the other in pieces as long as nothing is edited
    const [browser, other] = [new Engine(start, context, rate), new Engine(start, context, rate)]
    let at = 0
    for (let step = 0; step < 14; step++) {
      const frames = CHUNK * 2 * (1 + Math.floor(random() * 24))
      const dry = Float32Array.from({ length: frames }, (_, n) => riff[(at + n) % riff.length])
      const [left, right] = [dry.slice(), new Float32Array(frames)]
      for (let from = 0; from < frames; from += 128) browser.process(left.subarray(from, from + 128), right.subarray(from, from + 128), 128)
      const [whole, wholeRight] = [dry.slice(), new Float32Array(frames)]
      other.process(whole, wholeRight, frames)
      expect(left.every((y) => Number.isFinite(y))).toBe(true)
      expect(left.findIndex((y, n) => y !== whole[n] || right[n] !== wholeRight[n])).toBe(-1)
      at += frames
      if (random() < 0.3 && preset.snapshots.length > 0) snapshot = preset.snapshots[Math.floor(random() * preset.snapshots.length)].id
      else preset = applyEdit(preset, anyEdit(preset, random))
      for (const engine of [browser, other]) engine.setValues(values())
    }
    for (const { id, model } of stagesOf(preset.chain)) {
      if (!LASTING.has(modelOf(model).family)) continue
      if ('trails' in modelOf(model).params)
        for (const at of [null, ...preset.snapshots.map((s) => s.id)])
          preset = applyEdit(preset, { type: 'setParam', stage: id, snapshot: at, param: 'trails', value: 'off' })
      for (const at of [null, ...preset.snapshots.map((s) => s.id)])
        preset = applyEdit(preset, { type: 'setOn', stage: id, snapshot: at, on: false })
    }
    browser.setValues(values())
    const [rest, played] = [Math.ceil((REST * rate) / CHUNK) * CHUNK, Math.ceil((PLAYED * rate) / CHUNK) * CHUNK]
    const dry = new Float32Array(rest + played)
    dry.set(riff.subarray(0, played), rest)
    const offline = renderPreset({ preset, snapshot, dry, sampleRate: rate }, context)
    const [left, right] = [dry.slice(), new Float32Array(dry.length)]
    browser.process(left, right, dry.length)
    let [difference, power] = [0, 1e-12]
    for (let n = rest; n < dry.length; n++) {
      difference += (left[n] - offline.left[n]) ** 2 + (right[n] - offline.right[n]) ** 2
      power += offline.left[n] ** 2 + offline.right[n] ** 2
    }
    expect(10 * Math.log10(difference / power + 1e-20)).toBeLessThan(-110)
  })
})
