import { Gate } from '@fulgor/core/signal'
import { stage } from './model'
import { db, ms } from './params'

export const gate = stage({
  id: 'gate',
  name: 'Gate',
  family: 'gate',
  purpose: 'Silences hum and hiss between notes; set the threshold just above the noise of the guitar at rest.',
  substitute: 'Any noise gate with a threshold; match the release by ear on a stopped chord.',
  charts: ['transfer'],
  linear: false,
  headline: ['threshold', 'hold'],
  params: {
    threshold: db({ label: 'Threshold', short: 'thr', min: -90, max: -20, initial: -58 }),
    hysteresis: db({ label: 'Hysteresis', short: 'hyst', min: 0, max: 20, initial: 6 }),
    attack: ms({ label: 'Attack', min: 0.1, max: 50, initial: 0.5, taper: 'log', step: 0.1 }),
    hold: ms({ label: 'Hold', min: 0, max: 500, initial: 40 }),
    release: ms({ label: 'Release', short: 'rel', min: 5, max: 1000, initial: 80, taper: 'log' }),
    range: db({ label: 'Range', min: 6, max: 90, initial: 60 }),
  },
  build: () => new Gate(),
})
