/** One figure a process, so that no measurement warms or slows another: `engine WHAT [ARGUMENT …]` prints one JSON value. */
import { readFileSync } from 'node:fs'
import { responseLibrary } from '@fulgor/core/cabinet'
import { catalogue, modelOf, type StageModel } from '@fulgor/core/catalogue'
import { dearestChain, demoPresets } from '@fulgor/core/demo'
import { readWav } from '@fulgor/core/formats'
import { loudness, truePeak } from '@fulgor/core/measure'
import { applyEdit, createStage, partsOf, resolveValues, type ChainNode, type Preset } from '@fulgor/core/preset'
import { Engine, worstAliasDb } from '@fulgor/core/render'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { Biquad, CHUNK, Convolver, createBlock, design, type Quality } from '@fulgor/core/signal'

const RATE = 48_000
const BLOCK = 128
const contextOf = (quality: Quality) => ({
  quality,
  responses: responseLibrary(RATE),
})
const demo = demoPresets[0].preset
const riff = synthesiseRiff(demo.riff.id, demo.riff.strength, demo.tempo, RATE)

/** ms for `seconds` of the riff through a chain in blocks of 128, after as long a run to warm up. */
function engineMs(chain: readonly ChainNode[], snapshot: string | null, seconds: number, quality: Quality): number {
  const left = new Float32Array(BLOCK)
  const right = new Float32Array(BLOCK)
  const run = () => {
    const engine = new Engine({ chain, values: resolveValues({ ...demo, chain }, snapshot) }, contextOf(quality), RATE)
    const start = performance.now()
    for (let at = 0; at < seconds * RATE; at += BLOCK) {
      for (let i = 0; i < BLOCK; i++) left[i] = riff[(at + i) % riff.length]
      engine.process(left, right, BLOCK)
    }
    return performance.now() - start
  }
  run()
  return run()
}

const clipping = catalogue.filter((m) => m.charts.includes('feel'))

/** Everything that drives a model turned up. */
const fullDrive = (model: StageModel) =>
  Object.fromEntries(
    Object.entries(model.params).flatMap(([key, spec]): [string, number][] => {
      if (spec.kind !== 'number') return []
      if (key === 'sag') return [[key, 0]]
      if (key === 'ceiling') return [[key, spec.min]]
      return ['gain', 'fuzz', 'sustain', 'boost', 'master'].includes(key) ? [[key, spec.max]] : []
    }),
  )

/** Blocks fed in order for `seconds`, every control moved in turn: what a player does in an hour, faster. */
function livePlaying(seconds: number) {
  let preset: Preset = { ...demo, chain: dearestChain, snapshots: [{ id: 's', name: 'S', stages: {} }] }
  const engine = new Engine({ chain: preset.chain, values: resolveValues(preset, 's') }, contextOf('live'), RATE)
  let seed = 11
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647
  const controls = partsOf(preset.chain).flatMap((stage) =>
    Object.entries(modelOf(stage.model).params)
      .filter(([, spec]) => spec.kind === 'number' || spec.change === 'glide')
      .map(([key, spec]) => ({ stage: stage.id, key, spec })),
  )
  const left = new Float32Array(BLOCK)
  const right = new Float32Array(BLOCK)
  const heard = createBlock()
  const filters = [new Biquad(), new Biquad(), new Biquad()]
  for (const f of filters) design.highPass(f.section, 16_000, Math.SQRT1_2, RATE)
  const blocks = Math.floor((seconds * RATE) / BLOCK)
  const every = 128 // blocks between two moves
  const spent = new Float32Array(blocks)
  const high = new Float32Array(every)
  let notFinite = 0
  let click = 0
  let moves = 0
  let memory = 0
  const used = () => {
    globalThis.gc?.()
    const { heapUsed, arrayBuffers } = process.memoryUsage()
    return (heapUsed + arrayBuffers) / 1e6
  }
  for (let b = 0; b < blocks; b++) {
    if (b === Math.floor(blocks / 10)) memory = used()
    const place = b % every
    if (place === 0 && b > 0) {
      // above 16 kHz: around the move against what was there before and came to be there afterwards
      const peak = (from: number, to: number) => high.subarray(from, to).reduce((most, y) => Math.max(most, y), 0)
      const beside = Math.max(peak(0, 30), peak(96, every))
      click = Math.max(click, peak(32, 64) - 2 * beside)
    }
    if (place === 32) {
      const { stage, key, spec } = controls[moves++ % controls.length]
      const value =
        spec.kind === 'choice'
          ? spec.options[Math.floor(random() * spec.options.length)].value
          : spec.min + random() * (spec.max - spec.min)
      // levels stay where a player would leave them, so that the figure is of clicks and not of loudness
      const tame = key === 'level' ? Math.max(-12, Math.min(3, Number(value))) : value
      preset = applyEdit(preset, { type: 'setParam', stage, snapshot: null, param: key, value: tame })
      engine.setValues(resolveValues(preset, 's'))
    }
    for (let i = 0; i < BLOCK; i++) {
      const t = ((b * BLOCK + i) % RATE) / RATE
      left[i] = 0.05 * (Math.sin(2 * Math.PI * 110 * t) + Math.sin(2 * Math.PI * 165 * t) + Math.sin(2 * Math.PI * 220 * t))
    }
    const start = performance.now()
    engine.process(left, right, BLOCK)
    spent[b] = performance.now() - start
    let most = 0
    for (let start = 0; start < BLOCK; start += CHUNK) {
      for (let i = 0; i < CHUNK; i++) {
        if (!Number.isFinite(left[start + i] + right[start + i])) notFinite++
        heard.left[i] = left[start + i]
        heard.right[i] = right[start + i]
      }
      heard.stereo = true
      for (const f of filters) f.process(heard)
      for (let i = 0; i < CHUNK; i++) most = Math.max(most, Math.abs(heard.left[i]), Math.abs(heard.right[i]))
    }
    high[place] = most
  }
  const growth = used() - memory
  const total = spent.reduce((sum, ms) => sum + ms, 0)
  spent.sort()
  return {
    rtf: (seconds * 1000) / total,
    notFinite,
    clickDb: 20 * Math.log10(Math.max(1e-9, click)),
    moves,
    controls: controls.length,
    growthMb: growth,
    medianUs: spent[Math.floor(blocks / 2)] * 1000,
    p99Us: spent[Math.floor(blocks * 0.99)] * 1000,
  }
}

const [what, ...words] = process.argv.slice(2)
const quality = (words[0] ?? 'live') as Quality
const figures: Record<string, () => unknown> = {
  rtf: () => 15_000 / engineMs(demo.chain, 'storm', 15, quality),
  dearest: () => 15_000 / engineMs(dearestChain, null, 15, quality),
  models: () =>
    Object.fromEntries(catalogue.map((m) => [m.id, (engineMs([createStage('x', m.id)], null, 4, quality) * 1000) / ((4 * RATE) / BLOCK)])),
  /** Time for silence behind the riff over that for the riff: denormal numbers would make it many times dearer. */
  silence: () => {
    const engine = new Engine(
      { chain: dearestChain, values: resolveValues({ ...demo, chain: dearestChain }, null) },
      contextOf('live'),
      RATE,
    )
    const left = new Float32Array(BLOCK)
    const right = new Float32Array(BLOCK)
    const pass = (seconds: number, gain: number) => {
      const start = performance.now()
      for (let at = 0; at < seconds * RATE; at += BLOCK) {
        for (let i = 0; i < BLOCK; i++) left[i] = gain * riff[(at + i) % riff.length]
        engine.process(left, right, BLOCK)
      }
      return performance.now() - start
    }
    pass(3, 1)
    const loud = pass(6, 1)
    pass(12, 0)
    return pass(6, 0) / loud
  },
  amp: () => engineMs([createStage('x', 'amp.lantern', { gain: 8 })], null, 10, 'live'),
  aliases: () =>
    Object.fromEntries(
      clipping.map((m) => [
        m.id,
        [1_244.5, 5_000].map((hz) => Math.round(worstAliasDb(m.id, fullDrive(m), hz, 0.2, contextOf(quality), RATE))),
      ]),
    ),
  live: () => livePlaying(Number(words[0] ?? 3600)),
  convolution: () => {
    const [x] = readWav(readFileSync(words[0])).channels
    const [h] = readWav(readFileSync(words[1])).channels
    const run = () => {
      const convolver = new Convolver(h)
      const data = new Float32Array(x)
      const start = performance.now()
      convolver.process(data, data.length)
      return performance.now() - start
    }
    run()
    return run()
  },
  loudness: () => {
    const signal = readWav(readFileSync(words[0])).channels.map((c) => new Float32Array(c))
    let lufs: number | null = null
    let peak = 0
    const run = () => {
      const start = performance.now()
      lufs = loudness(signal, RATE).integratedLufs
      peak = truePeak(signal)
      return performance.now() - start
    }
    run()
    return { ms: run(), lufs, dbtp: 20 * Math.log10(peak) }
  },
}
console.log(JSON.stringify(figures[what]()))
