import { GUITARS } from '@fulgor/core/guitar'
import { describe, expect, it } from 'vitest'
import { THIRD_OCTAVES } from '@fulgor/core/measure'
import {
  applyEdit,
  blankPreset,
  createLane,
  createStage,
  readPreset,
  type ChainNode,
  type Preset,
  type Role,
  playedOn,
} from '@fulgor/core/preset'
import type { LanePair, Reading, StageReading } from '@fulgor/core/reading'
import { checkSound, findingKey, isAside, whyOf, type Finding } from '.'

let made = 0
const newId = () => `new${++made}`
const preset = (chain: readonly ChainNode[], ...roles: readonly (Role | undefined)[]): Preset => ({
  ...blankPreset('x'),
  // a normal stroke is 5 dB below: −12 dBFS
  ...playedOn(GUITARS[0]),
  chain,
  snapshots: (roles.length === 0 ? [undefined] : roles).map((role, i) => ({
    id: `s${i}`,
    name: `Sound ${i}`,
    stages: {},
    ...(role ? { role } : {}),
  })),
})
const level = { rmsDbfs: -20, peakDbfs: -6, truePeakDbtp: -6, crestDb: 14, centroidHz: 900 }
const behind = (own: Partial<StageReading> = {}): StageReading => ({ ...level, noiseDbfs: -80, noiseInPeakDbfs: -70, ...own })
/** Flat up to where a guitar loudspeaker ends. */
const flat = THIRD_OCTAVES.map((hz) => ({ hz, db: hz > 5_000 ? -60 : (-30 as number | null) }))
const bands = (own: Readonly<Record<number, number>>) => flat.map((b) => ({ ...b, db: own[b.hz] ?? b.db }))

/** A quiet, dynamic, clean sound, but for what a test says. */
function reading(stages: Reading['stages'], own: Partial<Reading> & { lufs?: number; thd?: number } = {}): Reading {
  const { lufs = -18, thd = 0, ...rest } = own
  return {
    stages,
    guitar: { ...level, noiseDbfs: -89, noisePeakDbfs: -79, humShare: 0.5, gate: null },
    output: {
      ...level,
      integratedLufs: lufs,
      rangeLu: 4,
      momentaryMaxLufs: lufs + 3,
      shortTermMaxLufs: lufs + 1,
      thirdOctave: flat,
    },
    noiseDbfs: -89,
    openNoiseDbfs: -89,
    monoLossLu: 0,
    feel: { inputDb: [-48, 0], thd: [thd, thd], edges: [{ thd: 1, inputDb: thd > 1 ? -30 : null }] },
    handLu: 11,
    dynamicsLu: 10,
    turned: [],
    dryGapDb: 30,
    gapDb: 25,
    monoBands: [],
    lanes: [],
    neck: null,
    ...rest,
  }
}
const heard = (p: Preset, ...readings: Reading[]) => ({ preset: p, readings: Object.fromEntries(readings.map((r, i) => [`s${i}`, r])) })
const find = (p: Preset, ...readings: Reading[]): Finding[] => checkSound(heard(p, ...readings), newId)
const rules = (p: Preset, ...readings: Reading[]) => find(p, ...readings).map((f) => f.rule)
const mended = (p: Preset, finding: Finding): Preset => {
  const next = applyEdit(p, { type: 'all', edits: finding.mends[0].edits })
  expect(readPreset(JSON.parse(JSON.stringify(next)))).toEqual(next)
  return next
}
const amp = createStage('amp', 'amp.lantern')
const out = createStage('out', 'output')

describe('gates', () => {
  const gate = (params: Record<string, number | string>) => preset([createStage('g', 'gate', { hysteresis: 6, ...params }), amp, out])
  const r = (noisePeak: number) => reading({ g: behind({ noiseInPeakDbfs: noisePeak }), amp: behind(), out: behind() })

  it('that close under the noise never close: told, and opened 8 dB above it; 1 dB over it they do', () => {
    const p = gate({ threshold: -64 })
    const [finding] = find(p, r(-61))
    expect(finding).toMatchObject({ rule: 'gate-never-closes', severity: 'warning', where: ['g'], amount: { value: 9 } })
    expect(finding.figure).toContain('closes at −70.0 dBFS')
    expect(rules(mended(p, finding), r(-61))).toEqual([])
    expect(rules(p, r(-71))).toEqual([])
  })

  it('that open above softly picked notes swallow them: a peak of −6, a soft stroke 11 and a single note 12 dB below', () => {
    const p = gate({ threshold: -28 })
    const [finding] = find(p, r(-90))
    expect(finding).toMatchObject({ rule: 'gate-clips-soft', amount: { value: 1 } })
    expect(rules(mended(p, finding), r(-90))).toEqual([])
    expect(rules(gate({ threshold: -30 }), r(-90))).toEqual([])
  })
})

describe('noise', () => {
  const p = preset([amp, out])
  const r = (noise: number) => reading({ amp: behind({ noiseDbfs: noise }), out: behind({ noiseDbfs: noise }) }, { noiseDbfs: noise })

  it('closer than 36 dB is told, with the stage that brings it closer, and a gate as mend', () => {
    const [finding] = find(p, r(-50))
    expect(finding).toMatchObject({ rule: 'noisy', where: ['amp'], amount: { value: 6 } })
    // −20 over −89 at the guitar is 69, behind the amp 30
    expect(finding.reason).toContain('39.0 dB closer')
    const next = mended(p, finding)
    expect(next.chain[0]).toMatchObject({ model: 'gate', on: true })
    expect(rules(p, r(-57))).toEqual([])
  })

  it('switches a gate on that is there, here alone', () => {
    const gated = preset([{ ...createStage('g', 'gate'), on: false }, amp, out])
    const [finding] = find(gated, reading({ g: behind(), amp: behind({ noiseDbfs: -50 }), out: behind() }, { noiseDbfs: -50 }))
    expect(finding.mends[0].edits).toEqual([{ type: 'setOn', stage: 'g', snapshot: 's0', on: true }])
  })
})

describe('roles', () => {
  it('clean that distorts by 3 % and more on a normal stroke is told, and nothing else that does', () => {
    const r = (thd: number) => reading({ amp: behind(), out: behind() }, { thd })
    const [finding] = find(preset([amp, out], 'clean'), r(8))
    expect(finding).toMatchObject({ rule: 'clean-distorts', where: ['amp'], amount: { value: 8, unit: '%' } })
    expect(finding.reason).toContain('18.0 dB below a normal stroke')
    const less = mended(preset([amp, out], 'clean', 'rhythm'), finding)
    expect(less.chain[0]).toMatchObject({ model: 'trim' })
    const lanes: ChainNode = { kind: 'parallel', id: 'p', lanes: [createLane('l', [amp]), createLane('m', [])] }
    const [inLane] = find(preset([lanes, out], 'clean'), r(8))
    expect(mended(preset([lanes, out], 'clean'), inLane).chain[0]).toMatchObject({ model: 'trim' })
    expect(Object.values(less.snapshots[0].stages)).toEqual([{ params: { level: -18 } }])
    expect(rules(preset([amp, out], 'clean'), r(2.9))).toEqual([])
    expect(rules(preset([amp, out], 'rhythm'), r(8))).toEqual([])
  })

  it('lead that does not rise is brought to its target; clean that rises too', () => {
    const p = preset([amp, out], 'rhythm', 'lead', 'clean')
    const r = (lufs: number) => reading({ amp: behind(), out: behind() }, { lufs, output: undefined })
    const at = (lufs: number) => ({
      ...r(lufs),
      output: { ...reading({}).output, integratedLufs: lufs, truePeakDbtp: -8, thirdOctave: bands({ 1000: lufs }) },
    })
    const found = find(p, at(-18), at(-17.5), at(-15)).filter((f) => f.rule === 'lead-and-clean')
    expect(found.map((f) => f.snapshots)).toEqual([['s1'], ['s2']])
    expect(found[0].amount?.value).toBeCloseTo(1, 6)
    expect(found[0].mends[0].label).toBe('To its target, +2.5 dB')
    expect(found[1].mends[0].label).toBe('To its target, −3.0 dB')
    expect(find(p, at(-18), at(-16.4), at(-16.6)).filter((f) => f.rule === 'lead-and-clean')).toEqual([])
    // no mend may leave above the ceiling
    const hot = { ...at(-17.5), output: { ...at(-17.5).output, truePeakDbtp: -2 } }
    expect(find(p, at(-18), hot, at(-18)).find((f) => f.rule === 'lead-and-clean')?.mends).toEqual([])
  })
})

describe('what a house hears', () => {
  it('more than 3.5 LU lost in mono is told: equal unrelated sides lose 3.01', () => {
    const p = preset([amp, createStage('ch', 'modulation.chorus'), out])
    const r = (loss: number) => reading({ amp: behind(), ch: behind(), out: behind() }, { monoLossLu: loss })
    expect(find(p, r(4.2))[0]).toMatchObject({ rule: 'mono-loss', where: ['ch'], amount: { value: 4.2 } })
    expect(rules(p, r(3.01))).toEqual([])
    expect(find(p, r(Infinity))[0].figure).toContain('Nothing is left')
  })
})

describe('gain', () => {
  const comp = createStage('c', 'compressor.vca')
  const p = preset([comp, amp, out])
  const r = (noise: number, thd: number) => reading({ c: behind({ noiseDbfs: noise }), amp: behind(), out: behind() }, { thd })

  it('a compressor before high gain that raises the noise is told, before a clean amp it is not, nor behind the gain', () => {
    // from 69 dB apart at the guitar to 60: 9 dB
    const [finding] = find(p, r(-80, 40))
    expect(finding).toMatchObject({ rule: 'compressor-before-gain', severity: 'note', amount: { value: 9 } })
    expect(rules(p, r(-80, 5))).toEqual([])
    expect(rules(p, r(-87, 40))).toEqual([])
    expect(rules(preset([amp, comp, out]), r(-80, 40))).toEqual([])
  })

  it('two stages that clip and leave little of the hand are told, one is not', () => {
    const two = preset([createStage('d', 'drive.mid-hump'), amp, out])
    const flatHand = (stages: Reading['stages']) => reading(stages, { dynamicsLu: 1.5 })
    expect(find(two, flatHand({ d: behind(), amp: behind(), out: behind() }))[0]).toMatchObject({
      rule: 'little-dynamics',
      amount: { value: 1 },
    })
    expect(rules(preset([amp, out]), flatHand({ amp: behind(), out: behind() }))).toEqual([])
    expect(rules(two, reading({ d: behind(), amp: behind(), out: behind() }, { dynamicsLu: 2.6 }))).toEqual([])
  })

  it('lows that stand over the mids into hard clipping are cut before it, by the equaliser that is there or a new one', () => {
    const p2 = preset([amp, out])
    const low = (db: number) =>
      reading({ amp: behind({ before: bands({ 80: db, 100: db, 125: db, 160: db, 200: db }) }), out: behind() }, { thd: 30 })
    // five bands at −18 against seven at −30: 12 − 10 log₁₀(7/5) = 10.5 dB
    const [finding] = find(p2, low(-18))
    expect(finding).toMatchObject({ rule: 'boom-before-gain', hz: 125 })
    expect(finding.amount?.value).toBeCloseTo(10.5, 1)
    expect(mended(p2, finding).chain.map((n) => (n.kind === 'stage' ? n.model : ''))).toEqual(['eq.parametric', 'amp.lantern', 'output'])
    expect(rules(p2, low(-25.5))).toEqual([])
    const own = preset([createStage('eq', 'eq.parametric'), amp, out])
    const [again] = find(own, { ...low(-18), stages: { ...low(-18).stages, eq: behind() } })
    expect(mended(own, again).chain).toHaveLength(3)
  })

  it('a hot signal into an echo with a pedal’s headroom is told, into a digital one it is not', () => {
    const with_ = (model: string) => preset([amp, createStage('e', model), out])
    const hot = reading({ amp: behind({ peakDbfs: -3 }), e: behind(), out: behind() })
    expect(find(with_('delay.tape'), hot)[0]).toMatchObject({ rule: 'hot-input', where: ['e'], amount: { value: 3 } })
    expect(rules(with_('delay.digital'), hot)).toEqual([])
    expect(rules(with_('delay.bucket'), reading({ amp: behind({ peakDbfs: -7 }), e: behind(), out: behind() }))).toEqual([])
  })
})

describe('the spectrum at the output', () => {
  const p = preset([amp, out])
  const r = (own: Record<number, number>) =>
    reading({ amp: behind(), out: behind() }, { output: { ...reading({}).output, thirdOctave: bands(own) } })

  it('cardboard, whistle and fizz are told where they stand out, a flat spectrum to 12 kHz only fizzes', () => {
    expect(rules(p, r({}))).toEqual([])
    expect(rules(p, r({ 400: -22, 500: -22, 630: -22 }))).toEqual(['cardboard'])
    expect(rules(p, r({ 400: -25, 500: -25, 630: -25 }))).toEqual([])
    expect(find(p, r({ 4000: -23 })).map((f) => [f.rule, f.amount?.value])).toEqual([['whistle', 7]])
    expect(rules(p, r({ 6300: -30, 8000: -30, 10_000: -30, 12_500: -30 }))).toEqual(['fizz'])
  })

  it('nothing of it is said of a preset without an amp', () => {
    expect(rules(preset([out]), r({}))).toEqual([])
  })
})

describe('what is heard where it is turned', () => {
  const drive = createStage('d', 'drive.mid-hump', { gain: 8 })
  const p = preset([drive, amp, createStage('hall', 'reverb.hall', { mix: 40 }), out])
  const r = (own: Partial<Reading>) => reading({ d: behind(), amp: behind(), hall: behind(), out: behind() }, own)

  it('a drive that changes less than half a decibel is told and switched off; one that changes more is not', () => {
    const off = (changeDb: number) => r({ turned: [{ stage: 'd', param: null, value: 0, changeDb }] })
    const [finding] = find(p, off(0.3))
    expect(finding).toMatchObject({ rule: 'drive-changes-nothing', where: ['d'] })
    expect(mended(p, finding).snapshots[0].stages.d).toEqual({ on: false })
    expect(rules(p, off(0.6))).toEqual([])
  })

  it('a knob in its dead travel is turned down to where it was heard alike', () => {
    const down = (changeDb: number) => r({ turned: [{ stage: 'd', param: 'gain', value: 6, changeDb }] })
    const [finding] = find(p, down(0.2))
    expect(finding).toMatchObject({ rule: 'dead-travel', amount: { value: 0.3 } })
    expect(mended(p, finding).snapshots[0].stages.d).toEqual({ params: { gain: 6 } })
    expect(rules(p, down(0.5))).toEqual([])
  })

  it('a reverb that leaves 8 of 30 dB of the gaps is told, one that leaves 11, or a wash that is meant, is not', () => {
    const gaps = (gapDb: number, dryGapDb = 30) => r({ gapDb, dryGapDb })
    const [finding] = find(p, gaps(8))
    expect(finding).toMatchObject({ rule: 'reverb-fills-gaps', where: ['hall'], amount: { value: 22 } })
    expect(mended(p, finding).snapshots[0].stages.hall).toEqual({ params: { mix: 20 } })
    expect(rules(p, gaps(11))).toEqual([])
    // a riff without gaps has none to fill
    expect(rules(p, gaps(8, 12))).toEqual([])
    expect(rules({ ...p, snapshots: [{ ...p.snapshots[0], role: 'ambience' }] }, gaps(8))).toEqual([])
  })

  it('one note that jumps out is cut narrowly behind the cabinet, or by the equaliser that is there', () => {
    const cabs = preset([amp, createStage('cab', 'cabinet'), out])
    const neck = (db: number) => reading({ amp: behind(), cab: behind(), out: behind() }, { neck: { note: 'A4', hz: 2_200, db } })
    const [finding] = find(cabs, neck(8.1))
    expect(finding).toMatchObject({ rule: 'harsh-notes', hz: 2_200, amount: { value: 8.1 } })
    const next = mended(cabs, finding)
    expect(next.chain.map((n) => (n.kind === 'stage' ? n.model : ''))).toEqual(['amp.lantern', 'cabinet', 'eq.parametric', 'output'])
    expect(Object.values(next.snapshots[0].stages)).toEqual([{ params: { bell3: 2_200, q3: 4, gain3: -4.1 } }])
    expect(rules(cabs, neck(7.9))).toEqual([])
    // a free equaliser in front of the amp is no place for it, one behind it is
    const eq = createStage('eq', 'eq.parametric')
    const [before] = find(preset([eq, amp, createStage('cab', 'cabinet'), out]), neck(8.1))
    expect(before.where).toEqual(['cab'])
    const [behindIt] = find(preset([amp, createStage('cab', 'cabinet'), eq, out]), neck(8.1))
    expect(behindIt.where).toEqual(['eq'])
  })
})

describe('lanes and sides', () => {
  const split: ChainNode = { kind: 'parallel', id: 'p', lanes: [createLane('one', []), createLane('two', [])] }
  const p = preset([amp, split, out])
  const pair = (own: Partial<LanePair>) =>
    reading(
      { amp: behind(), out: behind() },
      { lanes: [{ lanes: ['one', 'two'], lateMs: 0, inverted: false, alike: 0.9, sumDb: 3, ...own }] },
    )

  it('that cancel are told with samples, turned and put in time; those that add up, or are unlike, are let be', () => {
    const quiet = (own: Partial<LanePair>) => ({ ...pair(own), output: { ...pair({}).output, truePeakDbtp: -20 } })
    const [finding] = find(p, quiet({ lateMs: 0.5, inverted: true, sumDb: -8 }))
    expect(finding).toMatchObject({ rule: 'lane-cancels', severity: 'warning', where: ['one', 'two'], amount: { value: 8 } })
    expect(finding.figure).toContain('24 samples')
    expect(mended(p, finding).snapshots[0].stages).toEqual({ one: { params: { delay: 0.5 } }, two: { params: { polarity: 'inverted' } } })
    expect(find(p, pair({ alike: 0.3, sumDb: -2 }))[0].mends).toEqual([])
    // −6 dBTP, 8 dB below the sum of powers, and up to 3 dB above it once in step: 6.01 dB over the ceiling
    const hot = { ...pair({ inverted: true, sumDb: -8 }), output: { ...pair({}).output, truePeakDbtp: -6 } }
    const [loud] = find(p, hot)
    expect(loud.mends[0].label).toBe('Turn its polarity, 6.0 dB down')
    expect(mended(p, loud).snapshots[0].stages.out).toEqual({ params: { level: -6.1 } })
    expect(rules(p, pair({ sumDb: -1.4 }))).toEqual([])
  })

  it('a third octave that loses 9 dB and more in mono is told, the 3 dB of unrelated sides are not', () => {
    const bands_ = (db: number) =>
      reading(
        { amp: behind(), out: behind() },
        {
          monoBands: [
            { hz: 500, db },
            { hz: 1_000, db: -3 },
          ],
        },
      )
    expect(find(p, bands_(-14))[0]).toMatchObject({ rule: 'combs-in-mono', hz: 500, amount: { value: 14 } })
    expect(rules(p, bands_(-8.9))).toEqual([])
  })
})

describe('two snapshots', () => {
  const p = preset([amp, out], 'rhythm', 'rhythm')
  const r = (own: Record<number, number>, lufs = -18) =>
    reading(
      { amp: behind(), out: behind() },
      {
        output: {
          ...reading({}).output,
          integratedLufs: lufs,
          thirdOctave: bands(own),
        },
      },
    )

  it('are told when spectrum and loudness are alike, and not when either differs', () => {
    expect(find(p, r({}), r({ 500: -29 }))[0]).toMatchObject({ rule: 'sound-alike', snapshots: ['s0', 's1'] })
    expect(rules(p, r({}), r({}, -17))).toEqual([])
    expect(rules(p, r({}), r({ 500: -24, 630: -24 }))).toEqual([])
  })
})

describe('what is set aside', () => {
  it('is not asked again until it is clearly worse, and can be taken back', () => {
    const p = preset([amp, createStage('ch', 'modulation.chorus'), out])
    const r = (loss: number) => reading({ amp: behind(), ch: behind(), out: behind() }, { monoLossLu: loss })
    const [finding] = find(p, r(4))
    expect(isAside(p, finding)).toBe(false)
    const kept = applyEdit(p, { type: 'setAside', aside: { finding: findingKey(finding), amount: 4, reason: 'wide on purpose' } })
    expect(readPreset(JSON.parse(JSON.stringify(kept)))).toEqual(kept)
    expect(isAside(kept, find(kept, r(5.4))[0])).toBe(true)
    expect(isAside(kept, find(kept, r(5.6))[0])).toBe(false)
    expect(applyEdit(kept, { type: 'takeBack', finding: findingKey(finding) })).toEqual(p)
    expect(applyEdit(p, { type: 'takeBack', finding: 'nothing' })).toBe(p)
  })
})

it('every rule says why', () => {
  for (const rule of ['noisy', 'gate-never-closes', 'whistle', 'two-cabinets', 'over-ceiling'])
    expect(whyOf(rule).length).toBeGreaterThan(60)
  expect(whyOf('noisy')).not.toBe(whyOf('whistle'))
})
