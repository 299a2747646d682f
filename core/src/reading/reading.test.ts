import { GUITARS, startPosition } from '@fulgor/core/guitar'
import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { blankPreset, playedOn, createLane, createStage, type ChainNode, type Preset } from '@fulgor/core/preset'
import { Renderer } from '@fulgor/core/render'
import { neckNotes, restingGuitar } from '@fulgor/core/riffs'
import { gainOf, inputsOf, playedRiff, readingSignals, readSnapshot, soundOf, thdAt, type Reading, voiceIn } from '.'

const RATE = 48_000
const renderer = new Renderer({
  quality: 'live',
  responses: responseLibrary(RATE, () => {
    throw new Error('no files')
  }),
})
const preset = (...chain: ChainNode[]): Preset => ({ ...blankPreset('Read'), chain })
const tone = (db: number, seconds = 1.5) =>
  Float32Array.from({ length: seconds * RATE }, (_, n) => Math.pow(10, db / 20) * Math.sin((2 * Math.PI * 200 * n) / RATE))

const notes = neckNotes(RATE)
let named = 0
function read(of: Preset, riff = tone(-12), rest = restingGuitar(2, RATE)): Reading {
  const dry = (samples: Float32Array) => ({ key: `${++named}`, samples })
  const reading = readSnapshot(
    {
      preset: of,
      snapshot: of.snapshots[0].id,
      riff: dry(riff),
      soft: dry(riff.map((x) => x * 0.3)),
      hard: dry(riff),
      rest: dry(rest),
      notes: dry(notes),
      sampleRate: RATE,
    },
    (p, snapshot, from) => renderer.render({ preset: p, snapshot, dryKey: from.key, dry: from.samples, sampleRate: RATE }),
  )
  let next = reading.next()
  while (!next.done) next = reading.next()
  return next.value
}

describe('a snapshot that is read', () => {
  it('has the guitar’s noise as powers add: hum of 3e-5 in three sines and triangular hiss of 6e-5 peak are −88.9 dBFS', () => {
    // sines: Σ a²/2; a triangular distribution of half width w: w²/6
    const power = 3e-5 ** 2 * ((1 + 0.6 ** 2 + 0.4 ** 2) / 2) + 6e-5 ** 2 / 6
    const { guitar } = read(preset())
    expect(guitar.noiseDbfs).toBeCloseTo(10 * Math.log10(power), 1)
    expect(guitar.humShare).toBeCloseTo((3e-5 ** 2 * 0.76) / power, 1)
  })

  it('lifts noise and riff by what a linear stage does, and keeps them apart', () => {
    const r = read(preset(createStage('up', 'output', { level: 6 })))
    expect(Number(r.stages.up.noiseDbfs) - Number(r.guitar.noiseDbfs)).toBeCloseTo(6, 2)
    expect(r.stages.up.rmsDbfs).toBeCloseTo(-12 - 3.01 + 6, 1)
  })

  it('adds noise of two equal lanes as voltages, 6.02 dB, since it is the same noise', () => {
    const split: ChainNode = { kind: 'parallel', id: 'split', lanes: [createLane('a', []), createLane('b', [])] }
    const r = read(preset(split))
    const one = Number(r.stages.a.noiseDbfs)
    expect(Number(r.stages.split.noiseDbfs) - one).toBeCloseTo(6.02, 1)
  })

  it('has no noise behind a gate that closes, and all of it behind one that does not', () => {
    const gate = (threshold: number) =>
      read(preset(createStage('g', 'gate', { threshold, hysteresis: 0, range: 90, release: 20, hold: 0 })))
    expect(gate(-60).stages.g.noiseDbfs ?? -200).toBeLessThan(-160)
    // under the notes it is there all the same
    expect(gate(-60).openNoiseDbfs).toBeCloseTo(Number(gate(-60).guitar.noiseDbfs), 1)
    expect(gate(-90).stages.g.noiseDbfs).toBeCloseTo(Number(gate(-90).guitar.noiseDbfs), 1)
  })

  it('knows what stands before each stage, lanes and sums included', () => {
    const chain: ChainNode[] = [
      createStage('a', 'gate'),
      { kind: 'parallel', id: 'p', lanes: [createLane('l', [createStage('b', 'output')]), createLane('m', [])] },
      createStage('c', 'output'),
    ]
    expect(inputsOf(chain)).toEqual({ a: '', p: 'a', b: 'a', l: 'b', m: 'a', c: 'p' })
  })

  it('keeps the dynamics of a linear chain and loses them in one that clips', () => {
    const clean = read(preset(createStage('o', 'output')))
    expect(clean.dynamicsLu).toBeCloseTo(Number(clean.handLu), 1)
    // 0.3 is 10.46 dB
    expect(clean.handLu).toBeCloseTo(10.46, 1)
    const driven = read(preset(createStage('d', 'drive.hard-clip', { gain: 10 })))
    expect(Number(driven.dynamicsLu)).toBeLessThan(3)
    expect(thdAt(driven.feel, -12)).toBeGreaterThan(20)
    expect(thdAt(clean.feel, -12)).toBeLessThan(0.1)
  })

  it('loses 3 LU of unrelated sides in mono and everything of opposite ones', () => {
    expect(read(preset(createStage('o', 'output'))).monoLossLu).toBe(0)
  })
})

describe('gain reduction', () => {
  it('is what a tone is turned down by, how often and how deep', () => {
    const before = Float32Array.from(tone(-6, 1))
    // the second half 8 dB down
    const after = before.map((x, n) => (n < before.length / 2 ? x : x * Math.pow(10, -8 / 20)))
    const { share, deepestDb, meanDb } = gainOf(before, after, RATE)
    expect(share).toBeCloseTo(0.5, 1)
    expect(deepestDb).toBeCloseTo(8, 1)
    expect(meanDb).toBeCloseTo(4, 0)
  })
  it('does not count make-up, nor silence', () => {
    const quiet = Float32Array.from(tone(-6, 1)).map((x, n) => (n < RATE / 2 ? x : 0))
    expect(
      gainOf(
        quiet,
        quiet.map((x) => 2 * x),
        RATE,
      ),
    ).toEqual({ share: 0, deepestDb: 0, meanDb: 0 })
  })
})

describe('distortion at a level', () => {
  it('lies between the points that were measured, and ends with them', () => {
    const feel = { inputDb: [-12, -6, 0], thd: [1, 3, 9], edges: [] }
    expect(thdAt(feel, -9)).toBe(2)
    expect(thdAt(feel, -20)).toBe(1)
    expect(thdAt(feel, 3)).toBe(9)
  })
})

describe('what a snapshot is read on', () => {
  it('is a recording’s start for a hard hand, and 11 dB softer for a soft one, as strokes are', () => {
    const { soft, hard, rest } = readingSignals({ key: 'own', samples: tone(-12, 6) }, null, voiceIn(blankPreset('x'), null), RATE)
    expect(hard.samples).toHaveLength(4 * RATE)
    expect(20 * Math.log10(soft.samples[1000] / hard.samples[1000])).toBeCloseTo(-11, 4)
    expect(new Set([soft.key, hard.key, rest.key]).size).toBe(3)
  })

  it('is noise of the last stage at the output, whatever the stages are called', () => {
    const up = createStage('7', 'output', { level: 6 })
    const r = read(preset(createStage('b', 'output'), up))
    expect(r.noiseDbfs).toBeCloseTo(Number(r.guitar.noiseDbfs) + 6, 2)
  })
})

describe('a riff as the preset plays it', () => {
  it('is as loud as the preset’s guitar, and none where the player’s own recording is played', () => {
    const p = { ...blankPreset('x'), ...playedOn({ ...GUITARS[0], positions: [startPosition('Hot', 'humbucker', 'bridge', -3)] }) }
    const played = playedRiff(p, null, 'hard')
    expect(played?.voice.peaks.hard).toBe(-3)
    expect(playedRiff({ ...p, riff: { id: 'a'.repeat(64), strength: 'hard' } }, null)).toBeNull()
    const peak = played ? Math.max(...soundOf(played, RATE).map(Math.abs)) : 0
    expect(20 * Math.log10(peak)).toBeLessThan(-1)
    expect(20 * Math.log10(peak)).toBeGreaterThan(-4.5)
  })
})
