import { GUITARS } from '@fulgor/core/guitar'
import { beforeAll, describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { catalogue, modelOf } from '@fulgor/core/catalogue'
import { averageSpectrum, bandPower, loudness } from '@fulgor/core/measure'
import { blankPreset, createStage, type ChainNode, type ParamMap } from '@fulgor/core/preset'
import { playRiff } from '@fulgor/core/riffs'
import { renderPreset, stageDynamics, stageFeel } from '.'

/** Peak of a hard strum of a shipped guitar, dBFS. */
const hardest = (guitar: number): number => GUITARS[guitar].positions[0].hard.peakDbfs

const rate = 48_000
const context = { quality: 'live' as const, responses: responseLibrary(rate) }

/** Every channel of every amp, and every drive that clips; its knob, and how it is named. */
const amps = catalogue
  .filter((m) => m.family === 'amp')
  .flatMap(({ id, params: { channel } }): { id: string; set: ParamMap; name: string }[] =>
    channel?.kind === 'choice'
      ? channel.options.map(({ value }) => ({ id, set: { channel: value }, name: `${id} ${value}` }))
      : [{ id, set: {}, name: id }],
  )
const drives = catalogue.filter((m) => m.family === 'drive' && !m.linear).map(({ id }) => ({ id, set: {}, name: id }))
const knobOf = (id: string): string => ['gain', 'fuzz', 'sustain', 'boost'].find((key) => key in modelOf(id).params) ?? 'gain'
const riffs = new Map<string, Float32Array>()
const riff = (id: string, strength: 'soft' | 'hard', gainDb: number, seconds = 1.5) => {
  const key = `${id} ${strength}`
  const played = riffs.get(key) ?? Float32Array.from(playRiff(id, rate, { strength, bpm: 120 }))
  riffs.set(key, played)
  return played.subarray(0, seconds * rate).map((x) => x * Math.pow(10, gainDb / 20))
}
const through = (chain: readonly ChainNode[], dry: Float32Array) =>
  renderPreset({ preset: { ...blankPreset('x'), chain }, snapshot: null, dry: Float32Array.from(dry), sampleRate: rate }, context).left

/** What the table in docs/feel.md says of every knob; the limits are the design's. */
describe.each([...amps, ...drives])('the gain of $name', ({ id, set, name }) => {
  const marks = [0, 2, 4, 6, 8, 10]
  let steps: { ten: number; one: number; dynamics: number }[] = []
  beforeAll(() => {
    steps = marks.slice(1).map((mark) => {
      const stage = createStage('x', id, { ...set, [knobOf(id)]: mark })
      const [one, , ten] = stageFeel(stage, context, rate).edges
      const soft = riff('open-chords', 'soft', -4)
      const dynamics = stageDynamics(stage, soft, riff('open-chords', 'hard', -4), context, rate)
      return { one: one.inputDb ?? 12, ten: ten.inputDb ?? 12, dynamics: dynamics ?? 0 }
    })
  })

  it('distorts more and leaves less of the dynamics from step to step', () => {
    const bottom = -71
    steps.slice(1).forEach((step, k) => {
      const before = steps[k]
      // a rectifier and the end of the measured range aside
      if (step.ten < 12 && before.ten > bottom) expect(step.ten).toBeLessThan(before.ten)
      if (step.one > bottom && before.one < 12) expect(step.one).toBeLessThan(before.one + 0.6)
      expect(step.dynamics).toBeLessThan(before.dynamics + (before.dynamics > 10 ? 0.35 : 0.05))
    })
    expect(steps[4].dynamics).toBeLessThan(steps[0].dynamics)
    if (steps[4].ten < -20) expect(steps[0].dynamics - steps[4].dynamics).toBeGreaterThan(1.5)
  })

  it('is clean or nearly in the first quarter: 10 % comes above a normal stroke of the mild single coil', () => {
    if (id === 'drive.octave-fuzz') return
    expect(steps[0].ten).toBeGreaterThan(hardest(3) - 5)
    if (name !== 'amp.ironwork lead') return
    // and the high-gain lead channel cleans up with soft picking at 2
    expect(steps[0].dynamics).toBeGreaterThan(6)
    expect(steps[2].dynamics).toBeLessThan(3.5)
  })
})

// common practice, no source: recorded guitars after a 4×12 lie between −15 and +6
it.each(amps)('$name at its defaults and a closed 4×12 keeps 100–400 Hz within −12 … +6 dB of 1.6–4 kHz', ({ id, set }) => {
  const chain = [createStage('a', id, set), createStage('c', 'cabinet', { response: 'closed-4x12-coil' })]
  for (const chords of ['open-chords', 'sixteenth-strum', 'arpeggio', 'octaves', 'stabs']) {
    const spectrum = averageSpectrum([through(chain, riff(chords, 'hard', 0, 3))], rate)
    const balance = 10 * Math.log10(bandPower(spectrum, 100, 400) / bandPower(spectrum, 1_600, 4_000))
    expect([chords, balance > -12 && balance < 6]).toEqual([chords, true])
  }
})

it('all amps are within 6 LU of each other at their defaults on the mild guitar', () => {
  const levels = amps.map(({ id, set }) => {
    const chain = [createStage('a', id, set), createStage('c', 'cabinet', { response: 'closed-4x12-coil' })]
    return loudness([through(chain, riff('open-chords', 'hard', hardest(3) - hardest(0), 3))], rate).integratedLufs ?? -99
  })
  expect(Math.max(...levels) - Math.min(...levels)).toBeLessThan(6)
})

describe('drives before an amp do what their sentence says', () => {
  it.each(drives.map((d) => d.id).filter((id) => id !== 'drive.treble-booster'))('%s makes every amp denser', (id) => {
    for (const amp of ['amp.pier', 'amp.lantern', 'amp.breakwater']) {
      const dry = riff('open-chords', 'hard', -4)
      const rig = (with_: boolean) => through([...(with_ ? [createStage('d', id, { level: 6 })] : []), createStage('a', amp)], dry)
      const crest = (x: Float32Array) => x.reduce((m, y) => Math.max(m, y * y), 0) / (x.reduce((s, y) => s + y * y, 0) / x.length)
      expect(crest(rig(true))).toBeLessThan(crest(rig(false)))
    }
  })

  // "Tightens the lows", "so that low strings stay clear"
  it.each(['drive.mid-hump', 'drive.treble-booster'])('%s sends fewer lows into the clip', (id) => {
    const spectrum = averageSpectrum([through([createStage('d', id)], riff('stabs', 'hard', -4))], rate)
    const before = averageSpectrum([riff('stabs', 'hard', -4)], rate)
    const lows = (s: typeof spectrum) => 10 * Math.log10(bandPower(s, 70, 160) / bandPower(s, 600, 1_500))
    expect(lows(spectrum)).toBeLessThan(lows(before) - 3)
  })

  // the fault: 220 Hz came out 6.7 dB softer at the default
  it('the treble booster boosts the low strings too, only less', () => {
    const gain = (hz: number) => {
      const x = Float32Array.from({ length: rate / 2 }, (_, n) => 1e-3 * Math.sin((2 * Math.PI * hz * n) / rate))
      const y = through([createStage('d', 'drive.treble-booster')], x).subarray(rate / 4)
      return 20 * Math.log10(Math.max(...y) / 1e-3)
    }
    expect(gain(220)).toBeGreaterThan(0)
    expect(gain(2_000)).toBeGreaterThan(gain(220) + 6)
  })

  // the fault: −9 and −13 dB re RMS of direct current on uneven pulses
  it.each(['drive.mid-hump', 'drive.open'])('%s leaves no direct current of uneven pulses', (id) => {
    const x = Float32Array.from({ length: 2 * rate }, (_, n) => (n % 218 < 30 ? 0.4 : -0.0638))
    const y = through([createStage('d', id, { [knobOf(id)]: 7 })], x).subarray(rate)
    const mean = y.reduce((s, v) => s + v, 0) / y.length
    expect(20 * Math.log10(Math.abs(mean) / Math.sqrt(y.reduce((s, v) => s + v * v, 0) / y.length))).toBeLessThan(-35)
  })
})

describe('the power section answers', () => {
  /** dB by which the first 20 ms of a loud tone lie above the sound that has settled, and by which a soft one swells behind it. */
  function sag(id: string, set: ParamMap) {
    const x = Float32Array.from({ length: 2 * rate }, (_, n) => (n < rate ? 0.3 : 0.03) * Math.sin((2 * Math.PI * 220 * n) / rate))
    const y = through([createStage('a', id, set)], x)
    const level = (from: number, to: number) => {
      const part = y.subarray(from, to)
      return 10 * Math.log10(part.reduce((s, v) => s + v * v, 0) / part.length)
    }
    return {
      attack: level(240, 1_200) - level(30_000, 40_000),
      swell: level(rate + 30_000, rate + 40_000) - level(rate + 480, rate + 2_400),
    }
  }
  it.each(['amp.lantern', 'amp.skiff', 'amp.breakwater'])('%s sags and swells at its default, more at 100 %%, not at 0', (id) => {
    const standard = sag(id, {})
    expect(standard.attack).toBeGreaterThan(1)
    expect(standard.swell).toBeGreaterThan(1)
    expect(sag(id, { sag: 100 }).attack).toBeGreaterThan(standard.attack + 1.5)
    expect(sag(id, { sag: 0 }).attack).toBeLessThan(0.5)
  })

  it('four characters: headroom from large to small, and the resonance comes through as feedback gives way', () => {
    const edges = ['large', 'large-mid', 'chime', 'small'].map(
      (valves) => stageFeel(createStage('a', 'amp.pier', { gain: 5, master: 9, sag: 0, valves }), context, rate).edges[2].inputDb ?? 12,
    )
    edges.slice(1).forEach((edge, k) => expect(edge).toBeLessThan(edges[k]))
    // two soft tones beside a loud one: that at the loudspeaker's resonance gains on the other
    const lift = (loud: number) => {
      const tone = (n: number, hz: number, level: number) => level * Math.sin((2 * Math.PI * hz * n) / rate)
      const x = Float32Array.from({ length: rate }, (_, n) => tone(n, 105, 1e-3) + tone(n, 430, 1e-3) + tone(n, 1_900, loud))
      const y = through([createStage('a', 'amp.pier', { gain: 5, master: 9, sag: 0 })], x).subarray(rate / 2)
      const at = (hz: number) =>
        Math.hypot(...[Math.cos, Math.sin].map((f) => y.reduce((s, v, n) => s + v * f((2 * Math.PI * hz * n) / rate), 0)))
      return at(105) / at(430)
    }
    expect(lift(0.5)).toBeGreaterThan(1.15 * lift(0.01))
  })

  it('a driven stage shifts its bias: the even harmonics of a held loud tone grow within 100 ms', () => {
    const x = Float32Array.from({ length: rate }, (_, n) => 0.4 * Math.sin((2 * Math.PI * 200 * n) / rate))
    const y = through([createStage('a', 'amp.skiff', { gain: 8, sag: 0 })], x)
    const even = (from: number) => {
      const part = y.subarray(from, from + 480)
      const at = (hz: number) =>
        Math.hypot(...[Math.cos, Math.sin].map((f) => part.reduce((s, v, n) => s + v * f((2 * Math.PI * hz * n) / rate), 0)))
      return at(400) / at(200)
    }
    expect(Math.abs(even(30_000) / even(480) - 1)).toBeGreaterThan(0.1)
  })
})
