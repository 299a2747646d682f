import { describe, expect, it } from 'vitest'
import { blankPreset, createStage, type ChainNode } from '@fulgor/core/preset'
import { responseLibrary } from '@fulgor/core/cabinet'
import { loudness } from '@fulgor/core/measure'
import { synthesiseRiff } from '@fulgor/core/riffs'
import { renderPreset, stageFeel, stageGain, stageResponse, stageTail, solved, unitySearch, worstAliasDb } from '.'

const rate = 48_000
const context = {
  quality: 'live' as const,
  responses: responseLibrary(rate),
}

describe('response probe', () => {
  const at = (model: string, params: Record<string, number | string>, hz: readonly number[]) => {
    const { re, im } = stageResponse(createStage('x', model, params), hz, context, rate)
    return re.map((r, i) => 20 * Math.log10(Math.hypot(r, im[i])))
  }

  it('finds plain gain flat', () => {
    for (const db of at('trim', { level: -7.5 }, [30, 300, 3_000, 15_000])) expect(db).toBeCloseTo(-7.5, 4)
  })

  // first order: −3.01 dB at the corner, 6 dB per octave below; second order 12, fourth order 24 (handbook knowledge, Zölzer 2011)
  it.each([
    ['6', 6],
    ['12', 12],
    ['24', 24],
  ])('finds a low cut of %s dB per octave', (lowSlope, slope) => {
    const [corner, octave, two] = at('eq.parametric', { lowSlope, lowCut: 400, highSlope: 'off' }, [400, 200, 100])
    expect(corner).toBeCloseTo(-3, 1)
    expect(octave - two).toBeGreaterThan(slope - 1.2)
    expect(octave - two).toBeLessThan(slope + 1.2)
  })

  // a bright cap bridges the upper part of the volume pot: the lower the gain, the more; at full it bridges nothing (common practice)
  it('finds the bright switch of an amp where the gain is low, and nothing of it at full', () => {
    const lift = (gain: number) => {
      const [on, off] = (['on', 'off'] as const).map((bright) => at('amp.pier', { gain, bright }, [300, 6_000]))
      return on[1] - on[0] - (off[1] - off[0])
    }
    expect(lift(1)).toBeGreaterThan(3)
    expect(lift(1)).toBeGreaterThan(lift(5) + 0.4)
    expect(Math.abs(lift(10))).toBeLessThan(0.3)
  })

  it('finds a comb where two lanes are apart in time: first null at 1/(2τ)', () => {
    const [null1, peak1] = at('utility.loop', { trip: 0.5, mix: 50 }, [1_000, 2_000])
    expect(null1).toBeLessThan(-40)
    expect(peak1).toBeCloseTo(6.02, 1)
  })
})

describe('tail probe', () => {
  it('shows repeats where they are and 20·log10(f) below each other', () => {
    const stage = createStage('x', 'delay.digital', { note: 'free', time: 250, feedback: 50, tone: 20_000 })
    const { ms, db } = stageTail(stage, 1.2, 10, context, rate)
    const near = (time: number) => Math.max(...db.filter((_, i) => Math.abs(ms[i] - time) <= 10))
    expect(near(250)).toBeCloseTo(0, 0)
    expect(near(500)).toBeCloseTo(-6, 0)
    expect(near(750)).toBeCloseTo(-12, 0)
    expect(near(375)).toBeLessThan(-60)
  })

  it('follows the tempo where a note value is set', () => {
    const stage = createStage('x', 'delay.digital', { note: 'eighth', feedback: 0, tone: 20_000 })
    const first = (tempo: number) => {
      const { ms, db } = stageTail(stage, 1, 5, context, rate, tempo)
      return ms[db.indexOf(Math.max(...db))]
    }
    expect(Math.abs(first(120) - 250)).toBeLessThanOrEqual(5)
    expect(Math.abs(first(90) - 333)).toBeLessThanOrEqual(6)
  })
})

describe('feel and gain probes', () => {
  it('find a linear stage without distortion', () => {
    const feel = stageFeel(createStage('x', 'trim', { level: 6 }), context, rate)
    expect(Math.max(...feel.thd)).toBeLessThan(1e-3)
    expect(feel.edges.every((e) => e.inputDb === null)).toBe(true)
    // RMS of a sine lies 3.01 dB under its peak
    feel.inputDb.forEach((db, i) => expect(feel.outputDb[i]).toBeCloseTo(db + 6 - 3.01, 1))
  })

  it('find distortion growing with the level in every drive', () => {
    const { thd } = stageFeel(createStage('x', 'drive.open', { gain: 5 }), context, rate)
    for (let i = 4; i < thd.length - 4; i++) expect(thd[i + 1]).toBeGreaterThanOrEqual(thd[i] - 0.2)
  })

  it('find the compressor’s curve', () => {
    const { inputDb, outputDb } = stageGain(
      createStage('x', 'compressor.vca', { threshold: -30, ratio: 4, knee: 0, attack: 1, release: 400 }),
      context,
      rate,
    )
    const at = (db: number) => outputDb[inputDb.indexOf(db)]
    expect(at(-60)).toBeCloseTo(-60, 0)
    // a quarter of the slope above the threshold
    expect((at(-3) - at(-18)) / 15).toBeCloseTo(1 / 4, 1)
  })

  it('find the gate’s threshold', () => {
    const { inputDb, outputDb } = stageGain(createStage('x', 'gate', { threshold: -50, range: 60 }), context, rate)
    expect(outputDb[inputDb.indexOf(-60)]).toBeLessThan(-110)
    expect(outputDb[inputDb.indexOf(-45)]).toBeCloseTo(-45, 0)
  })
})

describe('alias probe', () => {
  it('finds none in a linear stage and names an unknown model', () => {
    expect(worstAliasDb('trim', {}, 1_244.5, 0.2, context, rate)).toBeLessThan(-110)
    expect(() => worstAliasDb('nothing', {}, 1_000, 0.2, context, rate)).toThrow('no stage model “nothing”')
  })

  it('finds less the finer the quality', () => {
    const alias = (quality: 'live' | 'high' | 'highest') =>
      worstAliasDb('drive.hard-clip', { gain: 10 }, 5_000, 0.2, { ...context, quality }, rate)
    expect(alias('high')).toBeLessThan(alias('live') - 6)
    expect(alias('highest')).toBeLessThan(alias('high') - 6)
  })
})

describe('unity', () => {
  const riff = synthesiseRiff('lead-line', 'hard', 120, rate).slice(0, rate * 3)
  const lufs = (chain: readonly ChainNode[]) => {
    const { left, right } = renderPreset({ preset: { ...blankPreset('x'), chain }, snapshot: null, dry: riff, sampleRate: rate }, context)
    return loudness([left, right], rate).integratedLufs
  }
  it.each([
    ['compressor.optical', { sustain: 8 }, []],
    ['drive.wall-fuzz', {}, []],
    ['drive.mid-hump', { gain: 5 }, [createStage('amp', 'amp.breakwater', { gain: 5 })]],
    ['eq.graphic-7', { g800: 9 }, [createStage('amp', 'amp.pier')]],
  ] as const)('makes %s as loud on as off within 0.1 LU, before whatever follows', (model, params, rest) => {
    const chain = (on: boolean, level: number): ChainNode[] => [{ ...createStage('x', model, { ...params, level }), on }, ...rest]
    const { level, residual, limited } = solved(unitySearch(0, lufs(chain(false, 0)), model), (value) => lufs(chain(true, value)))
    expect(limited).toBe(false)
    expect(Math.abs(residual)).toBeLessThanOrEqual(0.1)
    expect(Math.abs((lufs(chain(true, level)) ?? 0) - (lufs(chain(false, 0)) ?? 1))).toBeLessThanOrEqual(0.1)
  })

  it('says when the range of the level ends, and when there is nothing to hear', () => {
    expect(solved(unitySearch(0, -10, 'drive.open'), (level) => -60 + level)).toMatchObject({ limited: true, level: 20 })
    expect(() => solved(unitySearch(0, null, 'drive.open'), () => -20)).toThrow('silent')
    expect(() => solved(unitySearch(0, -20, 'drive.open'), () => null)).toThrow('silent')
  })
})
