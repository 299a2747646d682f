import { adapted, ModulatedDelay, PHASER, PhaseShifter, Rotary, Tremolo, VIBE } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { choice, hertz, ms, noteValue, percent, seconds } from './params'

const rate = (initial: number, max = 12) => hertz({ label: 'Rate', min: 0.05, max, initial })
const follows = () => noteValue('One turn lasts', 'free', 'Hz')
const sync = [{ time: 'rate', note: 'note' }] as const
const depthMs = (initial: number, max: number) => ms({ label: 'Depth', short: 'dep', min: 0, max, initial, step: 0.1 })
const delayMs = (initial: number, min: number, max: number) =>
  ms({ label: 'Delay', short: 'dly', min, max, initial, step: 0.1, taper: 'log' })
const depth = (initial: number) => percent({ label: 'Depth', short: 'dep', initial })
const mix = (initial: number) => percent({ label: 'Mix', initial })
const spread = (initial: number) => percent({ label: 'Spread', initial })
const feedback = (initial: number, max = 90) => percent({ label: 'Feedback', short: 'fb', max, initial })

const STILL = 'The depth is at zero, so nothing swings.'
type Values = Readonly<Record<string, unknown>>
const still = (v: Values) => inertIf(v.depth === 0, ['note', 'rate'], STILL)
const unheard = (v: Values, keys: readonly string[]) => inertIf(v.mix === 0, keys, 'The mix is at 0 %.')

const chorus = stage({
  id: 'modulation.chorus',
  name: 'Chorus',
  family: 'modulation',
  purpose: 'A copy that drifts in pitch: width and shimmer on clean sounds.',
  substitute: 'A chorus with rate, depth and mix; swing of the delay 2 to 5 ms.',
  tags: 'chorus dimension shimmer eighties clean widen thicken',
  cost: 23,
  charts: [],
  linear: false,
  headline: ['rate', 'mix'],
  sync,
  params: {
    form: choice({
      label: 'Form',
      options: [
        ['single', 'One copy a side'],
        ['dimension', 'Dimension: copies against each other'],
      ],
      initial: 'single',
      change: 'glide',
    }),
    note: follows(),
    rate: rate(0.8),
    depth: depthMs(2, 8),
    delay: delayMs(12, 5, 40),
    tone: hertz({ label: 'Tone', min: 800, max: 20_000, initial: 20_000 }),
    spread: spread(100),
    mix: mix(40),
  },
  inert: (v) => ({
    ...still(v),
    ...unheard(v, ['form', 'note', 'rate', 'depth', 'delay', 'tone', 'spread']),
    ...inertIf(v.form === 'dimension', ['spread'], 'In this form the sides always swing against each other.'),
  }),
  build: () =>
    bent((p: { form: string; rate: number; depth: number; delay: number; tone: number; spread: number; mix: number }) => ({
      ...p,
      feedback: 0,
      dimension: p.form === 'dimension',
    })),
})

const flanger = stage({
  id: 'modulation.flanger',
  name: 'Flanger',
  family: 'modulation',
  purpose: 'A comb that sweeps through the spectrum; with feedback it rings.',
  substitute: 'A flanger; set its manual or delay to the same ms.',
  tags: 'flange jet sweep whoosh metallic',
  cost: 10,
  charts: [],
  linear: false,
  headline: ['rate', 'feedback'],
  sync,
  params: {
    note: follows(),
    rate: rate(0.25),
    depth: depthMs(1.6, 5),
    delay: delayMs(2.2, 0.3, 10),
    feedback: feedback(45),
    polarity: choice({
      label: 'Feedback polarity',
      short: 'pol',
      options: [
        ['plus', 'Positive'],
        ['minus', 'Negative'],
      ],
      initial: 'plus',
      change: 'glide',
    }),
    spread: spread(30),
    mix: mix(50),
  },
  inert: (v) => ({
    ...still(v),
    ...unheard(v, ['note', 'rate', 'depth', 'delay', 'feedback', 'spread']),
    ...(v.feedback === 0 ? { polarity: 'There is no feedback to turn over.' } : {}),
  }),
  build: () =>
    bent((p: { rate: number; depth: number; delay: number; feedback: number; polarity: string; spread: number; mix: number }) => ({
      ...p,
      feedback: p.polarity === 'minus' ? -p.feedback : p.feedback,
    })),
})

const vibrato = stage({
  id: 'modulation.vibrato',
  name: 'Vibrato',
  family: 'modulation',
  purpose: 'Pitch that swings, without the dry sound beside it.',
  substitute: 'A chorus at 100 % mix.',
  tags: 'vibrato pitch wobble warble lo-fi seasick',
  cost: 10,
  charts: [],
  linear: false,
  headline: ['rate', 'depth'],
  sync,
  params: { note: follows(), rate: rate(5), depth: depthMs(0.6, 3) },
  inert: still,
  build: () => bent((p: { rate: number; depth: number }) => ({ ...p, delay: 4, feedback: 0, spread: 0, mix: 100 })),
})

const phaser = stage({
  id: 'modulation.phaser',
  name: 'Phaser',
  family: 'modulation',
  purpose: 'Notches that wander: gentle movement on chords, a voice in front of a driven amp.',
  substitute: 'A phaser with the same number of stages; two stages make one notch.',
  tags: 'phase swirl sweep seventies funk psychedelic',
  cost: 12,
  charts: [],
  linear: false,
  headline: ['rate', 'feedback'],
  sync,
  params: {
    note: follows(),
    rate: rate(0.4, 8),
    depth: depth(80),
    feedback: feedback(30, 85),
    stages: choice({
      label: 'Stages',
      options: [
        ['4', 'Four'],
        ['6', 'Six'],
        ['8', 'Eight'],
      ],
      initial: '4',
    }),
    intensity: percent({ label: 'Intensity', short: 'int', initial: 100 }),
    spread: spread(0),
    mix: mix(50),
  },
  inert: (v) => ({
    ...still(v),
    ...unheard(v, ['note', 'rate', 'depth', 'feedback', 'stages', 'intensity', 'spread']),
    ...inertIf(v.intensity === 0, ['note', 'rate', 'depth', 'stages', 'spread'], 'At an intensity of 0 % there are no notches.'),
  }),
  build: () => new PhaseShifter(PHASER),
})

const vibe = stage({
  id: 'modulation.vibe',
  name: 'Vibe',
  family: 'modulation',
  purpose: 'A throbbing, lopsided swirl from four unequal stages and a lamp.',
  substitute: 'A vibe; or a slow phaser with few stages and no feedback into a throbbing tremolo.',
  tags: 'vibe swirl throb pulsing sixties psychedelic',
  cost: 13,
  charts: [],
  linear: false,
  headline: ['rate', 'depth'],
  sync,
  params: { note: follows(), rate: rate(1.4, 8), depth: depth(70), mix: mix(50) },
  inert: (v) => ({ ...still(v), ...unheard(v, ['note', 'rate', 'depth']) }),
  build: () => adapted(new PhaseShifter(VIBE), (p: { rate: number; depth: number; mix: number }) => ({ ...p, feedback: 0 })),
})

const tremolo = stage({
  id: 'modulation.tremolo',
  name: 'Tremolo',
  family: 'modulation',
  purpose: 'Level that swings; throb is the lopsided one of a lamp, spread makes it wander from side to side.',
  substitute: 'A tremolo with a choice of wave; a panner where it is spread.',
  tags: 'trem pulse throb surf amp volume',
  cost: 2,
  charts: [],
  linear: false,
  headline: ['rate', 'depth'],
  sync,
  params: {
    note: follows(),
    rate: rate(4.5, 20),
    depth: depth(55),
    shape: choice({
      label: 'Wave',
      options: [
        ['sine', 'Sine'],
        ['triangle', 'Triangle'],
        ['throb', 'Throb'],
        ['square', 'Square'],
      ],
      initial: 'sine',
      change: 'glide',
    }),
    spread: spread(0),
  },
  inert: (v) => inertIf(v.depth === 0, ['note', 'rate', 'shape', 'spread'], STILL),
  build: () => new Tremolo(),
})

const rotary = stage({
  id: 'modulation.rotary',
  name: 'Rotary speaker',
  family: 'modulation',
  purpose: 'A turning horn and drum; the change from slow to fast is half of it.',
  substitute: 'A rotary block with slow, fast and ramp.',
  tags: 'rotating speaker organ swirl horn drum',
  cost: 13,
  charts: [],
  linear: false,
  headline: ['speed', 'balance'],
  params: {
    speed: choice({
      label: 'Speed',
      options: [
        ['stop', 'Stop'],
        ['slow', 'Slow'],
        ['fast', 'Fast'],
      ],
      initial: 'slow',
      change: 'glide',
    }),
    ramp: seconds({ label: 'Ramp', min: 0.1, max: 8, initial: 1.5 }),
    balance: percent({ label: 'Horn over drum', short: 'horn', initial: 55 }),
    depth: depth(80),
    mix: mix(100),
  },
  inert: (v) => unheard(v, ['speed', 'ramp', 'balance', 'depth']),
  build: () => new Rotary(),
})

const doubler = stage({
  id: 'delay.doubler',
  name: 'Doubler',
  family: 'delay',
  purpose: 'One late, drifting copy to the other side: a stand-in for a second take.',
  substitute: 'A short delay of 10 to 30 ms panned away, slightly modulated; check it in mono.',
  tags: 'double track second take thicken widen wide automatic',
  cost: 12,
  charts: ['tail'],
  linear: false,
  headline: ['delay', 'mix'],
  sync,
  params: { delay: delayMs(18, 5, 50), note: follows(), rate: rate(0.35), depth: depthMs(0.8, 3), spread: spread(60), mix: mix(45) },
  inert: (v) => ({ ...still(v), ...unheard(v, ['delay', 'note', 'rate', 'depth', 'spread']) }),
  build: () => bent((p: { rate: number; depth: number; delay: number; spread: number; mix: number }) => ({ ...p, feedback: 0 })),
})

type BentParams = Parameters<ModulatedDelay['set']>[0]

const bent = <P>(read: (p: P) => BentParams) => adapted(new ModulatedDelay(), read)

export const modulations: readonly StageModel[] = [chorus, flanger, phaser, vibe, tremolo, rotary, vibrato]
export { doubler }
