import { describe, expect, it } from 'vitest'
import { responseLibrary } from '@fulgor/core/cabinet'
import { demoPresets } from '@fulgor/core/demo'
import { GUITARS, startPosition } from '@fulgor/core/guitar'
import { applyEdit, blankPreset, onGuitar, onMade, playedOn, usedGuitar, type Preset } from '@fulgor/core/preset'
import { playedRiff, soundOf, type Dry, type RenderTaps } from '@fulgor/core/reading'
import { Renderer } from '@fulgor/core/render'
import { atTheChain, columnOf, edgeOfChain, fitDb, inputFor, proposeGates, proposeTrims, type InputFit } from '.'

const RATE = 48_000
const renderer = new Renderer({ responses: responseLibrary(RATE), quality: 'live' }, 200e6)
const render: RenderTaps = (preset, snapshot, dry) =>
  renderer.render({ preset, snapshot, dryKey: dry.key, dry: dry.samples, sampleRate: RATE })
const riffs = new Map<string, Dry>()
/** The start of what a snapshot is played on. */
function riffOf(preset: Preset, snapshot: string): Dry {
  const played = playedRiff(preset, snapshot)
  if (!played) throw new Error('no riff')
  const key = JSON.stringify(played)
  let dry = riffs.get(key)
  if (!dry) riffs.set(key, (dry = { key, samples: soundOf(played, RATE).slice(0, 2 * RATE) }))
  return dry
}
const peakDb = (x: Float32Array) => 20 * Math.log10(x.reduce((m, v) => Math.max(m, Math.abs(v)), 0))

const fitOf = ({ trimAlone: _, ...input }: InputFit) => ({ ...input, gates: {}, trims: {} })

/** A preset with another guitar in it. */
const withGuitar = (preset: Preset, guitar: number): Preset =>
  applyEdit(preset, { type: 'putGuitar', guitar: usedGuitar('other', GUITARS[guitar]) })

describe.each(demoPresets.map(({ id, preset }) => [id, preset] as const))('%s on another guitar', (_, demo) => {
  it.each(GUITARS.map((g, i) => [g.name, i] as const))(
    '%s: breaks up at the same stroke within 0.5 dB, as bright before the amp within 3 percent',
    (__, i) => {
      const preset = withGuitar(demo, i)
      const made = onMade(preset)
      GUITARS[i].positions.forEach((position, at) => {
        const input = inputFor(
          made,
          onGuitar(preset, 'other', at, null),
          preset.snapshots.map((s) => s.id),
          riffOf,
          render,
          RATE,
        )
        const fitted = onGuitar(preset, 'other', at, fitOf(input))
        // all snapshots in the first position, the first one in the others
        for (const { id } of preset.snapshots.slice(0, at === 0 ? 8 : 1)) {
          const edge = edgeOfChain(preset, id, render, RATE)
          const a = columnOf(made, id, riffOf(made, id), edge, render, RATE)
          const c = columnOf(fitted, id, riffOf(fitted, id), edge, render, RATE)
          const where = `${position.name}, ${id}`
          if (a.edgeDb !== null && c.edgeDb !== null) expect([where, Math.abs(a.edgeDb - c.edgeDb) < 0.5]).toEqual([where, true])
          const bright = Number(c.brightnessHz) / Number(a.brightnessHz) - 1
          expect([where, Math.round(1000 * Math.abs(bright)) / 10 < 3 || `${(100 * bright).toFixed(1)} %`]).toEqual([where, true])
        }
      })
    },
    240_000,
  )
})

describe('what is proposed', () => {
  const twin = withGuitar({ ...blankPreset('x'), ...playedOn(GUITARS[0]) }, 0)

  const input = (preset: Preset, at: number) => inputFor(onMade(preset), onGuitar(preset, 'other', at, null), ['s1'], riffOf, render, RATE)

  it('is nothing for the same guitar', () => {
    expect(input(twin, 0)).toEqual({ trim: 0, trimAlone: 0 })
  })

  it('is the difference in level alone for the same pickup that is weaker', () => {
    const weak = applyEdit(twin, {
      type: 'putGuitar',
      guitar: usedGuitar('other', { ...GUITARS[0], positions: [startPosition('Weak', 'humbucker', 'bridge', -15.5)] }),
    })
    const { trim, trimAlone, ...bands } = input(weak, 0)
    expect(trim).toBeCloseTo(8.5, 1)
    expect(trimAlone).toBe(trim)
    expect(bands).toEqual({})
  })

  it('brings the strums to the same peak with at most three bands, none beyond 15 dB', () => {
    const other = withGuitar(twin, 3)
    const found = input(other, 1)
    for (const band of [found.low, found.bell, found.high]) expect(Math.abs(band?.db ?? 0)).toBeLessThanOrEqual(15)
    const peak = (preset: Preset) => peakDb(atTheChain(preset, null, render, RATE))
    expect(peak(onGuitar(other, 'other', 1, fitOf(found)))).toBeCloseTo(peak(onMade(other)), 1)
    expect(fitDb({ bell: { hz: 1_000, q: 1, db: 4 } }, 1_000, RATE)).toBeCloseTo(4, 6)
  })

  it('lifts a gate over the noise by 6 dB, in each snapshot, and leaves one that has room', () => {
    const column = (noiseDbfs: number, thresholdDbfs: number) => ({ gates: { g: { noiseDbfs, thresholdDbfs } } })
    const made = column(-88, -58)
    const moves = proposeGates({ s1: made, s2: made, s3: made }, { s1: column(-61.2, -58), s2: column(-63, -58), s3: column(-70, -58) })
    expect(moves).toEqual({ g: { s1: 3, s2: 1 } })
    // a gate that the noise nearly held open as it was made need have no more room than that
    expect(proposeGates({ s: column(-60, -58) }, { s: column(-58, -58) })).toEqual({ g: { s: 2 } })
    expect(proposeGates({ s: { gates: {} } }, { s: { gates: {} } })).toEqual({})
  })

  it('trims what is not as loud as it was made, to a tenth of a dB', () => {
    expect(proposeTrims({ a: -18, b: -16, c: null, d: -20 }, { a: -19.26, b: -16.04, c: -10, d: null })).toEqual({ a: 1.3 })
  })
})
