// Figures of the checks: rules of values after an edit, a reading of eight snapshots, and what one equaliser for several leaves.
import { responseLibrary } from '@fulgor/core/cabinet'
import { checkPreset, checks, checkSound, soundChecks, sparing } from '@fulgor/core/checks'
import { demoPresets } from '@fulgor/core/demo'
import { mergeable, netCurve, oneEqFor, responseMeter } from '@fulgor/core/net'
import { blankPreset, createStage, type Preset } from '@fulgor/core/preset'
import { playedRiff, readingSignals, readSnapshot, soundOf, type Reading, voiceIn } from '@fulgor/core/reading'
import { Renderer } from '@fulgor/core/render'
import type { Strength } from '@fulgor/core/riffs'

const RATE = 48_000
const context = { responses: responseLibrary(RATE), quality: 'live' as const }
let made = 0
const newId = () => `b${++made}`
const pit = demoPresets[0].preset
const eight: Preset = {
  ...pit,
  snapshots: Array.from({ length: 8 }, (_, i) => ({ ...pit.snapshots[i % pit.snapshots.length], id: `s${i}`, name: `Sound ${i}` })),
}
const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]

function timed(work: () => void): number {
  const start = performance.now()
  work()
  return performance.now() - start
}

/** ms from an edit to the findings of the rules that go by values, and to try their mends, which the page does once the sound is read. */
function valueRules(): { valueMs: number; mendsMs: number } {
  const once = () => timed(() => checkPreset(eight, newId))
  for (let i = 0; i < 20; i++) once()
  const found = checkPreset(eight, newId)
  const mends = () => timed(() => sparing(eight, found, newId))
  return { valueMs: median(Array.from({ length: 21 }, once)), mendsMs: median(Array.from({ length: 5 }, mends)) }
}

/** ms of one thread for a whole reading and its rules, with nothing kept from before. */
function soundRules(): { readMs: number; rulesMs: number } {
  const renderer = new Renderer(context)
  const riffs = new Map<string, Float32Array>()
  const readings: Record<string, Reading> = {}
  const readMs = timed(() => {
    for (const { id } of eight.snapshots) {
      const played = (strength?: Strength) => {
        const shipped = playedRiff(eight, id, strength)
        if (!shipped) throw new Error('no riff')
        const key = JSON.stringify(shipped)
        const samples = riffs.get(key) ?? soundOf(shipped, RATE)
        riffs.set(key, samples)
        return { key, samples }
      }
      const signals = readingSignals(played(), { soft: played('soft'), hard: played('hard') }, voiceIn(eight, id), RATE)
      const reading = readSnapshot({ preset: eight, snapshot: id, ...signals, sampleRate: RATE }, (preset, snapshot, dry) =>
        renderer.render({ preset, snapshot, dryKey: dry.key, dry: dry.samples, sampleRate: RATE }),
      )
      let next = reading.next()
      while (!next.done) next = reading.next()
      readings[id] = next.value
    }
  })
  return { readMs, rulesMs: timed(() => checkSound({ preset: eight, readings }, newId)) }
}

/** Largest and middle error of one equaliser in the place of two with six bells in all, over 40 of them, and ms of a fit. */
function oneEq(): { largestDb: number; middleDb: number; ms: number } {
  let state = 11
  const random = (from: number, to: number) => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0
    return from + ((to - from) * state) / 2 ** 32
  }
  const meter = responseMeter(context, RATE)
  const any = (id: string) =>
    createStage(id, 'eq.parametric', {
      bell1: random(80, 400),
      gain1: random(-6, 6),
      bell2: random(500, 2_000),
      gain2: random(-6, 6),
      bell3: random(2_500, 7_000),
      gain3: random(-6, 6),
    })
  const errors: number[] = []
  const times: number[] = []
  for (let i = 0; i < 40; i++) {
    const preset = { ...blankPreset('Two'), chain: [any('a'), any('b'), createStage('out', 'output')] }
    const snapshot = preset.snapshots[0].id
    const [section] = netCurve(preset, snapshot, 120, true, meter)[0].sections
    const [group] = mergeable(preset, section)
    times.push(timed(() => errors.push(oneEqFor(preset, snapshot, group, section, meter, 120, RATE, newId).errorDb)))
  }
  return { largestDb: Math.max(...errors), middleDb: median(errors), ms: median(times) }
}

console.log(
  JSON.stringify({
    rules: { values: checks.length, sound: soundChecks.length + 1 },
    ...valueRules(),
    ...soundRules(),
    one: oneEq(),
  }),
)
