// Figures of the controls that need no page: from a message to the sound, what many assignments cost, and zipper noise.
import { responseLibrary } from '@fulgor/core/cabinet'
import { modelOf } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { averageSpectrum } from '@fulgor/core/measure'
import {
  applyEdit,
  blankPreset,
  createControl,
  createStage,
  partsOf,
  resolveStage,
  resolveValues,
  stagesOf,
  type Control,
  type Preset,
  createTarget,
} from '@fulgor/core/preset'
import { controlPlan, Engine, type Plan } from '@fulgor/core/render'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { CHUNK } from '@fulgor/core/signal'

const RATE = 48_000
const BLOCK = 128
const context = { responses: responseLibrary(RATE), quality: 'live' as const }

const planOf = (preset: Preset, positions: Record<string, number>): Plan => {
  const snapshot = preset.snapshots[0].id
  const base = Object.fromEntries(partsOf(preset.chain).map((s) => [s.id, resolveStage(preset, s, snapshot)]))
  return {
    chain: preset.chain,
    values: resolveValues(preset, snapshot),
    control: controlPlan(preset, snapshot, preset.tempo, base, positions),
  }
}
const withControl = (preset: Preset, control: Partial<Control>): Preset =>
  applyEdit(preset, { type: 'addControl', control: { ...createControl('c', 'pedal', 'Pedal'), ...control } })
const level = (more: Partial<Control>): Preset =>
  withControl(
    { ...blankPreset('Level'), chain: [createStage('out', 'output')] },
    { targets: [createTarget('t', 'out', 'level', -24, 0)], ...more },
  )

/** Frames from a position's message, between any two chunks, to the first changed sample; the worst of some. */
function latency(): { frames: number; blocks: number } {
  let worst = 0
  for (let chunks = 0; chunks < 4; chunks++) {
    const engine = new Engine(planOf(level({ smoothing: 0 }), { c: 0 }), context, RATE)
    const [left, right] = [new Float32Array(CHUNK), new Float32Array(CHUNK)]
    const feed = () => {
      left.fill(0.5)
      engine.process(left, right, CHUNK)
      return left
    }
    for (let i = 0; i < 400 + chunks; i++) feed()
    const before = left[CHUNK - 1]
    engine.setPositions({ c: 1 })
    for (let n = 0; n < 1_000; n += CHUNK) {
      const changed = feed().findIndex((y) => Math.abs(y - before) > 1e-6)
      if (changed < 0) continue
      worst = Math.max(worst, n + changed + 1)
      break
    }
  }
  return { frames: worst, blocks: Math.ceil(worst / BLOCK) }
}

/** The demo preset and one more EQ, with 64 assignments that all move at once, against the same preset without: processor time for a second of sound. */
function load(): { share: number; without: number; assignments: number } {
  const demo = demoPresets[0].preset
  // 49 numbers are not enough: one more EQ
  const pit: Preset = {
    ...demo,
    controls: [],
    board: undefined,
    chain: [...demo.chain.slice(0, -1), createStage('eq2', 'eq.parametric'), ...demo.chain.slice(-1)],
  }
  const targets = stagesOf(pit.chain)
    .flatMap((stage) =>
      Object.entries(modelOf(stage.model).params).flatMap(([param, spec]) => {
        if (spec.kind !== 'number') return []
        const now = Number(stage.params[param])
        return [createTarget(`${stage.id}-${param}`, stage.id, param, Math.max(spec.min, now * 0.9), Math.min(spec.max, now * 1.1 + 0.1))]
      }),
    )
    .slice(0, 64)
  const moved = [0, 1, 2].reduce(
    (p, k) =>
      applyEdit(p, {
        type: 'addControl',
        control: {
          ...createControl(`c${k}`, 'lfo', `LFO ${k}`),
          hz: 0.7 + k,
          smoothing: 0,
          targets: targets.filter((_, i) => i % 3 === k),
        },
      }),
    pit,
  )
  const dry = synthesiseRiff('open-chords', 'hard', 96, RATE)
  const run = (preset: Preset) => {
    const engine = new Engine(planOf(preset, {}), context, RATE)
    const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)]
    const start = performance.now()
    for (let at = 0; at + BLOCK <= dry.length; at += BLOCK) {
      for (let i = 0; i < BLOCK; i++) left[i] = dry[at + i]
      engine.process(left, right, BLOCK)
    }
    return (performance.now() - start) / 1000 / (dry.length / RATE)
  }
  run(moved)
  const shares = Array.from({ length: 5 }, () => [run(pit), run(moved)])
  const median = (k: 0 | 1) => shares.map((s) => s[k]).sort((a, b) => a - b)[2]
  return { share: median(1), without: median(0), assignments: targets.length }
}

/** Highest line away from a sine's own while a pedal sweeps its level by 24 dB in a second, dB. */
function zipper(): number {
  const engine = new Engine(planOf(level({ smoothing: 30 }), { c: 0 }), context, RATE)
  const frames = 23 * 8_192
  const out = new Float32Array(frames)
  const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)]
  for (let at = 0; at < frames; at += BLOCK) {
    engine.setPositions({ c: 0.5 - 0.5 * Math.cos((Math.PI * at) / RATE) })
    for (let i = 0; i < BLOCK; i++) left[i] = 0.5 * Math.sin((2 * Math.PI * 1_000 * (at + i)) / RATE)
    engine.process(left, right, BLOCK)
    out.set(left, at)
  }
  const { power, binHz } = averageSpectrum([out], RATE, 16_384)
  const own = Math.max(...power)
  return 10 * Math.log10(Math.max(...power.filter((_, b) => Math.abs((b + 0.5) * binHz - 1_000) > 150)) / own)
}

console.log(JSON.stringify({ latency: latency(), load: load(), zipperDb: zipper() }))
