import { AMBIENCE, HALL, NetworkTank, PlateTank, Reverb, ROOM, SpringTank } from '@fulgor/core/signal'
import { stage, unheardAtNoMix, type StageModel } from './model'
import { hertz, ms, noteValue, percent, seconds } from './params'

interface Entry {
  id: string
  name: string
  purpose: string
  substitute: string
  tags: string
  cost: number
  initial: { preDelay: number; decay: number; lowCut: number; highCut: number; density: number; modulation?: number; mix: number }
  decay?: readonly [min: number, max: number]
  /** Whether lows may decay otherwise. */
  crossover?: boolean
}

function reverb({ initial, decay = [0.2, 12], crossover = true, ...words }: Entry, build: () => Reverb): StageModel {
  return stage({
    ...words,
    family: 'reverb',
    charts: ['tail'],
    linear: true,
    headline: ['decay', 'mix'],
    sync: [
      { time: 'preDelay', note: 'preNote' },
      { time: 'decay', note: 'decayNote' },
    ],
    params: {
      preNote: noteValue('Pre-delay follows', 'free'),
      preDelay: ms({ label: 'Pre-delay', short: 'pre', min: 0, max: 250, initial: initial.preDelay }),
      decayNote: noteValue('Decay lasts', 'free', 's'),
      decay: seconds({ label: 'Decay', short: 'dec', min: decay[0], max: decay[1], initial: initial.decay }),
      lowCut: hertz({ label: 'Low cut', short: 'cut', min: 20, max: 1_000, initial: initial.lowCut }),
      highCut: hertz({ label: 'High cut', short: 'top', min: 1_000, max: 20_000, initial: initial.highCut }),
      ...(crossover
        ? {
            crossover: hertz({ label: 'Crossover', short: 'xover', min: 80, max: 1_000, initial: 250 }),
            lowDecay: percent({ label: 'Decay below it', short: 'low', max: 200, initial: 100, min: 30 }),
          }
        : {}),
      density: percent({ label: 'Density', short: 'dens', initial: initial.density }),
      modulation: percent({ label: 'Modulation', short: 'mod', initial: initial.modulation ?? 0 }),
      mix: percent({ label: 'Mix', initial: initial.mix }),
    },
    inert: unheardAtNoMix,
    build,
  })
}

export const reverbs: readonly StageModel[] = [
  reverb(
    {
      id: 'reverb.spring',
      name: 'Spring',
      purpose: 'The drip and boing of a combo’s tank; keep it short behind fast picking.',
      substitute: 'A spring reverb; its dwell stands for the send, so match by mix.',
      tags: 'surf amp splash drip vintage tank',
      cost: 52,
      initial: { preDelay: 0, decay: 2.2, lowCut: 120, highCut: 5_000, density: 65, mix: 20 },
      decay: [0.5, 6],
      crossover: false,
    },
    () => new Reverb(new SpringTank()),
  ),
  reverb(
    {
      id: 'reverb.plate',
      name: 'Plate',
      purpose: 'Dense from the first moment and bright: sits around a lead without pushing it back.',
      substitute: 'A plate reverb with the same decay in seconds.',
      tags: 'smooth bright studio lead vocal dense',
      cost: 47,
      initial: { preDelay: 12, decay: 1.8, lowCut: 180, highCut: 9_000, density: 100, mix: 18 },
    },
    () => new Reverb(new PlateTank()),
  ),
  reverb(
    {
      id: 'reverb.hall',
      name: 'Hall',
      purpose: 'A large room behind the tone, with a long and even decay.',
      substitute: 'A hall reverb; set its decay to the same seconds and start with its pre-delay at this value.',
      tags: 'large big long ambient church cathedral pad',
      cost: 16,
      initial: { preDelay: 24, decay: 2.1, lowCut: 160, highCut: 7_000, density: 80, mix: 16 },
    },
    () => new Reverb(new NetworkTank(HALL)),
  ),
  reverb(
    {
      id: 'reverb.room',
      name: 'Room',
      purpose: 'Walls close by: a place for a dry sound, little of it where tracks are layered.',
      substitute: 'A room reverb below one second.',
      tags: 'small natural short space live',
      cost: 21,
      initial: { preDelay: 4, decay: 0.7, lowCut: 140, highCut: 8_000, density: 70, mix: 20 },
      decay: [0.15, 3],
    },
    () => new Reverb(new NetworkTank(ROOM)),
  ),
  reverb(
    {
      id: 'reverb.ambience',
      name: 'Ambience',
      purpose: 'Early reflections with hardly a tail: takes the direct sound out of the headphones.',
      substitute: 'A room or ambience program at its shortest decay.',
      tags: 'short early reflections air space subtle depth',
      cost: 22,
      initial: { preDelay: 0, decay: 0.35, lowCut: 120, highCut: 9_000, density: 70, mix: 25 },
      decay: [0.1, 1],
    },
    () => new Reverb(new NetworkTank(AMBIENCE)),
  ),
]
