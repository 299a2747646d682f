/** One figure a process, so that no measurement warms or slows another: `tsx engine.ts WHAT [FILE …]` prints ms or a number. */
import { readFileSync } from 'node:fs'
import { synthesiseResponse } from '@fulgor/core/cabinet'
import { catalogue } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { readWav } from '@fulgor/core/formats'
import { loudness, truePeak } from '@fulgor/core/measure'
import { createStage, resolveValues } from '@fulgor/core/preset'
import { Engine } from '@fulgor/core/render'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { Convolver } from '@fulgor/core/signal'

const RATE = 48_000
const responses = new Map<string, Float64Array>()
const context = {
  quality: (process.argv[3] ?? 'live') as 'live' | 'high' | 'highest',
  responses: (id: string) => responses.get(id) ?? responses.set(id, synthesiseResponse(id, RATE)).get(id) ?? [],
}

function time(work: () => void, warm = 1): number {
  for (let i = 0; i < warm; i++) work()
  const start = performance.now()
  work()
  return performance.now() - start
}

function engineMs(chain: Parameters<typeof resolveValues>[0]['chain'], snapshot: string | null, seconds: number): number {
  const { preset } = demoPresets[0]
  const riff = synthesiseRiff(preset.riff.id, preset.riff.strength, preset.tempo, RATE)
  const input = Float64Array.from({ length: seconds * RATE }, (_, n) => riff[n % riff.length])
  return time(() => {
    const engine = new Engine({ chain, values: resolveValues({ ...preset, chain }, snapshot) }, context, RATE)
    const left = input.slice()
    const right = new Float64Array(left.length)
    for (let at = 0; at < left.length; at += 128) engine.process(left.subarray(at, at + 128), right.subarray(at, at + 128), 128)
  })
}

const [what, ...files] = process.argv.slice(2)
const figures: Record<string, () => unknown> = {
  rtf: () => 20_000 / engineMs(demoPresets[0].preset.chain, 'storm', 20),
  models: () =>
    Object.fromEntries(catalogue.map((m) => [m.id, (engineMs([createStage('x', m.id)], null, 10) * 1000) / ((10 * RATE) / 128)])),
  convolution: () => {
    const [x] = readWav(readFileSync(files[0])).channels
    const [h] = readWav(readFileSync(files[1])).channels
    const convolver = new Convolver(h)
    const data = new Float64Array(x)
    return time(() => convolver.process(data, data.length))
  },
  loudness: () => {
    const signal = readWav(readFileSync(files[0])).channels.map((c) => new Float64Array(c))
    let lufs: number | null = null
    let peak = 0
    const ms = time(() => {
      lufs = loudness(signal, RATE).integratedLufs
      peak = truePeak(signal)
    })
    return { ms, lufs, dbtp: 20 * Math.log10(peak) }
  },
}
console.log(JSON.stringify(figures[what]()))
