import { adapted, EnvelopeFilter, PITCH_LATENCY_MS, PitchShift, Resonance, Wah } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { cents, choice, db, hertz, knob, ms, percent, quality, semitones } from './params'

const wah = stage({
  id: 'filter.wah',
  name: 'Wah by position',
  family: 'filter',
  purpose: 'A band swept by the foot from 400 to 2,200 Hz.',
  substitute: 'A wah block with its position on a pedal.',
  tags: 'wah pedal sweep vocal funk',
  cost: 7,
  charts: ['response'],
  linear: true,
  headline: ['position', 'q'],
  params: {
    position: knob({ label: 'Position', short: 'pos', initial: 5 }),
    q: quality({ label: 'Width', min: 1, max: 12, initial: 4 }),
    mix: percent({ label: 'Mix', initial: 100 }),
  },
  build: () => new Wah(),
})

const resonance = stage({
  id: 'filter.resonance',
  name: 'Parked resonance',
  family: 'filter',
  purpose: 'A wah left in one place: a vocal peak with a mix of its own in front of a driven amp.',
  substitute: 'A wah at a fixed position, or one narrow EQ band with 6 to 12 dB before the amp.',
  tags: 'cocked wah honk nasal contour fixed',
  cost: 2,
  charts: ['response'],
  linear: true,
  headline: ['frequency', 'mix'],
  params: {
    frequency: hertz({ label: 'Frequency', short: 'f', min: 200, max: 4_000, initial: 800 }),
    q: quality({ label: 'Width', min: 0.5, max: 10, initial: 2.5 }),
    mix: percent({ label: 'Mix', initial: 50 }),
  },
  inert: (v) => inertIf(v.mix === 0, ['frequency', 'q'], 'The mix is at 0 %.'),
  build: () => new Resonance(),
})

const envelope = stage({
  id: 'filter.envelope',
  name: 'Envelope filter',
  family: 'filter',
  purpose: 'A band that follows the picking: funk from soft to loud; with From above To it closes instead.',
  substitute: 'An auto-wah before any compressor.',
  tags: 'auto wah touch funk quack envelope',
  cost: 4,
  charts: [],
  linear: false,
  headline: ['sensitivity', 'q'],
  params: {
    sensitivity: db({ label: 'Sensitivity', short: 'sens', min: 0, max: 40, initial: 18 }),
    from: hertz({ label: 'From', min: 100, max: 4_000, initial: 250 }),
    to: hertz({ label: 'To', min: 100, max: 4_000, initial: 2_000 }),
    q: quality({ label: 'Width', min: 1, max: 12, initial: 4 }),
    attack: ms({ label: 'Attack', min: 1, max: 100, initial: 5, taper: 'log' }),
    release: ms({ label: 'Release', short: 'rel', min: 20, max: 1000, initial: 160, taper: 'log' }),
    mix: percent({ label: 'Mix', initial: 100 }),
  },
  inert: (v) => inertIf(v.from === v.to, ['sensitivity', 'attack', 'release'], 'From and To are alike, so nothing is swept.'),
  build: () => new EnvelopeFilter(),
})

export const filters: readonly StageModel[] = [wah, resonance, envelope]

const late = { latencyMs: PITCH_LATENCY_MS }
const tone = (initial: number) => hertz({ label: 'Tone', min: 500, max: 20_000, initial })

const octaveDown = stage({
  id: 'pitch.octave-down',
  name: 'Octave down',
  family: 'pitch',
  purpose: 'A voice an octave below, darkened, for a bass lane or a thick line; single notes track best.',
  substitute: 'An octaver, or a pitch block at −12.',
  tags: 'octaver sub bass low octave thicken',
  cost: 25,
  charts: [],
  linear: false,
  headline: ['mix', 'tone'],
  ...late,
  params: {
    octaves: choice({
      label: 'Down by',
      short: 'down',
      options: [
        ['1', 'One octave'],
        ['2', 'Two octaves'],
      ],
      initial: '1',
      change: 'glide',
    }),
    tone: tone(2_500),
    lowCut: hertz({ label: 'Low cut', short: 'cut', min: 20, max: 500, initial: 40 }),
    dryLevel: db({ label: 'Dry', min: -40, max: 6, initial: 0 }),
    wetLevel: db({ label: 'Octave', short: 'oct', min: -40, max: 6, initial: 0 }),
    mix: percent({ label: 'Mix', initial: 40 }),
  },
  build: () =>
    mapped((p: { octaves: string; tone: number; lowCut: number; dryLevel: number; wetLevel: number; mix: number }) => ({
      ...p,
      cents: -1200 * Number(p.octaves),
      apart: 0,
    })),
})

const octaveUp = stage({
  id: 'pitch.octave-up',
  name: 'Octave up',
  family: 'pitch',
  purpose: 'A voice an octave above, for shimmer into a reverb or a twelve-string hint.',
  substitute: 'A pitch block at +12.',
  tags: 'octaver twelve string shimmer high octave organ',
  cost: 20,
  charts: [],
  linear: false,
  headline: ['mix', 'tone'],
  ...late,
  params: { tone: tone(6_000), mix: percent({ label: 'Mix', initial: 30 }) },
  build: () => mapped((p: { tone: number; mix: number }) => ({ ...p, cents: 1200, apart: 0 })),
})

const interval = stage({
  id: 'pitch.interval',
  name: 'Interval',
  family: 'pitch',
  purpose: 'A second voice a fixed interval away, in semitones and cents; also a capo, or tuning down by ear.',
  substitute: 'A pitch shifter; at 100 % mix it is a transposer.',
  tags: 'harmony harmoniser capo detuned drop tuning fifth transpose',
  cost: 16,
  charts: [],
  linear: false,
  headline: ['interval', 'mix'],
  ...late,
  params: {
    interval: semitones({ label: 'Interval', short: 'int', min: -24, max: 12, initial: 7 }),
    fine: cents({ label: 'Fine', min: -100, max: 100, initial: 0 }),
    tone: tone(12_000),
    mix: percent({ label: 'Mix', initial: 35 }),
  },
  build: () =>
    mapped((p: { interval: number; fine: number; tone: number; mix: number }) => ({
      cents: Math.max(-2400, Math.min(1200, p.interval * 100 + p.fine)),
      apart: 0,
      tone: p.tone,
      mix: p.mix,
    })),
})

const detune = stage({
  id: 'pitch.detune',
  name: 'Detune',
  family: 'pitch',
  purpose: 'A copy a few cents lower left and higher right: wide without the swing of a chorus.',
  substitute: 'A detune or micro-pitch block; ±6 to 10 cents.',
  tags: 'thicken widen wide micro pitch double stereo eighties',
  cost: 12,
  charts: [],
  linear: false,
  headline: ['cents', 'mix'],
  ...late,
  params: {
    cents: cents({ label: 'Apart', min: 0, max: 50, initial: 8 }),
    tone: tone(12_000),
    mix: percent({ label: 'Mix', initial: 40 }),
  },
  build: () => mapped((p: { cents: number; tone: number; mix: number }) => ({ ...p, cents: -p.cents, apart: 2 * p.cents })),
})

type PitchParams = Parameters<PitchShift['set']>[0]

const mapped = <P>(read: (p: P) => PitchParams) => adapted(new PitchShift(), read)

export const pitches: readonly StageModel[] = [octaveDown, octaveUp, interval, detune]
