import { describe, expect, it } from 'vitest'
import { BAND_HZ, blendResponse, curvePower, CURVE_HZ, powerDb, spectrumOf, type MicPlace } from '@fulgor/core/cabinet'
import { createBench } from '@fulgor/core/catalogue'
import { demoPresets } from '@fulgor/core/demo'
import { bandsAt, candidateOf, gridOf, powerAt, Ranking, WHOLE, type EqBand, type ReferenceReport } from '@fulgor/core/match'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import { applyEdit, createStage, resolveStage, riffOf, stagesOf, type Edit, type Preset } from '@fulgor/core/preset'
import { micResponse } from '@fulgor/core/cabinet'
import { stageResponse } from '@fulgor/core/render'
import {
  asParametric,
  bandWords,
  benchFor,
  cabinetEdit,
  eqEdit,
  heardOf,
  modelCandidate,
  nearestFiles,
  nearness,
  ORDERS,
  presetCandidate,
  searchSettings,
  settingEdit,
  settingWords,
  snapshotCandidate,
  STEPS,
  timeProposals,
  together,
  type Look,
  type Source,
} from '.'

const RATE = 48_000
const demo = (id: string): Preset => demoPresets.find((p) => p.id === id)?.preset ?? demoPresets[0].preset
const lead = demo('demo-tide-lead')
const lit = lead.snapshots[0].id
const stageOf = (preset: Preset, family: string) => {
  const found = heardOf(preset, lit, family)
  if (!found) throw new Error(`no ${family}`)
  return found
}
const applied = (preset: Preset, edit: Edit | null): Preset => (edit ? applyEdit(preset, edit) : preset)

describe('a blend that was ranked', () => {
  const cab = createBench().cab
  const mic = (type: string, offset: number, distance: number): Source => {
    const place: MicPlace = { type, offset, bearing: 0, distance, angle: 0, reflections: 0, room: 0 }
    return { kind: 'mic', cab, place }
  }
  const sources = [mic('ribbon', 40, 90), mic('coil', 12, 25)]

  it('sounds on the bench as it was ranked: levels, lag and polarity, within 0.3 dB a band', () => {
    const grid = gridOf(WHOLE)
    const taps = sources.map((s) => (s.kind === 'mic' ? micResponse(s.cab, s.place, RATE, 2_048) : new Float64Array(1)))
    const made = taps.map((t) => candidateOf(grid, t, RATE))
    const flat = new Float32Array(grid.points.length).fill(1)
    const blend = { first: 0, second: 1, levelDb: 3, inverted: true, lateUs: 215, db: 0 }
    const ranking = new Ranking({ grid, power: flat, wanted: new Float32Array(64) }, made)
    const of = sources.map((source, k) => ({ source, onsetUs: (1e6 * made[k].onset) / RATE, gainDb: ranking.gainDb[k] }))
    const bench = benchFor(blend, of, createBench())
    expect(bench.channels.map((c) => c.level <= 0)).toEqual([true, true])
    expect(bench.channels[1].inverted).toBe(true)
    const { left } = blendResponse(bench, RATE, () => null)
    // the same sum by hand: both at equal power, the second 3 dB up, turned over, and 215 µs later from its first sound on
    const summed = Array.from({ length: grid.points.length }, (_, k) => {
      const [a, b] = [1, Math.pow(10, 3 / 20)].map((g, i) => g * Math.pow(10, ranking.gainDb[i] / 20))
      const turn = -2 * Math.PI * grid.points[k] * 215e-6
      const [br, bi] = [
        made[1].re[k] * Math.cos(turn) - made[1].im[k] * Math.sin(turn),
        made[1].re[k] * Math.sin(turn) + made[1].im[k] * Math.cos(turn),
      ]
      return (a * made[0].re[k] - b * br) ** 2 + (a * made[0].im[k] - b * bi) ** 2
    })
    const curve = Array.from(curvePower(spectrumOf(left, 8_192, RATE)), powerDb)
    const off = [150, 300, 700, 1_500, 3_000, 5_000].map((hz) => {
      const at = grid.points.findIndex((p) => p >= hz)
      const near = CURVE_HZ.reduce((best, f, k) => (Math.abs(f - hz) < Math.abs(CURVE_HZ[best] - hz) ? k : best), 0)
      return curve[near] - 10 * Math.log10(summed[at])
    })
    const mean = off.reduce((sum, v) => sum + v / off.length, 0)
    for (const v of off) expect(Math.abs(v - mean)).toBeLessThan(0.5)
    expect(powerAt(grid, { power: new Float64Array(4_096), binHz: 6 })).toHaveLength(grid.points.length)
    expect(bandsAt(grid, { power: new Float64Array(4_096).fill(1), binHz: 6 })).toHaveLength(64)
  })

  it('stands on one bench: two simulated microphones before one loudspeaker, a file beside either', () => {
    const other: Source = { kind: 'mic', cab: { ...cab, driver: 'warm' }, place: (sources[0] as Extract<Source, { kind: 'mic' }>).place }
    const file: Source = { kind: 'file', file: 'f'.repeat(64), name: 'Room' }
    expect([together(sources[0], sources[1]), together(sources[0], other), together(file, other)]).toEqual([true, false, true])
  })

  it('is taken into the lit snapshot alone', () => {
    const cabinet = stageOf(lead, 'cabinet')
    const bench = benchFor(
      { first: 0, second: null, levelDb: 0, inverted: false, lateUs: 0, db: 0 },
      [{ source: sources[0], onsetUs: 0, gainDb: 0 }],
      createBench(),
    )
    const next = applied(lead, cabinetEdit(cabinet.id, lit, bench))
    expect(resolveStage(next, stageOf(next, 'cabinet'), lit).bench?.channels).toHaveLength(1)
    const others = (p: Preset) => p.snapshots.slice(1).map((s) => resolveStage(p, stageOf(p, 'cabinet'), s.id))
    expect(others(next)).toEqual(others(lead))
  })

  it('files are ordered by what is known of them: the one that makes up the difference is first', () => {
    const bare = THIRD_OCTAVES.map(() => -20)
    const wanted = THIRD_OCTAVES.map((hz) => -30 - 3 * Math.log2(hz / 1_000))
    const slope = (db: number) => ({ bands: BAND_HZ.map((hz) => db * Math.log2(hz / 1_000)) })
    const found = nearestFiles([slope(0), slope(3), slope(-3), slope(-2)], bare, wanted, WHOLE, [])
    expect(found.map((f) => f.index)).toEqual([2, 3, 0, 1])
    expect(found[0].db).toBeLessThan(1e-9)
    // darker by 1.5 dB an octave above 1 kHz: a steeper one would be nearer
    expect(nearestFiles([slope(-3), slope(-3.7)], bare, wanted, WHOLE, ['darker'])[0].index).toBe(1)
  })
})

describe('an equaliser that was found', () => {
  const bands: EqBand[] = [
    { hz: 3_300, db: -3.6, q: 1.2 },
    { hz: 220, db: 2.5, q: 0.8 },
    { hz: 900, db: -4, q: 1 },
    { hz: 7_000, db: 3, q: 0.7 },
  ]

  it('does as parametric equalisers what its bells do (RBJ cookbook), whichever bell takes which', () => {
    const stages = asParametric(bands)
    expect(stages).toHaveLength(2)
    const hz = [100, 220, 500, 900, 2_000, 3_300, 7_000, 10_000]
    const sum = hz.map(() => 0)
    for (const params of stages) {
      const { re, im } = stageResponse(
        createStage('eq', 'eq.parametric', params),
        hz,
        { quality: 'live', responses: () => new Float64Array(1) },
        RATE,
      )
      hz.forEach((_, k) => (sum[k] += 10 * Math.log10(re[k] ** 2 + im[k] ** 2)))
    }
    const bell = (f: number, b: EqBand) => {
      // |H| of the peaking section, by hand from its coefficients
      const a = Math.pow(10, b.db / 40)
      const w0 = (2 * Math.PI * b.hz) / RATE
      const alpha = Math.sin(w0) / (2 * b.q)
      const w = (2 * Math.PI * f) / RATE
      const size = (c0: number, c1: number, c2: number) =>
        Math.hypot(c0 + c1 * Math.cos(w) + c2 * Math.cos(2 * w), c1 * Math.sin(w) + c2 * Math.sin(2 * w))
      return 20 * Math.log10(size(1 + alpha * a, -2 * Math.cos(w0), 1 - alpha * a) / size(1 + alpha / a, -2 * Math.cos(w0), 1 - alpha / a))
    }
    hz.forEach((f, k) => expect(Math.abs(sum[k] - bands.reduce((db, b) => db + bell(f, b), 0))).toBeLessThan(0.1))
  })

  it('stands behind the cabinet or before the amp, and only the lit snapshot hears it', () => {
    const behind = applied(lead, eqEdit(lead, lit, bands.slice(0, 1), 'behind the cabinet', ['x1', 'x2']))
    const before = applied(lead, eqEdit(lead, lit, bands.slice(0, 1), 'before the amp', ['x1', 'x2']))
    const order = (p: Preset) => stagesOf(p.chain).map((s) => s.id)
    expect(order(behind).indexOf('x1')).toBe(order(behind).indexOf(stageOf(lead, 'cabinet').id) + 1)
    expect(order(before).indexOf('x1')).toBe(order(before).indexOf(stageOf(lead, 'amp').id) - 1)
    const on = (p: Preset) =>
      p.snapshots.map((s) => resolveStage(p, stagesOf(p.chain).find((x) => x.id === 'x1') ?? stageOf(p, 'amp'), s.id).on)
    expect(on(behind)).toEqual(lead.snapshots.map((_, k) => k === 0))
    expect(bandWords(bands.slice(0, 2))).toBe('3.3 k −3.6, 220 +2.5 dB')
  })
})

describe('a search for amps', () => {
  const amp = stageOf(lead, 'amp')
  const where = { stage: amp }
  const wanted = { model: 'amp.breakwater', gain: 6, treble: 3 }
  /** A made-up ear: how far the knobs stand from the wanted ones. */
  const look = (edit: Edit): Look => {
    const preset = applyEdit(lead, edit)
    const stage = stageOf(preset, 'amp')
    const { params } = resolveStage(preset, stage, lit)
    const off = Math.abs(Number(params.gain) - wanted.gain) + 0.5 * Math.abs(Number(params.treble) - wanted.treble)
    return { db: 0.3 * off + (stage.model === wanted.model ? 0 : 4), crestDb: 12, densityDb: -20 }
  }

  it('finds the model and goes down to its knobs', () => {
    const search = searchSettings(
      {
        preset: lead,
        snapshot: lit,
        where,
        models: ['amp.lantern', 'amp.breakwater', 'amp.ironwork'],
        aimed: { crestDb: 12, densityDb: -20 },
      },
      look,
    )
    let next = search.next()
    let tried = 0
    while (!next.done) {
      tried++
      next = search.next()
    }
    const [best] = next.value
    expect(tried).toBeGreaterThan(15)
    expect(best.model).toBe(wanted.model)
    expect(Math.abs(best.params.gain - wanted.gain)).toBeLessThan(1.1)
    expect(Math.abs(best.params.treble - wanted.treble)).toBeLessThan(1.6)
    expect(next.value.map((s) => s.near)).toEqual([...next.value.map((s) => s.near)].sort((a, b) => a - b))
    expect(settingWords({ model: 'amp.lantern', params: { gain: 4.6, mid: 8 } })).toMatch(/^gain 4\.6, mid(range)? 8\.0$/)
  })

  it('weighs a dB of crest or density as half a dB of tone, and no crest of a mastered mix', () => {
    const aimed = { crestDb: 12, densityDb: -20 }
    expect(nearness({ db: 3, crestDb: 12, densityDb: -20 }, aimed)).toBe(3)
    expect(nearness({ db: 0, crestDb: 8, densityDb: -20 }, aimed)).toBe(2)
    expect(nearness({ db: 0, crestDb: 12, densityDb: -14 }, aimed)).toBe(3)
    expect(nearness({ db: 0, crestDb: 2, densityDb: -20 }, { ...aimed, crestDb: null })).toBe(0)
  })

  it('puts a drive that is not there before the amp, off elsewhere', () => {
    const edit = settingEdit(lead, lit, { beside: amp.id, id: 'new' }, { model: 'drive.open', params: { gain: 3 } })
    const next = applyEdit(lead, edit)
    const order = stagesOf(next.chain).map((s) => s.id)
    expect(order.indexOf('new')).toBe(order.indexOf(amp.id) - 1)
    const at = stagesOf(next.chain)[order.indexOf('new')]
    expect(next.snapshots.map((s) => resolveStage(next, at, s.id).on)).toEqual(next.snapshots.map((_, k) => k === 0))
    expect(resolveStage(next, at, lit).params.gain).toBe(3)
  })
})

describe('time and space', () => {
  const told = <T>(value: T | null) => ({ value, confidence: value === null ? 0 : 1, words: '' })
  const found = (part: Partial<Pick<ReferenceReport, 'echo' | 'ring' | 'sides' | 'tempo'>>) => ({
    echo: told<{ lagMs: number; db: number; repeats: boolean }>(null),
    ring: told<number>(null),
    sides: told<never>(null),
    tempo: told(108),
    ...part,
  })
  const ids = ['t1', 't2', 't3']

  it('an echo is a note value at the tempo, as loud as it was: wet and dry are equal at 50 %', () => {
    // a dotted eighth at 108 bpm: 0.75 · 60,000 / 108 = 416.7 ms; −20 dB is a tenth
    const [delay] = timeProposals(lead, lit, found({ echo: told({ lagMs: 417, db: -20, repeats: false }) }), [], ids)
    const next = applied(lead, delay.edit)
    const values = resolveStage(next, stageOf(next, 'delay'), lit).params
    expect([values.note, values.mix, values.feedback]).toEqual(['eighth-dotted', 5, 0])
    const [free] = timeProposals(lead, lit, found({ echo: told({ lagMs: 467, db: -6, repeats: true }) }), ['drier'], ids)
    const freely = resolveStage(applied(lead, free.edit), stageOf(lead, 'delay'), lit).params
    expect([freely.note, freely.time]).toEqual(['free', 467])
    expect(Number(freely.mix)).toBeLessThan(16)
    expect(Number(freely.feedback)).toBeGreaterThan(0)
  })

  it('one take widened is a doubling, and says what a mono house makes of it', () => {
    const sides = told({ kind: 'delayed' as const, lagMs: 14, rateHz: null, wobbleCents: null })
    const [doubling] = timeProposals(lead, lit, found({ sides }), [], ids)
    // the first null of two equal sounds 14 ms apart: 1 / (2 · 0.014 s) = 36 Hz
    expect(doubling.warning).toContain('36 Hz')
    const next = applied(lead, doubling.edit)
    expect(resolveStage(next, stagesOf(next.chain).find((s) => s.id === 't2') ?? stageOf(next, 'amp'), lit).params.delay).toBe(14)
    const wide = told({ kind: 'delayed' as const, lagMs: 1.2, rateHz: null, wobbleCents: null })
    expect(timeProposals(lead, lit, found({ sides: wide }), [], ids)).toEqual([])
  })

  it('a decay is a room, a plate or a hall; nothing found is nothing proposed', () => {
    const model = (s: number) => {
      const [reverb] = timeProposals(lead, lit, found({ ring: told(s) }), [], ids)
      const next = applied(lead, reverb.edit)
      const stage = stageOf(next, 'reverb')
      return [stage.model, resolveStage(next, stage, lit).params.decay]
    }
    expect([model(0.5), model(1.6), model(4)]).toEqual([
      ['reverb.room', 0.5],
      ['reverb.plate', 1.6],
      ['reverb.hall', 4],
    ])
    expect(timeProposals(lead, lit, found({}), [], ids)).toEqual([])
  })
})

describe('candidates on one take', () => {
  it('hear the riff and the hand of the open preset', () => {
    const other = demo('demo-harbour-clean')
    const pit = demo('demo-pit-main')
    const at = pit.snapshots[2].id
    for (const { variant } of [snapshotCandidate(pit, at, pit.snapshots[0].id), presetCandidate(pit, at, 'other', other)]) {
      expect(riffOf(variant, at)).toEqual(riffOf(pit, at))
      expect([variant.guitars, variant.tempo]).toEqual([pit.guitars, pit.tempo])
      expect(variant.snapshots.map((s) => s.id)).toEqual([at])
    }
  })

  it('are put in: a model with its level, a snapshot’s values, a preset’s chain', () => {
    const amp = stageOf(lead, 'amp')
    const model = applyEdit(lead, modelCandidate(lead, amp, 'amp.pier').putIn(3))
    expect([stageOf(model, 'amp').model, resolveStage(model, stageOf(model, 'amp'), lit).params.level]).toEqual(['amp.pier', 3])
    const answer = applyEdit(lead, snapshotCandidate(lead, lit, 'answer').putIn(0))
    for (const stage of stagesOf(lead.chain)) expect(resolveStage(answer, stage, lit)).toEqual(resolveStage(lead, stage, 'answer'))
    const other = demo('demo-harbour-clean')
    const whole = applyEdit(lead, presetCandidate(lead, lit, 'other', other).putIn(0))
    expect([whole.chain, whole.name, whole.guitars]).toEqual([other.chain, lead.name, lead.guitars])
  })

  it('both schools go through every step', () => {
    for (const order of Object.values(ORDERS)) expect([...order].sort()).toEqual([...STEPS].sort())
  })
})
