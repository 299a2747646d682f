// Figures of the Kit: how long a dropped recording takes, what is left after a transfer over all pairs of shipped guitars, and what guitar
// and place cost while they sound.
import { responseLibrary } from '@fulgor/core/cabinet'
import { GUITARS, measureGuitar, playOn, voiceOf } from '@fulgor/core/guitar'
import { hearThere, PLACES_TO_BEGIN } from '@fulgor/core/place'
import { applyEdit, asPlayed, blankPreset, onGuitar, onMade, playedOn, resolveValues, usedGuitar, type Preset } from '@fulgor/core/preset'
import { playedRiff, soundOf, type Dry, type RenderTaps } from '@fulgor/core/reading'
import { Engine, Renderer } from '@fulgor/core/render'
import { Convolver } from '@fulgor/core/signal'
import { columnOf, edgeOfChain, inputFor } from '@fulgor/core/transfer'

const RATE = 48_000
const BLOCK = 128
const responses = responseLibrary(RATE)
const renderer = new Renderer({ responses, quality: 'live' })
const render: RenderTaps = (preset, snapshot, dry) =>
  renderer.render({ preset, snapshot, dryKey: dry.key, dry: dry.samples, sampleRate: RATE })

/** A minute of rest and strums. */
function minute(): Float32Array {
  const out = new Float32Array(60 * RATE)
  const voice = voiceOf(GUITARS[0], GUITARS[0].positions[0])
  const riffs = (['soft', 'normal', 'hard'] as const).map((strength) => playOn('open-chords', voice, { strength, bpm: 120 }, RATE))
  for (let k = 0; k < 6; k++) out.set(riffs[k % 3].subarray(0, 7.5 * RATE), (4 + 9 * k) * RATE)
  return out.map((x, n) => x + 3e-5 * Math.sin(n * n))
}

function measuring(): number {
  const recording = minute()
  measureGuitar(recording, RATE, GUITARS[0])
  const start = performance.now()
  measureGuitar(recording, RATE, GUITARS[0])
  return performance.now() - start
}

const riffs = new Map<string, Dry>()
function riffOf(preset: Preset, snapshot: string): Dry {
  const played = playedRiff(preset, snapshot)
  if (!played) throw new Error('no riff')
  const key = JSON.stringify(played)
  let dry = riffs.get(key)
  if (!dry) riffs.set(key, (dry = { key, samples: soundOf(played, RATE).slice(0, 3 * RATE) }))
  return dry
}

/** Largest of what is left of edge (dB) and brightness (%) from every position of every shipped guitar to every other. */
function residuals(): { pairs: number; edgeDb: number; brightnessPercent: number } {
  let [pairs, edgeDb, brightnessPercent] = [0, 0, 0]
  for (const from of GUITARS)
    for (const to of GUITARS)
      to.positions.forEach((_, at) => {
        const preset = applyEdit({ ...blankPreset('x'), ...playedOn(from) }, { type: 'putGuitar', guitar: usedGuitar('other', to) })
        const made = onMade(preset)
        const { trimAlone: _alone, ...input } = inputFor(made, onGuitar(preset, 'other', at, null), ['s1'], riffOf, render, RATE)
        const fitted = onGuitar(preset, 'other', at, { ...input, gates: {}, trims: {} })
        const edge = edgeOfChain(preset, 's1', render, RATE)
        const [a, c] = [made, fitted].map((of) => columnOf(of, 's1', riffOf(of, 's1'), edge, render, RATE))
        pairs++
        edgeDb = Math.max(edgeDb, Math.abs(Number(a.edgeDb) - Number(c.edgeDb)))
        brightnessPercent = Math.max(brightnessPercent, 100 * Math.abs(Number(c.brightnessHz) / Number(a.brightnessHz) - 1))
      })
  return { pairs, edgeDb, brightnessPercent }
}

/** µs a block, median of many. */
function blockUs(run: (left: Float32Array, right: Float32Array) => void): number {
  const left = new Float32Array(BLOCK)
  const right = new Float32Array(BLOCK)
  const times: number[] = []
  for (let round = 0; round < 40; round++) {
    const start = performance.now()
    for (let k = 0; k < 200; k++) {
      for (let i = 0; i < BLOCK; i++) left[i] = right[i] = 0.1 * Math.sin((k * BLOCK + i) / 20)
      run(left, right)
    }
    times.push((1_000 * (performance.now() - start)) / 200)
  }
  return times.sort((a, b) => a - b)[20]
}

function costs(): { guitarUs: number; placeUs: number } {
  const engine = (preset: Preset) => {
    const played = asPlayed(preset)
    const running = new Engine({ chain: played.chain, values: resolveValues(played, null) }, { responses, quality: 'live' }, RATE)
    return blockUs((left, right) => running.process(left, right, BLOCK))
  }
  const alone: Preset = { ...blankPreset('x'), chain: [] }
  const turned = applyEdit(alone, { type: 'setHand', snapshot: null, hand: { volume: 7, tone: 6 } })
  const taps = hearThere(PLACES_TO_BEGIN[0], PLACES_TO_BEGIN[3], RATE)
  const sides = [new Convolver(taps), new Convolver(taps)]
  const placeUs = blockUs((left, right) => {
    sides[0].process(left, BLOCK)
    sides[1].process(right, BLOCK)
  })
  return { guitarUs: engine(turned) - engine(alone), placeUs }
}

console.log(JSON.stringify({ measureMs: measuring(), ...residuals(), ...costs() }))
