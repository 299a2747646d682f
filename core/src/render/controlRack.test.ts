import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { averageSpectrum } from '@fulgor/core/measure'
import {
  applyEdit,
  blankPreset,
  createControl,
  createStage,
  partsOf,
  resolveStage,
  resolveValues,
  type Control,
  type Preset,
  createTarget,
} from '@fulgor/core/preset'
import { controlPlan, Engine, type Plan } from '.'

const rate = 48_000
const context = { responses: responseLibrary(rate), quality: 'live' as const }
const target = (stage: string, param: string, from: number, to: number) => createTarget(`${stage}-${param}`, stage, param, from, to)

/** Only an Output: what comes out is what its level does. */
function level(control: Partial<Control>, from = -60, to = 0): Preset {
  const preset = { ...blankPreset('Level'), chain: [createStage('out', 'output')] }
  const made = { ...createControl('c', 'pedal', 'Pedal'), ...control, targets: [target('out', 'level', from, to)] }
  return applyEdit(preset, { type: 'addControl', control: made })
}

function planOf(preset: Preset, positions: Record<string, number>): Plan {
  const base = Object.fromEntries(partsOf(preset.chain).map((s) => [s.id, resolveStage(preset, s, 's1')]))
  return { chain: preset.chain, values: resolveValues(preset, 's1'), control: controlPlan(preset, 's1', 120, base, positions) }
}

/** Plays a sound through an engine in blocks of a size, telling each frame's positions before it. */
function play(preset: Preset, dry: Float32Array, block: number, positions: (frame: number) => Record<string, number>): Float32Array {
  const engine = new Engine(planOf(preset, positions(0)), context, rate)
  const out = new Float32Array(dry.length)
  const [left, right] = [new Float32Array(block), new Float32Array(block)]
  for (let start = 0; start < dry.length; start += block) {
    engine.setPositions(positions(start))
    for (let i = 0; i < block; i++) left[i] = dry[start + i] ?? 0
    engine.process(left, right, block)
    out.set(left.subarray(0, Math.min(block, dry.length - start)), start)
  }
  return out
}

const sine = (hz: number, seconds: number, gain = 0.5) =>
  Float32Array.from({ length: seconds * rate }, (_, n) => gain * Math.sin((2 * Math.PI * hz * n) / rate))
const rms = (x: Float32Array, from: number, to: number) =>
  10 * Math.log10(x.subarray(from, to).reduce((s, v) => s + v * v, 0) / (to - from))

describe('a pedal', () => {
  it('has its target at the value that its position says', () => {
    for (const [position, db] of [
      [0, -60],
      [0.5, -30],
      [1, 0],
    ]) {
      const out = play(level({}), sine(1_000, 1), 128, () => ({ c: position }))
      expect(rms(out, 24_000, 48_000)).toBeCloseTo(20 * Math.log10(0.5) - 3.01 + db, 1)
    }
  })

  it('that is not moved leaves the snapshot’s value alone, and gives it back', () => {
    const out = play(level({}), sine(1_000, 2), 128, (n): Record<string, number> => (n < rate ? { c: 0 } : {}))
    expect(rms(out, 24_000, 48_000)).toBeLessThan(-60)
    expect(rms(out, 72_000, 96_000)).toBeCloseTo(20 * Math.log10(0.5) - 3.01, 1)
  })

  it('sounds the same live and offline, whatever the block', () => {
    const sweep = (n: number) => ({ c: Math.min(1, Math.floor(n / 2_048) / 20) })
    const [a, b] = [256, 2_048].map((block) => play(level({ smoothing: 60 }), sine(440, 1), block, sweep))
    expect(a).toEqual(b)
  })

  // the design's limit: no line above the signal's own over −80 dB while a pedal sweeps a sine
  it('sweeps a sine without zipper noise', () => {
    const preset = level({ smoothing: 30 }, -24, 0)
    const out = play(preset, sine(1_000, 4), 128, (n) => ({ c: 0.5 - 0.5 * Math.cos((2 * Math.PI * 0.5 * n) / rate) }))
    const { power, binHz } = averageSpectrum([out.subarray(0, 23 * 8_192)], rate, 16_384)
    const own = Math.max(...power)
    let worst = 0
    // a sweep of 0.5 Hz has side bands of its own within some 100 Hz
    power.forEach((p, b) => {
      if (Math.abs((b + 0.5) * binHz - 1_000) > 150) worst = Math.max(worst, p)
    })
    expect(10 * Math.log10(worst / own)).toBeLessThan(-80)
  })
})

describe('sources that run by themselves', () => {
  // by hand: an eighth at 120 bpm lasts 0.25 s, so the level swings four times a second
  it('an LFO swings with the tempo', () => {
    const out = play(level({ kind: 'lfo', note: 'eighth', smoothing: 0 }, -12, 0), sine(1_000, 3), 128, () => ({}))
    const envelope = Array.from({ length: 300 }, (_, i) => rms(out, i * 480, (i + 1) * 480))
    const middle = (Math.max(...envelope.slice(50)) + Math.min(...envelope.slice(50))) / 2
    const rises = envelope.slice(50, 250).filter((v, i, all) => i > 0 && all[i - 1] < middle && v >= middle).length
    expect(rises).toBe(8)
  })

  it('goes on through an edit, as if there had been none', () => {
    const preset = level({ kind: 'lfo', note: 'eighth', smoothing: 0 }, -12, 0)
    const dry = sine(1_000, 1)
    const engine = new Engine(planOf(preset, {}), context, rate)
    const [left, right] = [new Float32Array(256), new Float32Array(256)]
    const out = new Float32Array(Math.floor(dry.length / 256) * 256)
    for (let at = 0; at < out.length; at += 256) {
      const { values, control } = planOf(preset, {})
      if (at % 2_048 === 0) engine.setValues(values, control)
      left.set(dry.subarray(at, at + 256))
      engine.process(left, right, 256)
      out.set(left, at)
    }
    expect(out).toEqual(play(preset, dry.subarray(0, out.length), 256, () => ({})))
  })

  it('an envelope opens with the playing', () => {
    const loudThenSoft = sine(300, 2).map((x, n) => x * (n < rate ? 1 : 0.001))
    const out = play(level({ kind: 'envelope', low: -40, high: -10, smoothing: 0 }), loudThenSoft, 128, () => ({}))
    expect(rms(out, 24_000, 48_000)).toBeCloseTo(20 * Math.log10(0.5) - 3.01, 0)
    expect(rms(out, 84_000, 96_000)).toBeLessThan(-110)
  })

  // by hand: after 100 ms of a release of 2 s the follower has lost e^(−0.05), 0.4 dB; an attack of 5 ms is over in 50 ms
  it('an envelope opens in its attack and closes in its release', () => {
    const loudThenSoft = sine(300, 2).map((x, n) => x * (n < rate ? 1 : 0.001))
    const slow = level({ kind: 'envelope', low: -40, high: -10, smoothing: 0, attack: 5, release: 2_000 }, -40, 0)
    const out = play(slow, loudThenSoft, 128, () => ({}))
    expect(rms(out, 2_400, 4_800) - rms(loudThenSoft, 2_400, 4_800)).toBeGreaterThan(-2)
    expect(rms(out, 52_000, 54_000) - rms(loudThenSoft, 52_000, 54_000)).toBeGreaterThan(-3)
    const quick = level({ kind: 'envelope', low: -40, high: -10, smoothing: 0, attack: 2_000, release: 5 }, -40, 0)
    const late = play(quick, loudThenSoft, 128, () => ({}))
    expect(rms(late, 2_400, 4_800) - rms(loudThenSoft, 2_400, 4_800)).toBeLessThan(-20)
    expect(rms(late, 52_000, 54_000) - rms(loudThenSoft, 52_000, 54_000)).toBeLessThan(-30)
  })
})
