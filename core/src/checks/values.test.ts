import { describe, expect, it } from 'vitest'
import {
  applyEdit,
  blankPreset,
  createLane,
  createStage,
  readPreset,
  type ChainNode,
  type ParamMap,
  type Preset,
} from '@fulgor/core/preset'
import { maskingAmong } from '@fulgor/core/stage'
import { checkPreset, type Finding } from '.'

let made = 0
const newId = () => `new${++made}`
const RULES = [
  'gate-behind-tail',
  'dry-in-lane',
  'late-lane',
  'tail-cut',
  'time-off-tempo',
  'two-modulations',
  'delay-drowns',
  'cut-misread',
  'tremolo-filled',
  'riff-tuning',
]
const preset = (...chain: ChainNode[]): Preset => ({ ...blankPreset('x'), tempo: 120, chain: [...chain, createStage('out', 'output')] })
const find = (p: Preset): Finding[] => checkPreset(p, newId).filter((f) => RULES.includes(f.rule))
const rules = (p: Preset) => find(p).map((f) => f.rule)
/** Each mend leaves nothing of what was found. */
function mendAll(p: Preset): void {
  for (const { rule, mends } of find(p))
    for (const { label, edits } of mends) {
      const next = applyEdit(p, { type: 'all', edits })
      expect(rules(next), `${rule}: ${label}`).not.toContain(rule)
      expect(readPreset(JSON.parse(JSON.stringify(next)))).toEqual(next)
    }
}
const delay = (params: ParamMap) => createStage('delay', 'delay.digital', { mix: 5, feedback: 10, ...params })
const split = (...lanes: [string, ...ChainNode[]][]): ChainNode => ({
  kind: 'parallel',
  id: 'split',
  lanes: lanes.map(([id, ...nodes]) => createLane(id, nodes)),
})

describe('a gate and tails', () => {
  it('is told behind a reverb that is on, and moved or keyed from the dry guitar; before it, or keyed, it is not', () => {
    const p = preset(createStage('hall', 'reverb.hall'), createStage('g', 'gate'))
    expect(find(p)[0]).toMatchObject({ rule: 'gate-behind-tail', where: ['g'], severity: 'warning' })
    mendAll(p)
    expect(rules(preset(createStage('g', 'gate'), createStage('hall', 'reverb.hall')))).toEqual([])
    expect(rules(preset(createStage('hall', 'reverb.hall'), createStage('g', 'gate', { key: 'dry' })))).toEqual([])
    expect(rules(preset({ ...createStage('hall', 'reverb.hall'), on: false }, createStage('g', 'gate')))).toEqual([])
  })

  it('tails that end at once are told where a snapshot switches them off', () => {
    const two = (trails: string): Preset => {
      const p = preset(createStage('hall', 'reverb.hall', { trails }))
      return { ...p, snapshots: [...p.snapshots, { id: 'dry', name: 'Dry', stages: { hall: { on: false } } }] }
    }
    expect(rules(two('off'))).toEqual(['tail-cut'])
    mendAll(two('off'))
    expect(rules(two('on'))).toEqual([])
  })
})

describe('a low cut', () => {
  const cut = (lowSlope: string, lowCut: number) => preset(createStage('eq', 'eq.parametric', { lowSlope, lowCut }))

  it('is told by what it takes of the low E: 24 dB per octave at 164.8 Hz take 10 log₁₀(1 + 2⁸) = 24.1 dB', () => {
    expect(find(cut('24', 165))[0]).toMatchObject({ rule: 'cut-misread', where: ['eq'] })
    expect(find(cut('24', 165))[0].amount?.value).toBeCloseTo(24.1, 1)
    mendAll(cut('24', 165))
    // an octave and a half below it takes 10 log₁₀(1 + 2⁻⁶) = 0.07 dB
    expect(find(cut('12', 29))[0]?.figure).toContain('0.1 dB at the low E')
    mendAll(cut('12', 29))
  })

  it('is not told where it does what its number says', () => {
    expect(rules(cut('12', 80))).toEqual([])
    expect(rules(cut('24', 90))).toEqual([])
    expect(rules(cut('24', 30))).toEqual([])
    expect(rules(cut('off', 300))).toEqual([])
  })
})

describe('a tremolo', () => {
  const tremolo = createStage('t', 'modulation.tremolo', { note: 'free', rate: 4 })
  // 375 ms are one and a half turns of 4 Hz
  const echo = (time: number, mix = 40) => delay({ note: 'free', time, mix, feedback: 0 })

  it('whose dips are filled by repeats is told and moved behind them; whole turns later, softly, or behind the delay it is not', () => {
    const p = preset(tremolo, echo(375))
    expect(find(p).map((f) => [f.rule, f.where])).toContainEqual(['tremolo-filled', ['t', 'delay']])
    mendAll(p)
    expect(rules(preset(tremolo, echo(500)))).not.toContain('tremolo-filled')
    expect(rules(preset(tremolo, echo(375, 8)))).not.toContain('tremolo-filled')
    expect(rules(preset(echo(375), tremolo))).not.toContain('tremolo-filled')
  })
})

describe('lanes', () => {
  it('an effect below 100 % beside a dry lane is told, alone or at 100 % it is not', () => {
    const p = (mix: number) => preset(split(['dry'], ['wet', createStage('plate', 'reverb.plate', { mix })]))
    expect(find(p(60))[0]).toMatchObject({ rule: 'dry-in-lane', where: ['plate'], amount: { value: 40, unit: '%' } })
    mendAll(p(60))
    expect(rules(p(100))).toEqual([])
    expect(rules(preset(createStage('plate', 'reverb.plate', { mix: 60 })))).toEqual([])
  })

  it('a shifted voice beside a lane without is late; beside another shifted one it is not', () => {
    const voice = (id: string) => createStage(id, 'pitch.octave-down', { mix: 100 })
    const late = preset(split(['dry'], ['low', voice('v')]))
    expect(rules(late)).toContain('late-lane')
    mendAll(late)
    expect(rules(preset(split(['a', voice('v')], ['b', voice('w')])))).not.toContain('late-lane')
  })
})

describe('times', () => {
  it('520 ms at 120 bpm misses the quarter of 500 by 20, 80 after four; 505 is meant, 440 is another rhythm', () => {
    const p = preset(delay({ note: 'free', time: 520 }))
    const [finding] = find(p)
    expect(finding).toMatchObject({ rule: 'time-off-tempo', amount: { unit: 'ms' } })
    expect(finding.amount?.value).toBeCloseTo(20, 6)
    expect(finding.reason).toContain('80.0 ms')
    mendAll(p)
    expect(rules(preset(delay({ note: 'free', time: 505 })))).toEqual([])
    expect(rules(preset(delay({ note: 'free', time: 440 })))).toEqual([])
    expect(rules(preset(delay({ note: 'quarter' })))).toEqual([])
  })

  it('two modulations are told in a rhythm sound and not in ambience', () => {
    const both = [createStage('c', 'modulation.chorus'), createStage('p', 'modulation.phaser')]
    const p = preset(...both)
    expect(find(p)[0]).toMatchObject({ rule: 'two-modulations', where: ['c', 'p'] })
    mendAll(p)
    expect(rules({ ...p, snapshots: [{ ...p.snapshots[0], role: 'ambience' }] })).toEqual([])
  })
})

describe('repeats on the notes', () => {
  it('add up over all notes before: repeats at 500 and 1,000 ms, both 6 dB down, on notes every 500 ms are 3 dB under from the third on', () => {
    // two equal powers are 3.01 dB more than one
    const pattern = [
      { ms: 500, db: -6 },
      { ms: 1_000, db: -6 },
    ]
    expect(maskingAmong(pattern, [0, 500, 1_000, 1_500, 2_000])).toBeCloseTo(2.99, 2)
    expect(maskingAmong(pattern, [0, 500])).toBeCloseTo(6, 6)
  })

  it('50 ms behind a note they still cover it, 100 ms behind they do not', () => {
    expect(maskingAmong([{ ms: 550, db: -2 }], [0, 500])).toBeCloseTo(2, 6)
    expect(maskingAmong([{ ms: 600, db: -2 }], [0, 500])).toBeNull()
  })

  it('are told of a loud delay on the eighths of a riff, and its mix lowered until they are clear', () => {
    const known = preset(delay({ note: 'eighth', mix: 50, feedback: 60 }))
    expect(find(known)[0]).toMatchObject({ rule: 'delay-drowns', where: ['delay'], severity: 'note' })
    mendAll(known)
    expect(rules({ ...known, snapshots: [{ ...known.snapshots[0], role: 'ambience' }] })).toEqual([])
  })
})

describe('the tuning of a riff', () => {
  const guitarIn = (notes: readonly string[]): Preset => {
    const p = preset()
    const [guitar] = p.guitars
    return { ...p, guitars: [{ ...guitar, strings: notes.map((note) => ({ note, cents: 0 })) }] }
  }
  const E_STANDARD = ['E2', 'A2', 'D3', 'G3', 'B3', 'E4']
  const DROP_D = ['D2', 'A2', 'D3', 'G3', 'B3', 'E4']

  it('is told where the guitar is tuned otherwise, with the string that is farthest off, and taken away', () => {
    const p = { ...guitarIn(E_STANDARD), riff: { id: 'low-riff', strength: 'hard', tuning: 'drop-c' } as const }
    const [finding] = find(p)
    expect(finding).toMatchObject({ rule: 'riff-tuning', severity: 'note', amount: { value: 400, unit: 'cents' } })
    expect(finding.figure).toContain('the riff is in Drop C')
    expect(finding.figure).toContain('E standard; its strings lie up to 4 semitones lower.')
    mendAll(p)
  })

  it('is not told where both are alike, or the riff goes with the guitar', () => {
    const riff = { id: 'low-riff', strength: 'hard', tuning: 'drop-d' } as const
    expect(rules({ ...guitarIn(DROP_D), riff })).toEqual([])
    expect(rules({ ...guitarIn(DROP_D), riff: { id: 'low-riff', strength: 'hard' } })).toEqual([])
  })

  it('of one snapshot is told and mended there; of a recording by the guitar that it was made on', () => {
    const p = guitarIn(E_STANDARD)
    const [snapshot] = p.snapshots
    const own = { ...p, snapshots: [{ ...snapshot, riff: { id: 'stabs', strength: 'hard', tuning: 'drop-d' } as const }] }
    expect(find(own)[0].snapshots).toEqual([snapshot.id])
    mendAll(own)
    const low = { ...p.guitars[0], id: 'low', name: 'Low one', strings: DROP_D.map((note) => ({ note, cents: 0 })) }
    const recorded = {
      ...p,
      guitars: [...p.guitars, low],
      riff: { id: 'a'.repeat(64), strength: 'hard', made: { guitar: 'low', position: 0 } } as const,
    }
    expect(find(recorded)[0].figure).toContain('Drop D (recorded on Low one)')
    expect(find(recorded)[0].mends).toEqual([])
  })
})
