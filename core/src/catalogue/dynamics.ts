import { Compressor, Gate, type CompressorSettings } from '@fulgor/core/signal'
import { inertIf, stage, type StageModel } from './model'
import { choice, db, knob, ms, percent, ratio } from './params'

export const gate = stage({
  id: 'gate',
  name: 'Gate',
  family: 'gate',
  purpose: 'Silences hum and hiss between notes; set the threshold just above the noise of the guitar at rest.',
  substitute: 'Any noise gate with a threshold; match the release by ear on a stopped chord.',
  tags: 'noise hiss hum quiet silence stop tight',
  cost: 2,
  charts: ['gain'],
  linear: false,
  headline: ['threshold', 'hold'],
  params: {
    key: choice({
      label: 'Listens to',
      short: 'key',
      options: [
        ['own', 'Its own input'],
        ['dry', 'The dry guitar'],
      ],
      initial: 'own',
      change: 'glide',
    }),
    threshold: db({ label: 'Threshold', short: 'thr', min: -90, max: -20, initial: -58 }),
    hysteresis: db({ label: 'Hysteresis', short: 'hyst', min: 0, max: 20, initial: 6 }),
    attack: ms({ label: 'Attack', min: 0.1, max: 50, initial: 0.5, taper: 'log', step: 0.1 }),
    hold: ms({ label: 'Hold', min: 0, max: 500, initial: 40 }),
    release: ms({ label: 'Release', short: 'rel', min: 5, max: 1000, initial: 80, taper: 'log' }),
    range: db({ label: 'Range', min: 6, max: 90, initial: 60 }),
  },
  build: () => new Gate(),
})

const mix = () => percent({ label: 'Mix', initial: 100 })
const unheard = (values: Readonly<Record<string, unknown>>, keys: readonly string[]) =>
  inertIf(values.mix === 0, keys, 'The mix is at 0 %: nothing of the compressed sound is heard.')

const vca = stage({
  id: 'compressor.vca',
  name: 'Compressor',
  family: 'compressor',
  purpose: 'Holds the level together with exact threshold, ratio and times.',
  substitute: 'A studio-type compressor; where it shows no ratio, start with the least.',
  tags: 'squash sustain even snap funk clean limiter peaks',
  cost: 8,
  charts: ['gain'],
  linear: false,
  headline: ['threshold', 'ratio'],
  params: {
    threshold: db({ label: 'Threshold', short: 'thr', min: -60, max: 0, initial: -24 }),
    ratio: ratio({ label: 'Ratio', min: 1, max: 20, initial: 4 }),
    knee: db({ label: 'Knee', min: 0, max: 24, initial: 6 }),
    attack: ms({ label: 'Attack', min: 0.1, max: 200, initial: 10, taper: 'log', step: 0.1 }),
    release: ms({ label: 'Release', short: 'rel', min: 10, max: 2000, initial: 120, taper: 'log' }),
    mix: mix(),
  },
  inert: (values) => ({
    ...unheard(values, ['threshold', 'ratio', 'knee', 'attack', 'release']),
    ...inertIf(values.ratio === 1, ['threshold', 'knee', 'attack', 'release'], 'A ratio of 1 : 1 changes nothing.'),
  }),
  build: () => new Compressor<Omit<CompressorSettings, 'makeup'>>('peak', (p) => ({ ...p, makeup: 0 })),
})

const optical = stage({
  id: 'compressor.optical',
  name: 'Optical sustain',
  family: 'compressor',
  purpose: 'Lets clean notes ring: a lamp and a photocell, quick at first, slow to let go after long notes.',
  substitute: 'A compressor with a sustain knob; or ratio 4, slow release and make-up.',
  tags: 'smooth sustain slow gentle even clean ballad',
  cost: 12,
  charts: ['gain'],
  linear: false,
  headline: ['sustain', 'mix'],
  params: {
    sustain: knob({ label: 'Sustain', short: 'sus', initial: 5 }),
    attack: ms({ label: 'Attack', min: 1, max: 60, initial: 12, taper: 'log' }),
    mix: mix(),
  },
  inert: (values) => unheard(values, ['sustain', 'attack']),
  build: () =>
    new Compressor<{ sustain: number; attack: number; mix: number }>('optical', ({ sustain, attack, mix: share }) => ({
      threshold: -18 - 2.6 * sustain,
      ratio: 4,
      knee: 16,
      attack,
      release: 70,
      makeup: 1.5 * sustain,
      mix: share,
    })),
})

const bus = stage({
  id: 'compressor.bus',
  name: 'Bus compressor',
  family: 'compressor',
  purpose: 'Glues the whole sound at the end of the chain; two or three dB are enough.',
  substitute: 'A compressor with a slow attack at ratio 2, last in the chain.',
  tags: 'glue limiter peaks even mix',
  cost: 6,
  charts: ['gain'],
  linear: false,
  headline: ['threshold', 'ratio'],
  params: {
    threshold: db({ label: 'Threshold', short: 'thr', min: -50, max: 0, initial: -22 }),
    ratio: choice({
      label: 'Ratio',
      options: [
        ['2', '2 : 1'],
        ['4', '4 : 1'],
        ['10', '10 : 1'],
      ],
      initial: '2',
      change: 'glide',
    }),
    attack: ms({ label: 'Attack', min: 0.1, max: 60, initial: 30, taper: 'log', step: 0.1 }),
    release: ms({ label: 'Release', short: 'rel', min: 50, max: 1500, initial: 250, taper: 'log' }),
    mix: mix(),
  },
  inert: (values) => unheard(values, ['threshold', 'ratio', 'attack', 'release']),
  build: () =>
    new Compressor<{ threshold: number; ratio: string; attack: number; release: number; mix: number }>('rms', (p) => ({
      ...p,
      ratio: Number(p.ratio),
      knee: 8,
      makeup: 0,
    })),
})

export const compressors: readonly StageModel[] = [vca, optical, bus]
