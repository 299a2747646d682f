import { Delay, Echo, MAX_DELAY_MS, MAX_REVERSE_MS, ReverseDelay } from '@fulgor/core/signal'
import { inertIf, stage, unheardAtNoMix, type StageModel } from './model'
import { doubler } from './modulation'
import { choice, db, hertz, ms, noteValue, pan, percent, type ChoiceSpec, type NumberSpec, type ParamsOf } from './params'

const time = (label: string, initial: number) => ms({ label, short: 'time', min: 1, max: MAX_DELAY_MS, initial, taper: 'log' })
const feedback = (initial: number, max = 98, label = 'Feedback') => percent({ label, short: 'fb', max, initial, loop: true })
const lowCut = (initial: number) => hertz({ label: 'Low cut', short: 'cut', min: 20, max: 1_000, initial })
const highCut = (initial: number, label = 'High cut') => hertz({ label, short: 'top', min: 800, max: 20_000, initial })
const ducking = () => db({ label: 'Ducking', short: 'duck', min: 0, max: 24, initial: 0 })
const mix = (initial: number) => percent({ label: 'Mix', initial })
const sync = [{ time: 'time', note: 'note' }] as const
const swing = (rate: number, depth: number) => ({
  rate: hertz({ label: 'Modulation rate', short: 'rate', min: 0.05, max: 8, initial: rate }),
  depth: ms({ label: 'Modulation depth', short: 'dep', min: 0, max: 10, initial: depth, step: 0.05 }),
})
type Values = Readonly<Record<string, unknown>>
const repeats = ({ time, feedback }: { time: number; feedback: number }) => [{ time, feedback, level: 0 }]
const STILL = 'Its depth is at zero.'
const still = (v: Values) => inertIf(v.depth === 0, ['rate'], STILL)

const digital = stage({
  id: 'delay.digital',
  name: 'Delay',
  family: 'delay',
  purpose: 'Repeats in time with the song; the tone darkens each repeat so that it stays behind the next note.',
  substitute: 'Any digital delay with time, feedback and a high cut; type the time in ms.',
  tags: 'echo clean repeats slapback rhythmic dotted',
  cost: 3,
  charts: ['tail'],
  linear: true,
  headline: ['time', 'mix'],
  sync,
  params: {
    note: noteValue('Note value', 'eighth-dotted'),
    time: time('Time', 375),
    feedback: feedback(30),
    tone: highCut(4_000, 'Tone'),
    mix: mix(20),
  },
  inert: unheardAtNoMix,
  echoes: repeats,
  build: () => new Delay(),
})

interface OneLine {
  time: number
  feedback: number
  lowCut: number
  highCut: number
  ducking: number
  mix: number
  rate?: number
  swing?: number
}
const oneLine = (p: OneLine) => ({
  lines: [
    { time: p.time, feedback: p.feedback, lowCut: p.lowCut, highCut: p.highCut, pan: 0, level: 1, rate: p.rate ?? 1, swing: p.swing ?? 0 },
  ],
  cross: 0,
  flutterRate: 7,
  flutter: 0,
  drive: null,
  ducking: p.ducking,
  mix: p.mix,
})

const tape = stage({
  id: 'delay.tape',
  limitedHeadroom: true,
  name: 'Tape delay',
  family: 'delay',
  purpose: 'Repeats that soften, wobble and saturate; changes of time glide in pitch.',
  substitute: 'A tape delay with wow, flutter and headroom; or a digital one with modulation and a high cut near 4 kHz.',
  tags: 'echo slapback warm vintage wow flutter rockabilly',
  cost: 81,
  charts: ['tail'],
  linear: false,
  headline: ['time', 'mix'],
  sync,
  params: {
    note: noteValue('Note value', 'eighth-dotted'),
    time: time('Time', 375),
    feedback: feedback(38, 110),
    lowCut: lowCut(120),
    highCut: highCut(4_500),
    wow: percent({ label: 'Wow', initial: 30 }),
    flutter: percent({ label: 'Flutter', short: 'flut', initial: 20 }),
    headroom: db({ label: 'Headroom', short: 'head', min: -24, max: 12, initial: -3 }),
    ducking: ducking(),
    mix: mix(22),
  },
  inert: unheardAtNoMix,
  echoes: repeats,
  build: () =>
    new Echo<OneLine & { wow: number; flutter: number; headroom: number }>((p) => ({
      ...oneLine({ ...p, rate: 0.7, swing: 0.025 * p.wow }),
      flutterRate: 7.3,
      flutter: 0.0016 * p.flutter,
      drive: -p.headroom,
    })),
})

const bucket = stage({
  id: 'delay.bucket',
  limitedHeadroom: true,
  name: 'Bucket-brigade delay',
  family: 'delay',
  purpose: 'Dark, round repeats that step behind the playing; short and warm.',
  substitute: 'An analog delay; or a digital one with a high cut near 2.5 kHz.',
  tags: 'echo analog dark warm murky slapback self oscillate',
  cost: 65,
  charts: ['tail'],
  linear: false,
  headline: ['time', 'mix'],
  sync,
  params: {
    note: noteValue('Note value', 'free'),
    time: ms({ label: 'Time', min: 20, max: 800, initial: 320, taper: 'log' }),
    feedback: feedback(42, 108),
    ...swing(0.6, 0),
    headroom: db({ label: 'Headroom', short: 'head', min: -24, max: 12, initial: -6 }),
    ducking: ducking(),
    mix: mix(25),
  },
  inert: (v) => ({ ...unheardAtNoMix(v), ...still(v) }),
  echoes: repeats,
  build: () =>
    // the band that a fixed number of buckets can carry falls with the time (Raffel & Smith, DAFx-10)
    new Echo<Omit<OneLine, 'lowCut' | 'highCut'> & { rate: number; depth: number; headroom: number }>((p) => ({
      ...oneLine({ ...p, lowCut: 90, highCut: Math.min(5_500, 900_000 / p.time), swing: p.depth }),
      drive: -p.headroom,
    })),
})

type Side<N extends 1 | 2> = Readonly<
  Record<`note${N}`, ChoiceSpec> & Record<`${'time' | 'feedback' | 'pan' | 'level' | 'tone' | 'rate' | 'depth'}${N}`, NumberSpec>
>
const side = <N extends 1 | 2>(n: N, initial: { note: string; time: number; pan: number; level: number }) =>
  ({
    [`note${n}`]: noteValue(`Note value ${n}`, initial.note),
    [`time${n}`]: time(`Time ${n}`, initial.time),
    [`feedback${n}`]: feedback(25, 98, `Feedback ${n}`),
    [`pan${n}`]: pan({ label: `Pan ${n}`, initial: initial.pan }),
    [`level${n}`]: db({ label: `Level ${n}`, short: `l${n}`, min: -24, max: 0, initial: initial.level }),
    [`tone${n}`]: highCut(4_500, `Tone ${n}`),
    [`rate${n}`]: hertz({ label: `Modulation rate ${n}`, short: `r${n}`, min: 0.05, max: 8, initial: 0.5 }),
    [`depth${n}`]: ms({ label: `Modulation depth ${n}`, short: `d${n}`, min: 0, max: 10, initial: 0, step: 0.05 }),
  }) as unknown as Side<N>

/** How the second time may hang on the first: as a share of it. Golden echoes never fall together (common practice, no source). */
const RATIOS = { '3:4': 3 / 4, '2:3': 2 / 3, '1:2': 1 / 2, golden: 2 / (1 + Math.sqrt(5)) }

const dualParams = {
  ...side(1, { note: 'quarter', time: 500, pan: -60, level: 0 }),
  relation: choice({
    label: 'Second time',
    short: '2nd',
    options: [
      ['free', 'Its own'],
      ['3:4', 'Three to four'],
      ['2:3', 'Two to three'],
      ['1:2', 'Half of the first'],
      ['golden', 'Golden, 0.618'],
      ['offset', 'Offset in ms'],
    ],
    initial: 'free',
    change: 'resolve',
  }),
  offset: ms({ label: 'Offset', short: 'off', min: -100, max: 100, initial: 20 }),
  ...side(2, { note: 'eighth-dotted', time: 375, pan: 60, level: -2 }),
  ducking: ducking(),
  mix: mix(22),
}

const dual = stage({
  id: 'delay.dual',
  name: 'Dual delay',
  family: 'delay',
  purpose: 'Two delays in one, each with a time, feedback, place and tone of its own.',
  substitute: 'Two delay blocks side by side, panned apart.',
  tags: 'echo two delays stereo rhythmic wide golden',
  cost: 16,
  charts: ['tail'],
  linear: true,
  headline: ['time1', 'time2'],
  sync: [
    { time: 'time1', note: 'note1' },
    { time: 'time2', note: 'note2' },
  ],
  params: dualParams,
  derived: ({ relation, offset, time1 }) => {
    if (relation === 'offset') return { time2: time1 + offset }
    return relation === 'free' ? {} : { time2: time1 * RATIOS[relation] }
  },
  echoes: (v) => ([1, 2] as const).map((n) => ({ time: v[`time${n}`], feedback: v[`feedback${n}`], level: v[`level${n}`] })),
  inert: (v) => ({
    ...inertIf(v.relation !== 'free', ['note2'], 'The second time hangs on the first.'),
    ...inertIf(v.relation !== 'offset', ['offset'], 'The second time is not an offset from the first.'),
    ...unheardAtNoMix(v),
    ...still(v),
  }),
  build: () =>
    new Echo<ParamsOf<typeof dualParams>>((p) => ({
      ...oneLine({ time: 0, feedback: 0, lowCut: 20, highCut: 20_000, ducking: p.ducking, mix: p.mix }),
      lines: ([1, 2] as const).map((n) => ({
        time: p[`time${n}`],
        feedback: p[`feedback${n}`],
        lowCut: 60,
        highCut: p[`tone${n}`],
        pan: p[`pan${n}`],
        level: Math.pow(10, p[`level${n}`] / 20),
        rate: p[`rate${n}`],
        swing: p[`depth${n}`],
      })),
    })),
})

const pingPong = stage({
  id: 'delay.ping-pong',
  name: 'Ping-pong delay',
  family: 'delay',
  purpose: 'Repeats that jump from side to side; in a mono house they are plain repeats.',
  substitute: 'A ping-pong delay at the same time.',
  tags: 'echo stereo bounce left right wide',
  cost: 17,
  charts: ['tail'],
  linear: true,
  headline: ['time', 'mix'],
  sync,
  params: {
    note: noteValue('Note value', 'eighth'),
    time: time('Time', 250),
    feedback: feedback(40),
    width: percent({ label: 'Width', initial: 100 }),
    lowCut: lowCut(120),
    highCut: highCut(5_000),
    ducking: ducking(),
    mix: mix(22),
  },
  inert: unheardAtNoMix,
  echoes: repeats,
  build: () =>
    new Echo<OneLine & { width: number }>((p) => ({
      ...oneLine(p),
      lines: [-1, 1].map((where) => ({
        time: p.time,
        feedback: p.feedback,
        lowCut: p.lowCut,
        highCut: p.highCut,
        pan: where * p.width,
        level: 1,
        rate: 1,
        swing: 0,
      })),
      cross: 1,
    })),
})

const diffused = stage({
  id: 'delay.diffused',
  name: 'Diffused delay',
  family: 'delay',
  purpose: 'Repeats that blur into a cloud, more with each turn: between a delay and a reverb.',
  substitute: 'A delay with diffusion or smear; or a delay into a short, dense reverb.',
  tags: 'echo wash ambient smear pad reverb ambience',
  cost: 19,
  charts: ['tail'],
  linear: true,
  headline: ['time', 'diffusion'],
  sync,
  params: {
    note: noteValue('Note value', 'quarter'),
    time: time('Time', 500),
    feedback: feedback(45),
    diffusion: percent({ label: 'Diffusion', short: 'diff', initial: 70 }),
    lowCut: lowCut(120),
    highCut: highCut(4_500),
    ...swing(0.5, 0.6),
    ducking: ducking(),
    mix: mix(25),
  },
  inert: (v) => ({ ...unheardAtNoMix(v), ...still(v) }),
  echoes: repeats,
  build: () =>
    new Echo<OneLine & { rate: number; depth: number; diffusion: number }>((p) => {
      const settings = oneLine({ ...p, swing: p.depth })
      return { ...settings, lines: settings.lines.map((line) => ({ ...line, diffusion: p.diffusion })) }
    }),
})

const reverse = stage({
  id: 'delay.reverse',
  name: 'Reverse delay',
  family: 'delay',
  purpose: 'Plays back what was just played, backwards, piece by piece.',
  substitute: 'A reverse delay with the same length of piece.',
  tags: 'echo backwards ambient psychedelic swell',
  cost: 6,
  charts: ['tail'],
  linear: false,
  headline: ['time', 'mix'],
  sync,
  params: {
    note: noteValue('Note value', 'half'),
    time: ms({ label: 'Piece', short: 'time', min: 80, max: MAX_REVERSE_MS, initial: 800, taper: 'log' }),
    feedback: feedback(20),
    tone: highCut(6_000, 'Tone'),
    mix: mix(40),
  },
  inert: unheardAtNoMix,
  echoes: repeats,
  build: () => new ReverseDelay(),
})

export const delays: readonly StageModel[] = [digital, tape, bucket, dual, pingPong, diffused, reverse, doubler]
