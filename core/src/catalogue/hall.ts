import { Hall } from '@fulgor/core/signal'
import { stage } from './model'
import { hertz, ms, percent, seconds } from './params'

export const hall = stage({
  id: 'reverb.hall',
  name: 'Hall',
  family: 'reverb',
  purpose: 'A large room behind the tone, with a long and even decay.',
  substitute: 'A hall reverb; set its decay to the same seconds and start with its pre-delay at this value.',
  charts: ['tail'],
  linear: true,
  headline: ['decay', 'mix'],
  params: {
    preDelay: ms({ label: 'Pre-delay', short: 'pre', min: 0, max: 250, initial: 24 }),
    decay: seconds({ label: 'Decay', short: 'dec', min: 0.2, max: 12, initial: 2.1 }),
    lowCut: hertz({ label: 'Low cut', short: 'cut', min: 20, max: 1_000, initial: 160 }),
    highCut: hertz({ label: 'High cut', short: 'top', min: 1_000, max: 20_000, initial: 7_000 }),
    mix: percent({ label: 'Mix', initial: 16 }),
  },
  build: () => new Hall(),
})
